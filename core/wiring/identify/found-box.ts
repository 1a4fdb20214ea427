import { z } from 'zod'

const letter = z.string().regex(/^[A-Z]{1,2}$/)

export const oldContacts = ['single', 'threeWay', 'fourWay', 'other'] as const
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
})
export type FoundBox = z.infer<typeof foundBoxSchema>

const earthMarks = new Set(['bare', 'green', 'green-yellow'])
/**
 * Bare, green or green-yellow. Neutral and ground are one metal at the panel, so no meter at the box tells them apart:
 * the mark is taken for what it says until a reading contradicts it. It never makes anything a line or a neutral.
 */
export const isEarthMarked = (colour: string) => earthMarks.has(colour)

export const readingKinds = ['continuity', 'voltage', 'contactless'] as const
/** One reading. Voltages are taken with low impedance; `REF` is the proven ground. */
export const wireReadingSchema = z.object({
  kind: z.enum(readingKinds),
  a: letter,
  b: z.string().regex(/^(REF|[A-Z]{1,2})$/),
  /** Circuits whose breaker was closed. */
  closed: z.array(z.string()).max(3),
  /** Position of each other switch, 0 or 1. */
  far: z.array(z.int().min(0).max(1)).max(2),
  /** Ohms (no continuity: 1e9), volts, or 0/1 for a non-contact tester. */
  value: z.number().min(0).max(1e9),
})
export type WireReading = z.infer<typeof wireReadingSchema>
export type WireTest = Omit<WireReading, 'value'>

/** Outcomes, as bits. */
export const seen = {
  continuity: { closed: 1, load: 2, open: 4 },
  voltage: { zero: 1, between: 2, nominal: 4, double: 8 },
  contactless: { dark: 1, lit: 2 },
} as const
export const allOutcomes = { continuity: 7, voltage: 15, contactless: 3 } as const

/**
 * What a reading says, as a bit. Below 3 Ω is metal (cable and probes), above 50 kΩ is open; a voltage within
 * −15 % … +12 % is nominal, 1.6 to 2.2 times is between two legs or phases (√3 and 2). Common practice, no source.
 */
export function outcomeOf(kind: WireReading['kind'], value: number, nominalVolts: number): number {
  if (kind === 'continuity') return value < 3 ? 1 : value < 50_000 ? 2 : 4
  if (kind === 'contactless') return value > 0 ? 2 : 1
  const share = value / nominalVolts
  if (share < 0.1) return 1
  if (share >= 0.85 && share <= 1.12) return 4
  if (share >= 1.6 && share <= 2.2) return 8
  return 2
}
export const outcomeWords: Record<WireReading['kind'], Record<number, string>> = {
  continuity: { 1: 'it beeps', 2: 'some ohms, through a lamp or motor', 4: 'open' },
  voltage: { 1: 'nothing', 2: 'something in between', 4: 'full voltage', 8: 'voltage between two legs' },
  contactless: { 1: 'dark', 2: 'lit' },
}
export const testKey = (test: WireTest) => {
  const [first, second] = test.b !== 'REF' && test.b < test.a ? [test.b, test.a] : [test.a, test.b]
  return `${test.kind} ${first} ${second} ${[...test.closed].sort().join('+')} ${test.far.join('')}`
}
