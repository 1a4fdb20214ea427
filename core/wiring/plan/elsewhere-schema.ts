import { z } from 'zod'
import { letter } from '../../units/letter'
import type { OtherLocationStep } from './other-location-words'

/** What a plan wants done at another location, as it is stored with the plan. */
export const otherLocationStepSchema: z.ZodType<OtherLocationStep> = z.object({
  far: z.number().nullable(),
  work: z.discriminatedUnion('does', [
    z.object({ does: z.enum(['spliceChain', 'spliceStraps', 'licensedOnly', 'noSwitch']) }),
    z.object({ does: z.literal('spliceCommon'), through: letter }),
    z.object({
      does: z.literal('plainSwitch'),
      line: letter.nullable(),
      through: letter.nullable(),
      common: letter.nullable(),
      sense: letter.nullable(),
    }),
    z.object({ does: z.literal('companion'), sense: letter.nullable(), neutral: letter.nullable() }),
    z.object({ does: z.literal('partner'), sense: letter.nullable() }),
    z.object({ does: z.literal('cap'), letters: z.array(letter) }),
    z.object({ does: z.literal('fixtureRelay'), letter }),
  ]),
})
