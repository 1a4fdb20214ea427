import { tellingIn } from '../../core/automation/describe'
import type { AutomationFinding } from '../../core/automation/findings'
import type { AutomatedHome } from '../../core/automation/home'
import { minutesOn, onSpans, simulateYear, type OnSpan, type SimulatedYear } from '../../core/automation/simulate'
import type { LocaleId } from '../../core/units/region'
import type { SchemeId } from '../../core/units/scheme'
import { answers } from './answers'

/** A year of a home, played away from the page: what goes wrong in it, the year as a map, and one day as lanes. */
export interface AutomationTalk {
  question: {
    home: AutomatedHome
    /** First day of the year, and which year of chance. */
    from: string
    seed: number
    locale: LocaleId
    schemeId: SchemeId
    /** Of one device; null: of all of them. */
    deviceId: string | null
    /** The day that is looked at; null: none. */
    date: string | null
  }
  answer: {
    findings: AutomationFinding[]
    year: { date: string; hours: number }[]
    day: DayOfHome | null
    /** Routines that ran at least once. */
    ran: number
  }
}
export interface DayOfHome {
  date: string
  midnight: number
  length: number
  sunrise: number | null
  sunset: number | null
  lanes: { deviceId: string; spans: OnSpan[] }[]
}

let known: { asked: string; year: SimulatedYear } | null = null
answers<AutomationTalk>(({ home, from, seed, locale, schemeId, deviceId, date }) => {
  const asked = JSON.stringify({ home, from, seed, locale, schemeId })
  if (known?.asked !== asked) known = { asked, year: simulateYear(home, from, seed, tellingIn(schemeId, locale)) }
  const { days, played, findings } = known.year
  const rows = minutesOn(known.year, home.devices).filter((_, index) => deviceId === null || home.devices[index]!.id === deviceId)
  const index = days.findIndex((one) => one.date === date)
  return {
    findings,
    ran: played.ran.filter(Boolean).length,
    year: days.map((day, at) => ({ date: day.date, hours: Math.round(rows.reduce((sum, row) => sum + row[at]!, 0) / 6) / 10 })),
    day: index < 0 ? null : dayOf(home, known.year, index),
  }
})

function dayOf({ devices }: AutomatedHome, { days, played }: SimulatedYear, index: number): DayOfHome {
  const { date, midnight, sunrise, sunset } = days[index]!
  const ends = days[index + 1]?.midnight ?? midnight + 86_400
  const spans = onSpans(played, devices)
  return {
    ...{ date, midnight, length: ends - midnight, sunrise, sunset },
    lanes: devices.map(({ id }, at) => ({
      deviceId: id,
      spans: spans[at]!.filter(({ from, to }) => from < ends && to > midnight).map((span) => ({
        ...span,
        from: Math.max(span.from, midnight),
        to: Math.min(span.to, ends),
      })),
    })),
  }
}
