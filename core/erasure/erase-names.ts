import type { StreamEvent } from '../stream'
import { erasedWord } from './words'

/** Where entries name people of a household: `*` is every one of a list. */
const peopleIn: Record<string, readonly string[]> = {
  memberNoted: ['name'],
  habitsSet: ['habits.people.*.name'],
  handoverSigned: ['signer'],
  planSold: ['signer'],
  absentEnded: ['household.name'],
}
const at = (value: unknown, [name, ...further]: string[]): string[] => {
  if (name === undefined) return typeof value === 'string' ? [value] : []
  if (typeof value !== 'object' || value === null) return []
  if (name === '*') return Array.isArray(value) ? value.flatMap((one) => at(one, further)) : []
  return at((value as Record<string, unknown>)[name], further)
}
/** Everybody of the household whom these entries name. */
export const peopleNamed = (events: StreamEvent[]): string[] =>
  [...new Set(events.flatMap(({ type, payload }) => (peopleIn[type] ?? []).flatMap((path) => at(payload, path.split('.')))))].filter(
    (name) => name !== '' && name !== erasedWord,
  )

/** Words of a name that say nothing of anybody. */
const plainWords = new Set([
  'the',
  'and',
  'van',
  'von',
  'der',
  'den',
  'del',
  'mrs',
  'miss',
  'junior',
  'senior',
  'house',
  'family',
  'home',
  'trading',
  'company',
  'school',
  'ltd',
])
const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
/** A word by itself may be a word of the program, too, or of the trade: it counts only as a name is written. */
const isOneWord = (text: string) => /^[\p{L}’'-]+$/u.test(text)
const asWritten = /^\p{Lu}[\p{L}’'-]{2,}$/u
/** However it is written. */
function anyhow(text: string): string {
  const digits = text.replace(/\D/g, '')
  // A telephone is written in groups as one likes.
  if (digits.length >= 6 && /^[\d\s()+./-]+$/.test(text)) return [...digits].join('[\\s()./-]*')
  const either = (sign: string) =>
    sign.toLowerCase() === sign.toUpperCase() ? escaped(sign) : `[${sign.toLowerCase()}${sign.toUpperCase()}]`
  return [...text].map(either).join('')
}
/**
 * What stands for somebody in a text: the whole of what they are called or reached by, however it is written, and each word of a
 * name as a name is written, with a large letter: who is called Hall leaves the hall its name, and who is called open the word open.
 * @param names of people @param others telephone, mail, address: as a whole
 * @returns null where there is nothing to look for
 */
export function namesPattern(names: string[], others: string[]): RegExp | null {
  const whole = [...names, ...others].map((one) => one.trim()).filter((one) => one.length >= 3)
  const words = [...names.flatMap((name) => name.split(/[\s,]+/)), ...whole.filter(isOneWord)].filter(
    (word) => asWritten.test(word) && !plainWords.has(word.toLowerCase()),
  )
  const longer = whole.filter((one) => !isOneWord(one)).map(anyhow)
  const all = [...new Set([...longer.sort((a, b) => b.length - a.length), ...words.map(escaped)])]
  return all.length ? new RegExp(`(?<![\\p{L}\\p{N}])(?:${all.join('|')})(?![\\p{L}\\p{N}])`, 'gu') : null
}

/**
 * An entry in whose texts these names do not stand any more.
 * @param stillSays whether an entry says what its kind says: one that would not is left as it is
 * @returns the same one where they never stood
 */
export function withoutNames(
  event: StreamEvent,
  pattern: RegExp | null,
  stillSays: (event: StreamEvent) => boolean = () => true,
): StreamEvent {
  if (!pattern) return event
  let found = false
  const sweep = (value: unknown): unknown => {
    if (typeof value === 'string') {
      const left = value.replace(pattern, erasedWord)
      found ||= left !== value
      return left
    }
    if (Array.isArray(value)) return value.map(sweep)
    return typeof value === 'object' && value !== null
      ? Object.fromEntries(Object.entries(value).map(([key, one]) => [key, sweep(one)]))
      : value
  }
  const payload = sweep(event.payload)
  const left = { ...event, payload } as StreamEvent
  return found && stillSays(left) ? left : event
}
