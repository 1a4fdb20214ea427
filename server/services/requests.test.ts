import { jest } from '@jest/globals'
import ICAL from 'ical.js'
import { ICalCalendar, ICalEventRepeatingFreq, ICalEventStatus, ICalEventTransparency } from 'ical-generator'
import { testFile } from '../../core/testing/scenario'
import { database } from '../database'
import { jobCommand, makeCompany, open, openWorld, refusedWith, uuid } from '../testing/world'
import { at, book, times, tomorrow } from '../testing/visits'
import { busyTimes, calendarLink, readCalendar, renewCalendarLink } from './calendar'
import { dispatchDay } from './dispatch-day'
import { askFor, awayBetween, decideRequest, importAway, listRequests, withdrawRequest } from './requests'
import { readState } from './streams'

jest.setTimeout(180_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const tokenOf = (link: string) => link.split('/').at(-1)!

async function office() {
  const { lead, add } = await makeCompany()
  const [anna, ben] = [await add('technician'), await add('technician')]
  const { jobId } = await open(lead)
  const visitId = await book(lead, jobId, [anna.personId], [8, 10])
  const off = (from: number, to: number, over: object = {}) =>
    ({ id: uuid(), kind: 'off', personId: null, startsAt: at(from), endsAt: at(to), note: '', ...over }) as Parameters<typeof askFor>[1]
  return { lead, add, anna, ben, jobId, visitId, off }
}

test('time off is asked, its visits are named, it is approved, and nobody is booked into it unhearing', async () => {
  const { lead, anna, ben, jobId, visitId, off } = await office()
  const asked = await askFor(anna, off(7, 12, { note: 'dentist' }))
  expect(asked).toMatchObject({ state: 'asked', booked: [{ siteName: testFile.site.name }] })
  expect(await awayBetween(lead.companyId, tomorrow.toJSDate(), tomorrow.plus({ days: 1 }).toJSDate())).toEqual([])
  expect(await refusedWith(decideRequest(anna, asked.id, { approve: true, otherId: null, answer: '' }))).toEqual([403, 'forbidden'])
  // The same again is the same; another one’s id is not.
  const again = off(7, 12, { id: asked.id })
  expect((await askFor(anna, again)).id).toBe(asked.id)
  expect(await refusedWith(askFor(ben, again))).toEqual([409, 'idInUse'])
  await decideRequest(lead, asked.id, { approve: true, otherId: null, answer: '' })
  const day = await dispatchDay(lead, lead.branchId, tomorrow.toISODate()!)
  expect(day.away).toEqual([{ personId: anna.personId, from: new Date(at(7)).toISOString(), to: new Date(at(12)).toISOString() }])
  const bookSecond = (alsoBooked: boolean, personId: string) =>
    jobCommand(lead, jobId, {
      ...{ type: 'scheduleVisit' as const, visitId: uuid(), kind: 'install' as const, callbackId: null, alsoBooked },
      ...{ personIds: [personId], ...times(10.5, 11.5) },
    })
  const refused = await bookSecond(false, anna.personId)
  expect(refused).toMatchObject({ status: 'refused', refusal: { code: 'doubleBooked' } })
  expect(JSON.stringify(refused)).toMatch(/is away from .*: time off\./)
  expect(await bookSecond(true, anna.personId)).toMatchObject({ status: 'accepted' })
  expect(await bookSecond(false, ben.personId)).toMatchObject({ status: 'accepted' })
  await withdrawRequest(anna, asked.id)
  expect((await dispatchDay(lead, lead.branchId, tomorrow.toISODate()!)).away).toEqual([])
  expect(await refusedWith(decideRequest(lead, asked.id, { approve: true, otherId: null, answer: '' }))).toEqual([409, 'decided'])
  void visitId
})

test('who is ill asks nobody; the office notes it for them; nonsense, strangers and other people’s time are refused', async () => {
  const { lead, anna, ben, off } = await office()
  expect(await askFor(anna, off(0, 24, { kind: 'ill' }))).toMatchObject({ state: 'approved' })
  expect(await askFor(lead, off(0, 24, { kind: 'course', personId: ben.personId }))).toMatchObject({
    state: 'approved',
    personId: ben.personId,
  })
  expect(await refusedWith(askFor(anna, off(0, 24, { personId: ben.personId })))).toEqual([403, 'forbidden'])
  expect(await refusedWith(askFor(anna, off(12, 12)))).toEqual([422, 'timesOdd'])
  expect(await refusedWith(askFor(anna, off(0, 24 * 400)))).toEqual([422, 'timesOdd'])
  expect(await refusedWith(askFor(anna, off(-72, -48)))).toEqual([422, 'timesOdd'])
  const { lead: rival } = await makeCompany()
  const mine = (await listRequests(anna, undefined)).requests
  expect(mine).toHaveLength(1)
  expect((await listRequests(lead, lead.branchId)).requests).toHaveLength(2)
  expect(await refusedWith(listRequests(rival, lead.branchId))).toEqual([404, 'notFound'])
  for (const id of [mine[0]!.id, uuid()]) {
    expect(await refusedWith(decideRequest(rival, id, { approve: true, otherId: null, answer: '' }))).toEqual([404, 'notFound'])
    expect(await refusedWith(withdrawRequest(ben, id))).toEqual([404, 'notFound'])
  }
})

test('a visit is handed over whole, or not at all', async () => {
  const { lead, anna, ben, jobId, visitId, add } = await office()
  const ask = () => askFor(anna, { id: uuid(), kind: 'swap', visitId, otherId: null, note: 'two ferries' })
  const people = async () => (await readState('job', jobId)).visits[visitId]!.personIds
  expect(await refusedWith(askFor(ben, { id: uuid(), kind: 'swap', visitId, otherId: null, note: '' }))).toEqual([403, 'forbidden'])
  const first = await ask()
  expect(await refusedWith(decideRequest(lead, first.id, { approve: true, otherId: null, answer: '' }))).toEqual([422, 'nobodyTakes'])
  // Ben is ill that day: nothing moves, and it can still be decided.
  const ill = await askFor(ben, { id: uuid(), kind: 'ill', personId: null, startsAt: at(0), endsAt: at(24), note: '' })
  expect(await refusedWith(decideRequest(lead, first.id, { approve: true, otherId: ben.personId, answer: '' }))).toEqual([
    409,
    'planRefused',
  ])
  expect(await people()).toEqual([anna.personId])
  await withdrawRequest(lead, ill.id)
  const taker = { approve: true, otherId: ben.personId, answer: '' }
  await Promise.all([decideRequest(lead, first.id, taker), decideRequest(lead, first.id, taker)])
  expect(await people()).toEqual([ben.personId])
  expect(await refusedWith(withdrawRequest(anna, first.id))).toEqual([409, 'decided'])
  expect(await refusedWith(ask())).toEqual([403, 'forbidden'])
  void add
})

test('a person’s visits as a calendar that another program reads: cancelled ones too, and no longer once the link is renewed', async () => {
  const { lead, anna, jobId, visitId } = await office()
  const { link } = await calendarLink(anna)
  const text = await readCalendar(tokenOf(link))
  // RFC 5545, 3.1: lines end with CRLF and are at most 75 octets.
  expect(text.split('\r\n').every((line) => Buffer.byteLength(line) <= 75)).toBe(true)
  const events = () =>
    readCalendar(tokenOf(link)).then((ics) =>
      new ICAL.Component(ICAL.parse(ics) as never).getAllSubcomponents('vevent').map((one) => new ICAL.Event(one)),
    )
  const [event] = await events()
  expect(event!.startDate.toJSDate()).toEqual(new Date(times(8, 10).startsAt))
  expect(event!.endDate.toJSDate()).toEqual(new Date(times(8, 10).endsAt))
  expect(event!.uid).toBe(`${visitId}@circuitry`)
  expect(event!.summary).toContain(testFile.site.name)
  await jobCommand(lead, jobId, { type: 'cancelVisit', visitId, reason: 'rain' })
  expect(String((await events())[0]!.component.getFirstPropertyValue('status'))).toBe('CANCELLED')
  const fresh = await renewCalendarLink(anna)
  expect(await refusedWith(readCalendar(tokenOf(link)))).toEqual([404, 'noCalendar'])
  expect(await readCalendar(tokenOf(fresh.link))).toContain('BEGIN:VCALENDAR')
  await database().models.people.update({ active: false }, { where: { id: anna.personId } })
  expect(await refusedWith(readCalendar(tokenOf(fresh.link)))).toEqual([404, 'noCalendar'])
})

describe('time off from a calendar', () => {
  const now = new Date('2026-03-01T12:00:00Z')
  const spans = (text: string, zone = 'America/New_York') =>
    busyTimes(text, zone, now).map(({ startsAt, endsAt, cancelled }) => [startsAt.toISOString(), endsAt.toISOString(), cancelled])
  const wrap = (...lines: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//test//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n')
  const entry = (...lines: string[]) => ['BEGIN:VEVENT', 'UID:one', 'DTSTAMP:20260101T000000Z', ...lines, 'END:VEVENT']
  test('whole days are the branch’s; the night of the clock change has 23 hours', () => {
    expect(spans(wrap(...entry('DTSTART;VALUE=DATE:20260307', 'DTEND;VALUE=DATE:20260309')))).toEqual([
      ['2026-03-07T05:00:00.000Z', '2026-03-09T04:00:00.000Z', false],
    ])
  })
  test('a zone by its name, floating times, and Greenwich', () => {
    const at = (start: string, end: string) => spans(wrap(...entry(`DTSTART${start}`, `DTEND${end}`)))[0]!.slice(0, 2)
    expect(at(';TZID=Europe/Zurich:20260710T080000', ';TZID=Europe/Zurich:20260710T100000')).toEqual([
      '2026-07-10T06:00:00.000Z',
      '2026-07-10T08:00:00.000Z',
    ])
    expect(at(':20260710T080000', ':20260710T100000')).toEqual(['2026-07-10T12:00:00.000Z', '2026-07-10T14:00:00.000Z'])
    expect(at(':20260710T080000Z', ':20260710T100000Z')).toEqual(['2026-07-10T08:00:00.000Z', '2026-07-10T10:00:00.000Z'])
  })
  test('repeats with an exception and a day that was moved; free entries and past ones are none; cancelled is told', () => {
    const weekly = entry(
      'DTSTART;TZID=America/New_York:20260302T130000',
      'DTEND;TZID=America/New_York:20260302T140000',
      'RRULE:FREQ=WEEKLY;COUNT=4',
      'EXDATE;TZID=America/New_York:20260309T130000',
    )
    const moved = entry(
      'RECURRENCE-ID;TZID=America/New_York:20260316T130000',
      'DTSTART;TZID=America/New_York:20260317T150000',
      'DTEND;TZID=America/New_York:20260317T160000',
    )
    expect(spans(wrap(...weekly, ...moved)).map(([start]) => start)).toEqual([
      '2026-03-02T18:00:00.000Z',
      '2026-03-17T19:00:00.000Z',
      '2026-03-23T17:00:00.000Z',
    ])
    expect(spans(wrap(...entry('DTSTART:20260310T080000Z', 'DTEND:20260310T090000Z', 'TRANSP:TRANSPARENT')))).toEqual([])
    expect(spans(wrap(...entry('DTSTART:20200310T080000Z', 'DTEND:20200310T090000Z')))).toEqual([])
    expect(spans(wrap(...entry('DTSTART:20260310T080000Z', 'DTEND:20260310T090000Z', 'STATUS:CANCELLED')))[0]![2]).toBe(true)
  })
  test('what another program writes; for ever is a year; what is no calendar is told', () => {
    const calendar = new ICalCalendar()
    calendar.createEvent({ id: 'a', start: new Date('2026-04-01T08:00:00Z'), end: new Date('2026-04-01T12:00:00Z'), summary: 'Dentist' })
    calendar.createEvent({
      ...{ id: 'b', start: new Date('2026-03-02T08:00:00Z'), end: new Date('2026-03-02T09:00:00Z') },
      ...{ summary: 'Course', repeating: { freq: ICalEventRepeatingFreq.WEEKLY } },
    })
    calendar.createEvent({
      ...{ id: 'c', start: new Date('2026-04-02T08:00:00Z'), end: new Date('2026-04-02T12:00:00Z'), summary: 'Maybe' },
      ...{ status: ICalEventStatus.CONFIRMED, transparency: ICalEventTransparency.TRANSPARENT },
    })
    expect(spans(calendar.toString())).toHaveLength(1 + 53)
    for (const text of ['', 'hello', 'BEGIN:VCARD\r\nEND:VCARD\r\n', 'BEGIN:VCALENDAR', '{}'])
      expect(() => busyTimes(text, 'UTC', now)).toThrow('This is no calendar file')
    expect(busyTimes(wrap(), 'UTC', now)).toEqual([])
    // Every second for ever, and from long ago: told, not computed.
    const seconds = entry('DTSTART:19700101T000000Z', 'DTEND:19700101T000001Z', 'RRULE:FREQ=SECONDLY')
    expect(() => busyTimes(wrap(...seconds), 'UTC', now)).toThrow('too many entries')
  })
  test('read twice it is the same; moved it is asked anew; cancelled it is taken back', async () => {
    const { lead, anna, ben } = await office()
    const day = tomorrow.toFormat('yyyyLLdd')
    const file = (hour: string, ...more: string[]) =>
      [
        'BEGIN:VCALENDAR',
        'VERSION:2.0',
        'PRODID:-//test//EN',
        'BEGIN:VEVENT',
        'UID:x',
        `DTSTART:${day}T${hour}0000Z`,
        `DTEND:${day}T200000Z`,
        'SUMMARY:Secret',
        ...more,
        'END:VEVENT',
        'END:VCALENDAR',
      ].join('\r\n')
    expect(await importAway(anna, anna.personId, file('08'))).toEqual({ added: 1, changed: 0, withdrawn: 0, left: 0 })
    expect(await importAway(anna, anna.personId, file('08'))).toEqual({ added: 0, changed: 0, withdrawn: 0, left: 1 })
    const [asked] = (await listRequests(anna, undefined)).requests
    expect(JSON.stringify(asked)).not.toContain('Secret')
    await decideRequest(lead, asked!.id, { approve: true, otherId: null, answer: '' })
    expect(await importAway(anna, anna.personId, file('09'))).toEqual({ added: 0, changed: 1, withdrawn: 0, left: 0 })
    expect((await listRequests(anna, undefined)).requests[0]).toMatchObject({ state: 'asked' })
    expect(await importAway(anna, anna.personId, file('09', 'STATUS:CANCELLED'))).toEqual({ added: 0, changed: 0, withdrawn: 1, left: 0 })
    expect(await importAway(lead, ben.personId, file('08'))).toMatchObject({ added: 1 })
    expect((await listRequests(ben, undefined)).requests[0]).toMatchObject({ state: 'approved' })
    expect(await refusedWith(importAway(anna, ben.personId, file('08')))).toEqual([403, 'forbidden'])
  })
})
