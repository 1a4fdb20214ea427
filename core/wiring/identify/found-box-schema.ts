import { z } from 'zod'
import { letter } from '../../units/letter'
import { oldContacts, readingKinds } from './found-box-words'

/** A box as it was found: what one sees before anything is undone. */
export const foundBoxSchema = z.object({
  nominalVolts: z.number().min(90).max(260),
  /** Circuits that may be in it: the breakers the record knows, by number. */
  circuits: z.array(z.string().min(1).max(12)).min(1).max(3),
  /** Other places that switch a light of this box: each has a switch that can be flipped. */
  farSwitches: z.int().min(0).max(2),
  cables: z
    .array(
      z.object({
        id: z.string().min(1).max(40),
        cores: z
          .array(z.object({ letter, colour: z.string() }))
          .min(1)
          .max(5),
      }),
    )
    .min(1)
    .max(5),
  splices: z.array(z.array(letter).min(2).max(8)).max(8),
  /** Old switches and which conductor was on which terminal. */
  oldSwitches: z
    .array(
      z.object({
        contacts: z.enum(oldContacts),
        /** single: a, b · threeWay: common, t1, t2 · fourWay: a1, a2, b1, b2. */
        terminals: z.record(z.string(), z.array(letter)),
      }),
    )
    .max(6),
  /** Splices and terminals are noted completely: a conductor on neither was loose or capped. */
  complete: z.boolean(),
  /** When this box was wired, if anybody knows: orders the tests, decides nothing. */
  /** What watches a circuit besides overcurrent, and its rating; missing: nothing, 15 A. */
  guards: z.record(z.string().max(12), z.enum(['none', 'residualCurrent', 'arcFault'])).optional(),
  amps: z.record(z.string().max(12), z.number().positive().max(400)).optional(),
  wiredYear: z.int().min(1850).max(2100).nullable().optional(),
})

/** One reading. `voltage` is taken with low impedance, `voltageHigh` with a meter that shows ghosts too; `REF` is the proven ground. */
export const wireReadingSchema = z.object({
  kind: z.enum(readingKinds),
  a: letter,
  b: z.string().regex(/^(REF|[A-Z]{1,2})$/),
  /** Circuits whose breaker was closed. */
  closed: z.array(z.string()).max(3),
  /** Position of each other switch, 0 or 1. */
  far: z.array(z.int().min(0).max(1)).max(2),
  /** Positions of the old switches, when they were still attached; missing: the conductors were apart. Single-pole: 1 is on. */
  old: z.array(z.int().min(0).max(1)).min(1).max(6).optional(),
  /** Ohms (no continuity: 1e9), volts, or 0/1 for a non-contact tester. */
  value: z.number().min(0).max(1e9),
})
