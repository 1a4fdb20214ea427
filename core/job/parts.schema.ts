import { z } from 'zod'
import { loadTechnologies } from '../fit/words'
import { idSchema } from '../stream/command-envelope'
import { foundBoxSchema } from '../wiring/identify/found-box-schema'
import { name } from '../stream/words.schema'

export { name, note } from '../stream/words.schema'

export const when = z.iso.datetime({ offset: true })

export const gang = z.int().min(1).max(6)

export const loadSchema = z.object({
  technology: z.enum(loadTechnologies),
  lamps: z.int().min(1).max(60).default(1),
  wattsEach: z.number().min(0).max(3000),
  dimmable: z.boolean().default(false),
})

export const controlSchema = z.object({ boxId: idSchema, gang })

export const pointSchema = z.object({
  id: idSchema,
  roomId: idSchema,
  name,
  load: loadSchema,
  controls: z.array(controlSchema).min(1).max(6),
  /** The box at its fixture, where somebody recorded one: a relay may sit there. */
  fixtureBoxId: idSchema.nullable().default(null),
  /** A motor that must not stay off. */
  mustRun: z.boolean().default(false),
})

export type LightPoint = z.infer<typeof pointSchema>

export const signalSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('dbm'), dbm: z.int().min(-120).max(-10) }),
  z.object({ kind: z.literal('bars'), bars: z.int().min(0).max(5) }),
])

export const visitTimes = {
  startsAt: when,
  endsAt: when,
  windowFrom: when,
  windowTo: when,
  personIds: z.array(idSchema).min(1).max(6),
  /** Said after it was asked: somebody is on two visits at once, and that is meant. */
  alsoBooked: z.boolean().default(false),
}

export const setupCode = { setupCode: z.string().max(60).default(''), setupCodeAgain: z.string().max(60).default('') }

export const serial = z.string().trim().min(3, 'A serial has at least 3 characters.').max(60)

/** What one notes of a box before anything is undone. Colours, cables and breakers come from the site's record. */
export const foundNotesSchema = foundBoxSchema.pick({
  farSwitches: true,
  splices: true,
  oldSwitches: true,
  complete: true,
  wiredYear: true,
  guards: true,
})

/** What was seen with everything standing in one way. */
export const observationSchema = z.object({
  positions: z.record(z.string().max(12), z.int().min(0).max(7)),
  lights: z.record(z.string().max(12), z.enum(['on', 'dim', 'glow', 'off'])),
  trips: z.array(z.string().max(12)).max(3),
})

/** A setup code as stored: sealed for the record, with its last two characters to recognise it by. */
export const storedCodeSchema = z.object({
  kind: z.enum(['manual', 'qr', 'plain', 'none']),
  sealed: z.string().nullable(),
  ending: z.string(),
  checked: z.enum(['checkDigit', 'payload', 'typedTwice', 'none']),
})
export type StoredCode = z.infer<typeof storedCodeSchema>
