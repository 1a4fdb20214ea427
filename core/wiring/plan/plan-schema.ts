import { z } from 'zod'
import { terminalKeys } from '../../fit'
import { letter } from '../../units/letter'
import { oldTerminals, otherLocations } from './plan-terms'

const planEnd = z.string().regex(/^([A-Z]{1,2}|gang[1-6]:[a-zA-Z0-9]{1,12}|old[1-6]:[a-z0-9]{1,8})$/)
/** How a box is to be wired: which conductor goes on which terminal, what is spliced, what is capped. */
export const wiringPlanSchema = z.object({
  devices: z
    .array(z.object({ gang: z.int().min(1).max(6), terminals: z.partialRecord(z.enum(terminalKeys), z.array(letter).max(6)) }))
    .max(6),
  splices: z
    .array(
      z.object({
        letters: z.array(letter).min(2).max(8),
        /** How many of these the connector is listed for; null: not looked up. */ holds: z.int().min(1).max(12).nullable().default(null),
        /** The connector of the branch's list, if it is one. */ connector: z.string().max(40).optional(),
      }),
    )
    .max(10),
  capped: z.array(letter).max(30),
  /** Old switches that stay, to be heard by a device behind them, and what is on their terminals. */
  kept: z
    .array(z.object({ old: z.int().min(1).max(6), terminals: z.partialRecord(z.enum(oldTerminals), z.array(letter).max(6)) }))
    .max(6)
    .default([]),
  /** Short pieces of wire between terminals, or from a conductor's connector to a terminal. */
  jumpers: z
    .array(z.object({ from: planEnd, to: planEnd }))
    .max(16)
    .default([]),
  /** What is done at the other locations of a 3-way. */
  elsewhere: z
    .array(
      z.object({
        /** Which one; 2: the 4-way and the 3-way behind it, as one chain. */
        far: z.int().min(0).max(2),
        becomes: z.enum(otherLocations),
        /** Spliced to the common there, so that it carries what the common carried. */ through: letter.nullable(),
        /** The conductor the device here listens on. */ sense: letter.nullable(),
        /** The neutral a companion finds there. */ neutral: letter.nullable().default(null),
      }),
    )
    .max(2)
    .default([]),
  /** Relays at fixtures: the conductor that feeds each, and the input of a sender that moves it. */
  fixtureRelays: z
    .array(z.object({ letter, gang: z.int().min(1).max(6), input: z.enum(terminalKeys) }))
    .max(6)
    .default([]),
  /** Which point of the job each light conductor feeds. */
  feeds: z
    .array(z.object({ letter, pointId: z.uuid() }))
    .max(12)
    .default([]),
})
export type WiringPlan = z.infer<typeof wiringPlanSchema>
