import { outcomeOf, outcomeWords, type WireReading } from '../../core/wiring'

/** An end of a reading, in words. */
export const endWord = (end: string) => (end === 'REF' ? 'ground' : end)

/** What was read, in words. */
export function readingWord({ kind, value }: WireReading): string {
  if (kind === 'contactless') return outcomeWords.contactless[outcomeOf('contactless', value, 1)]!
  if (kind === 'voltage') return `${value.toFixed(1)} V`
  return value >= 50_000 ? 'open' : `${value < 10 ? value.toFixed(1) : Math.round(value)} Ω`
}

/** A number somebody typed, with point or comma; null: none. */
export function decimal(text: string): number | null {
  const value = text.trim() === '' ? NaN : Number(text.replace(',', '.'))
  return Number.isFinite(value) && value >= 0 ? value : null
}
