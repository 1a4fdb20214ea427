import type { z } from 'zod'
import { roundTo } from '../../units/round'
import type { foundBoxSchema, wireReadingSchema } from './found-box-schema'

/**
 * Neutral and ground are one metal at the panel, so no meter at the box tells them apart: the earth mark is taken for what
 * it says until a reading contradicts it. It never makes anything a line or a neutral.
 */
export { isEarthMarked } from '../../units/earth-mark'

export * from './found-box-words'
export type AsFoundBox = z.infer<typeof foundBoxSchema>
export type WireReading = z.infer<typeof wireReadingSchema>

export type WireTest = Omit<WireReading, 'value'>

/** Outcomes, as bits. */
export const seen = {
  continuity: { closed: 1, load: 2, open: 4, low: 8 },
  voltage: { zero: 1, between: 2, nominal: 4, double: 8 },
  voltageHigh: { zero: 1, between: 2, nominal: 4, double: 8 },
  contactless: { dark: 1, lit: 2 },
} as const
export const allOutcomes = { continuity: 15, voltage: 15, voltageHigh: 15, contactless: 3 } as const

/**
 * What a reading says, as a bit. Below 0.6 Ω is metal; up to 3 Ω it may be metal, a long cable and probes, or a heater, or ten
 * filament lamps, which are cold a twelfth of what they are lit; above 50 kΩ is open; a voltage within
 * −15 % … +12 % is nominal, 1.6 to 2.2 times is between two legs or phases (√3 and 2). Common practice, no source.
 */
export function outcomeOf(kind: WireReading['kind'], value: number, nominalVolts: number): number {
  if (kind === 'continuity') return value < 0.6 ? 1 : value < 3 ? 8 : value < 50_000 ? 2 : 4
  if (kind === 'contactless') return value > 0 ? 2 : 1
  const share = value / nominalVolts
  if (share < 0.1) return 1
  if (share >= 0.85 && share <= 1.12) return 4
  if (share >= 1.6 && share <= 2.2) return 8
  return 2
}
export const outcomeWords: Record<WireReading['kind'], Record<number, string>> = {
  continuity: { 1: 'it beeps', 2: 'some ohms, through a lamp or motor', 4: 'open', 8: '1–3 Ω: metal, a heater or many lamps' },
  voltage: { 1: 'nothing', 2: 'something in between', 4: 'full voltage', 8: 'voltage between two legs' },
  voltageHigh: { 1: 'nothing', 2: 'something in between', 4: 'full voltage', 8: 'voltage between two legs' },
  contactless: { 1: 'dark', 2: 'lit' },
}
/** What was read, in words. */
export function readingWord({ kind, value }: Pick<WireReading, 'kind' | 'value'>): string {
  if (kind === 'contactless') return outcomeWords.contactless[outcomeOf(kind, value, 1)]!
  if (kind === 'voltage') return `${roundTo(value, 1)} V`
  if (kind === 'voltageHigh') return `${roundTo(value, 1)} V, high impedance`
  return value >= 50_000 ? 'open' : `${roundTo(value, 1)} Ω`
}
export const testKey = (test: WireTest) => {
  const [first, second] = test.b !== 'REF' && test.b < test.a ? [test.b, test.a] : [test.a, test.b]
  return `${test.kind} ${first} ${second} ${[...test.closed].sort().join('+')} ${test.far.join('')}${test.old ? ` attached ${test.old.join('')}` : ''}`
}
