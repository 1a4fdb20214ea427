import ICAL from 'ical.js'
import { ICalCalendar, ICalEventStatus } from 'ical-generator'
import { DateTime, IANAZone } from 'luxon'
import { Op } from 'sequelize'
import { visitWords, type Visit } from '../../core/job'
import { database, transacted } from '../database'
import type { Viewer } from './access'
import { needHere } from './companies'
import { ApiError } from './errors'
import { idIn, linkKey, opens } from './links'
import { visitsOf, visitsWithCrew } from './visits'

const dayMs = 86_400_000
/** A feed begins so long ago, and repeats of an entry are read for so long, days. */
const [feedDays, repeatDays] = [31, 366]
/** So many repeats of one entry are read at most, so many entries of a file, and so many steps are gone for them. */
const [mostRepeats, mostEntries, mostSteps] = [400, 2_000, 100_000]

const epochOf = async (personId: string): Promise<number> =>
  (await database().models.calendarLinks.findByPk(personId, { raw: true }))?.epoch ?? 0
const linkTo = (personId: string, epoch: number) => ({ link: `/api/calendars/${linkKey('calendar', personId, epoch)}.ics` })

export const calendarLink = async ({ personId }: Viewer) => linkTo(personId, await epochOf(personId))
/** Links that were given out before open nothing any more. */
export async function renewCalendarLink({ personId }: Viewer) {
  const epoch = await transacted(async (transaction) => {
    const next = (await epochOf(personId)) + 1
    await database().models.calendarLinks.upsert({ personId, epoch: next }, { transaction })
    return next
  })
  return linkTo(personId, epoch)
}

/** The visits of a person as iCalendar, in times of Greenwich. */
export async function readCalendar(token: string, now = new Date()): Promise<string> {
  const key = token.replace(/\.ics$/, '')
  const id = idIn(key)
  const person = id ? await database().models.people.findByPk(id, { raw: true }) : null
  if (!person?.active || !opens('calendar', key, person.id, await epochOf(person.id)))
    throw new ApiError(404, 'noCalendar', 'This link leads to no calendar. Look for the newest one in your menu.')
  await needHere(person.companyId, 'customer')
  const visits = await visitsWithCrew({
    id: await visitsOf([person.id]),
    endsAt: { [Op.gt]: new Date(now.getTime() - feedDays * dayMs) },
  })
  const calendar = new ICalCalendar({ name: `Visits of ${person.name}`, prodId: { company: 'Circuitry', product: 'Visits' }, ttl: 15 * 60 })
  for (const { id: visitId, site, job, kind, status, startsAt, endsAt, windowFrom, windowTo } of visits) {
    const promised = (at: Date) => at.toISOString().slice(0, 16)
    calendar.createEvent({
      id: `${visitId}@circuitry`,
      start: startsAt,
      end: endsAt,
      stamp: now,
      summary: `${site.name}: ${visitWords[kind as Visit['kind']]}`,
      location: site.address,
      description: `${job.title}, job ${job.number}. Promised ${promised(windowFrom)}Z to ${promised(windowTo)}Z.`,
      status: status === 'cancelled' ? ICalEventStatus.CANCELLED : ICalEventStatus.CONFIRMED,
    })
  }
  return calendar.toString()
}

interface Busy {
  uid: string
  startsAt: Date
  endsAt: Date
  cancelled: boolean
}

/** An instant of a calendar: days and floating times are the branch’s; a zone is known by its name, or by what the file says of it. */
function instantOf(time: ICAL.Time, zone: string, said: string | null): Date {
  // A zone that the file names and does not describe is floating to the parser.
  const known = time.zone?.tzid
  const tzid = known && known !== 'floating' ? known : said
  if (tzid === 'UTC') return time.toJSDate()
  const named = tzid && IANAZone.isValidZone(tzid) ? tzid : null
  const { year, month, day, hour, minute, second } = time
  if (time.isDate) return DateTime.fromObject({ year, month, day }, { zone }).toJSDate()
  if (!named && known && known !== 'floating') return time.toJSDate()
  return DateTime.fromObject({ year, month, day, hour, minute, second }, { zone: named ?? zone }).toJSDate()
}

/** The zone that an entry’s times are said in. */
function zoneOf({ component }: ICAL.Event): string | null {
  const said = component.getFirstProperty('dtstart')?.getParameter('tzid')
  return typeof said === 'string' ? said : null
}

/**
 * Busy times of a calendar: its entries with their repeats, of what is not over and within a year. Entries that leave one free are
 * none. Throws ApiError 422 for what is no calendar.
 */
export function busyTimes(text: string, zone: string, now: Date): Busy[] {
  let events: ICAL.Component[]
  try {
    const calendar = new ICAL.Component(ICAL.parse(text) as never)
    if (calendar.name !== 'vcalendar') throw new Error('no calendar')
    for (const one of calendar.getAllSubcomponents('vtimezone')) {
      const tzid = one.getFirstPropertyValue('tzid')
      if (typeof tzid === 'string') ICAL.TimezoneService.register(one)
    }
    events = calendar.getAllSubcomponents('vevent')
  } catch {
    throw new ApiError(422, 'noCalendarFile', 'This is no calendar file (iCalendar, .ics).')
  }
  const until = now.getTime() + repeatDays * dayMs
  const found: Busy[] = []
  const entries = events.map((one) => new ICAL.Event(one))
  for (const entry of entries) {
    if (entry.isRecurrenceException()) continue
    for (const exception of entries) if (exception.isRecurrenceException() && exception.uid === entry.uid) entry.relateException(exception)
  }
  const add = (uid: string, event: ICAL.Event, start: ICAL.Time, end: ICAL.Time) => {
    const valueOf = (name: string) => String(event.component.getFirstPropertyValue(name) ?? '').toUpperCase()
    const tzid = zoneOf(event)
    const [startsAt, endsAt] = [instantOf(start, zone, tzid), instantOf(end, zone, tzid)]
    const wanted = valueOf('transp') !== 'TRANSPARENT' && endsAt > startsAt && endsAt > now && startsAt.getTime() < until
    if (wanted) found.push({ uid, startsAt, endsAt, cancelled: valueOf('status') === 'CANCELLED' })
  }
  let steps = 0
  for (const entry of entries) {
    if (!entry.uid || !entry.startDate || entry.isRecurrenceException()) continue
    if (!entry.isRecurring()) {
      add(entry.uid, entry, entry.startDate, entry.endDate)
      continue
    }
    const repeats = entry.iterator()
    let kept = 0
    while (kept < mostRepeats && steps++ < mostSteps) {
      const next = repeats.next()
      if (!next || instantOf(next, zone, zoneOf(entry)).getTime() > until) break
      const { item, startDate, endDate } = entry.getOccurrenceDetails(next)
      if (instantOf(endDate, zone, zoneOf(entry)) <= now) continue
      add(`${entry.uid} ${next.toString()}`, item, startDate, endDate)
      kept++
    }
  }
  if (found.length > mostEntries || steps >= mostSteps)
    throw new ApiError(422, 'calendarTooLarge', 'This calendar has too many entries. Export the next months alone.')
  return found
}
