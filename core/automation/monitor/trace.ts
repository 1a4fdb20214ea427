import { tableIn } from '../../format/cells'

/** What a device took, over time: seconds since 1970 and watts, in the order of time. */
export interface PowerTrace {
  at: number[]
  watts: number[]
}
/** So many readings are taken at most: a month by the minute. */
const mostReadings = 50_000
const fewest = 30

/**
 * Reads a table of power: a column of times (ISO 8601, or seconds or milliseconds since 1970) and one of watts, found by their
 * heads. Readings that are none are left out and counted.
 * @returns the trace, or a sentence
 */
export function readTrace(text: string): { trace: PowerTrace; left: number } | string {
  const { rows: table, fields: heads } = tableIn(text, mostReadings + 1)
  const time = heads.find((head) => /^(time|timestamp|date|at|when)\b/.test(head))
  const power = heads.find((head) => /^(watts?|power|w)\b/.test(head))
  if (!time || !power) return 'The table needs a column “time” and a column “watts”.'
  if (table.length > mostReadings) return `The table has more than ${mostReadings} readings: a month by the minute is enough.`
  const rows: { at: number; watts: number }[] = []
  let below = 0
  for (const row of table) {
    const at = instantOf(row[time] ?? '')
    const said = (row[power] ?? '').trim().replace(',', '.')
    const watts = said === '' ? NaN : Number(said)
    if (watts < 0) below++
    if (at !== null && Number.isFinite(watts) && watts >= 0 && watts < 100_000) rows.push({ at, watts })
  }
  if (below > rows.length)
    return 'Most of it is below zero: the clamp of the meter sits the wrong way around, or it measures what comes in.'
  if (rows.length < fewest) return `Only ${rows.length} readings could be read; ${fewest} are needed.`
  rows.sort((a, b) => a.at - b.at)
  // Of two readings of one instant the first counts.
  const kept = rows.filter(({ at }, index) => index === 0 || at > rows[index - 1]!.at)
  return { trace: { at: kept.map(({ at }) => at), watts: kept.map(({ watts }) => watts) }, left: table.length - kept.length }
}
/** Seconds since 1970, of a text that counts seconds or milliseconds; null: it counts neither. */
export function epochIn(text: string): number | null {
  const said = text.trim()
  if (!/^\d{9,14}(\.\d+)?$/.test(said)) return null
  const number = Number(said)
  return number > 1e11 ? number / 1000 : number
}
function instantOf(text: string): number | null {
  const at = Date.parse(text.trim())
  return epochIn(text) ?? (Number.isNaN(at) ? null : at / 1000)
}
