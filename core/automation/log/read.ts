import { DateTime } from 'luxon'
import { tableIn } from '../../format/cells'
import { epochIn } from '../monitor/trace'

/** Something that a device did, or was found doing, by the log of an app or a hub. */
export interface LogRow {
  /** Seconds since 1970. */
  at: number
  device: string
  /** Null: it could not be reached from then on. */
  on: boolean | null
  /** Who or what it was, as the log says it; empty: it does not. */
  by: string
}
export interface SwitchingLog {
  /** In the order of time. */
  rows: LogRow[]
  /** As they are called in the log, the busiest first. */
  devices: string[]
  /** Lines that could not be read. */
  left: number
}

/** So many lines are taken at most: a busy home for a year. */
const mostLines = 50_000
const states: Record<string, boolean | null> = {
  ...{ on: true, true: true, '1': true, open: true, 'turned on': true, 'switched on': true },
  ...{ off: false, false: false, '0': false, closed: false, 'turned off': false, 'switched off': false },
  ...{ unavailable: null, unreachable: null, offline: null, 'not responding': null, 'no response': null },
}
const stateOf = (said: string): boolean | null | undefined => {
  const word = said.trim().toLowerCase()
  if (word in states) return states[word]
  // A level: of nothing it is off.
  const level = /^(\d+([.,]\d+)?) ?%?$/.exec(word)
  return level ? Number(level[1]!.replace(',', '.')) > 0 : undefined
}

/** @returns seconds since 1970; null: no time. One without a zone is of the clock of the home. */
function instantIn(text: string, zone: string): number | null {
  const said = text.trim()
  const counted = epochIn(said)
  if (counted !== null) return counted
  const at = DateTime.fromISO(said.replace(/^(\d{4}-\d{2}-\d{2}) +/, '$1T').replace(/ +(Z|[+-]\d{2}:?\d{2})$/, '$1'), { zone })
  return at.isValid ? at.toSeconds() : null
}

/**
 * Reads a log of switchings: a table with columns of time, device and state, and perhaps of who did it, found by their heads. A
 * device that says again what it said before has not switched: such lines are passed over.
 * @param zone of the home
 * @returns the log, or a sentence
 */
export function readSwitchings(text: string, zone: string): SwitchingLog | string {
  const { rows: table, fields } = tableIn(text, mostLines + 1)
  const column = (pattern: RegExp) => fields.find((head) => pattern.test(head))
  const time = column(/^(time|timestamp|date|at|when|last.?changed)\b/)
  const device = column(/^(device|entity|name|what|switch)\b/)
  const state = column(/^(state|value|status|on)\b/)
  const by = column(/^(by|who|source|user|cause|context|trigger)\b/)
  if (!time || !device || !state) return 'The table needs the columns “time”, “device” and “state”; one called “by” helps.'
  if (table.length > mostLines) return `The table has more than ${mostLines} lines: take fewer days.`
  const read = table.flatMap((row): LogRow[] => {
    const at = instantIn(row[time] ?? '', zone)
    const on = stateOf(row[state] ?? '')
    const name = (row[device] ?? '').trim()
    return at === null || on === undefined || !name ? [] : [{ at, device: name, on, by: by ? (row[by] ?? '').trim() : '' }]
  })
  if (read.length < 2) return 'No switching could be read: times as 2026-11-28 18:05:00, states as on and off.'
  read.sort((a, b) => a.at - b.at)
  const before = new Map<string, boolean | null>()
  const rows = read.filter(({ device: name, on }) => {
    const same = before.has(name) && before.get(name) === on
    before.set(name, on)
    return !same
  })
  const counts = new Map<string, number>()
  for (const row of rows) counts.set(row.device, (counts.get(row.device) ?? 0) + 1)
  const devices = [...counts].sort((a, b) => b[1] - a[1]).map(([name]) => name)
  return { rows, devices, left: table.length - read.length }
}
