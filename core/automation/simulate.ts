import { automationFindings, type AutomationFinding } from './findings'
import type { Telling } from './describe'
import type { AutomatedHome, HomeDevice } from './home'
import { byItself, playDays, type Played } from './play'
import { programOf } from './program'
import { worldOf } from './world'
import { homeDays, type HomeDay } from './year'

/** A year of a home, as it was played, and what went wrong in it. */
export interface SimulatedYear {
  days: HomeDay[]
  played: Played
  findings: AutomationFinding[]
}
const yearDays = 365

/**
 * @param from first day, 2026-11-28
 * @param telling how times and degrees in sentences are written
 * @param seed the people, the weather and the failures of this year
 */
export function simulateYear(home: AutomatedHome, from: string, seed: number, telling?: Telling): SimulatedYear {
  const year = homeDays(from, yearDays, home.zone, home.position)
  const world = worldOf(home, year, seed)
  // Clocks that do too much for a year are played for as many days as can be.
  let days = year
  let program = programOf(home, days)
  while (program.full && days.length > 1) {
    days = days.slice(0, Math.ceil(days.length / 4))
    program = programOf(home, days)
  }
  const played = playDays(home, days, world, program)
  if (days.length < year.length) played.cutShort = true
  return { days, played, findings: automationFindings(home, days, program, played, telling) }
}

/** Minutes that each device is on, by day: a row for each device. */
export function minutesOn({ played, days }: Pick<SimulatedYear, 'played' | 'days'>, devices: readonly HomeDevice[]): Uint16Array[] {
  const rows = devices.map(() => new Uint16Array(days.length))
  const spans = onSpans(played, devices)
  spans.forEach((own, device) => {
    let day = 0
    for (const { from, to } of own) {
      while (day + 1 < days.length && days[day + 1]!.midnight <= from) day++
      for (let at = day; at < days.length && days[at]!.midnight < to; at++) {
        const ends = days[at + 1]?.midnight ?? Infinity
        rows[device]![at]! += Math.round((Math.min(to, ends) - Math.max(from, days[at]!.midnight)) / 60)
      }
    }
  })
  return rows
}
export interface OnSpan {
  from: number
  to: number
  level: number
  /** Who switched it on. */
  by: number
  /** Who switched it off; null: it is on at the end. */
  endedBy: number | null
}
/** When each device is on. What must run is on when the year begins. */
export function onSpans({ changes, from, to }: Played, devices: readonly HomeDevice[]): OnSpan[][] {
  const spans: OnSpan[][] = devices.map(() => [])
  const open = devices.map(({ behaviour }): OnSpan | null =>
    behaviour.mustRun ? { from, to, level: 100, by: byItself, endedBy: null } : null,
  )
  for (const { device, at, on, level, by } of changes) {
    const running = open[device]
    if (running) spans[device]!.push({ ...running, to: at, endedBy: by })
    open[device] = on ? { from: at, to, level, by, endedBy: null } : null
  }
  open.forEach((running, device) => running && spans[device]!.push(running))
  return spans
}
