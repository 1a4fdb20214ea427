import { z } from 'zod'
import { moneySettingsSchema } from '../money/settings'
import { schoolIds } from '../plan/words'
import { loopShares } from '../verification/words'
import { daySettingsSchema } from './day-settings'
import { localeIds } from './region'

/** How a branch works where the schools of the trade differ. Defaults: common practice, no source. */
export const branchSettingsSchema = z.object({
  /** How times, dates and numbers are written; null: as is usual under the supply. */
  locale: z.enum(localeIds).nullable().default(null),
  connectionOrder: z
    .enum(['groundNeutralLoadLine', 'groundLoadLineNeutral', 'loadLineNeutralGround', 'any'])
    .default('groundNeutralLoadLine'),
  twistFirst: z.boolean().default(false),
  tapeConnectors: z.boolean().default(false),
  keepPlateOff: z.boolean().default(true),
  pairingSchool: z.enum(['makerFirst', 'platformFirst', 'platformOnly']).default('makerFirst'),
  necEdition: z.enum(['2017', '2020', '2023']).default('2020'),
  /** After this a proof has to be made again, minutes. Common practice, no source. */
  proofLimitMinutes: z.int().min(15).max(480).default(120),
  /** Every pair of conductors in a dead test, besides each against the reference. Schools differ; a company decides. */
  proofEveryPair: z.boolean().default(false),
  /** Functional tests with the wires out, while a circuit is on for a moment; they are asked again after closing. Schools differ. */
  testsWiresOut: z.boolean().default(false),
  /** How much of the limit of a loop a cold circuit may show, 230 V: two thirds by the annex of IEC 60364-6, or 0.8. Schools differ. */
  loopShare: z.enum(loopShares).default('annex'),
  /** Connectors on the van, and how many conductors of a gauge each is listed for. Nothing is assumed: the maker's listing is typed in. */
  connectors: z
    .array(
      z.object({
        name: z.string().trim().min(1).max(40),
        /** By gauge as the branch writes it, such as 14 AWG or 1.5 mm². */
        holds: z.record(z.string().max(10), z.int().min(1).max(12)),
      }),
    )
    .max(20)
    .default([]),
  /** Rates, taxes, rounding. */
  money: moneySettingsSchema.prefault({}),
  /** How solutions are weighed where nothing else is chosen. */
  school: z.enum(schoolIds).default('switches'),
  /** Shift, rest, store. */
  day: daySettingsSchema.prefault({}),
})
export type BranchSettings = z.infer<typeof branchSettingsSchema>
