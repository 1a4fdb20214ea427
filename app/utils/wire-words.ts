import { typedNumber } from './typed-number'
/** An end of a reading, in words. */
export const endWord = (end: string) => (end === 'REF' ? '{ground}' : end)

/** A number somebody typed, with point or comma; null: none. */
export function decimal(text: string): number | null {
  const value = typedNumber(text)
  return Number.isFinite(value) && value >= 0 ? value : null
}
