import { DateTime } from 'luxon'
import type { Viewer } from '../services/access'
import { jobCommand, uuid } from './world'

export const tomorrow = DateTime.utc().plus({ days: 1 }).startOf('day')
/** An hour of tomorrow as an instant. */
export const at = (hour: number) => tomorrow.plus({ hours: hour }).toISO()!
/** Booked between two hours of tomorrow, and promised from half an hour before for two hours. */
export const times = (from: number, to: number) => ({
  startsAt: at(from),
  endsAt: at(to),
  windowFrom: at(from - 0.5),
  windowTo: at(from + 1.5),
})

/** Books an installation tomorrow. @returns its id */
export async function book(
  office: Viewer,
  jobId: string,
  personIds: string[],
  [from, to]: readonly [number, number],
  over: { kind?: 'install' | 'survey'; alsoBooked?: boolean } = {},
): Promise<string> {
  const visitId = uuid()
  const command = { type: 'scheduleVisit' as const, visitId, kind: 'install' as const, callbackId: null, alsoBooked: false, personIds }
  expect(await jobCommand(office, jobId, { ...command, ...times(from, to), ...over })).toMatchObject({ status: 'accepted' })
  return visitId
}
