import { DateTime } from 'luxon'
import { Op } from 'sequelize'
import {
  fourOfFiveBy,
  journey,
  leavesAt,
  placeAt,
  roadsFrom,
  timetableOf,
  type Ahead,
  type Journey,
  type Position,
  type Roads,
  type Timetable,
} from '../../core/dispatch'
import type { Visit } from '../../core/job'
import type { Way } from '../../core/protocol'
import { database, type SiteRow } from '../database'
import { routing } from '../stand-ins/routing'
import type { Viewer } from './access'
import { settingsOf } from './branch-rules'
import { expected, positionOf } from './dispatch-day'
import { learnedIn } from './durations'
import { peopleOn, visitFor, visitsOf, visitsWithCrew } from './visits'

let graph: Roads | null = null
const tables = new Map<string, Timetable>()
/** The roads by the clock of one day there; of a few days only. */
async function tableOf(date: string, zone: string): Promise<Timetable> {
  graph ??= roadsFrom(await routing.roads())
  const key = `${date} ${zone}`
  const known = tables.get(key) ?? timetableOf(graph, date, zone)
  if (!tables.has(key) && tables.size > 8) tables.delete(tables.keys().next().value!)
  tables.set(key, known)
  return known
}

/** The quickest way between two places for who leaves then, seconds since 1970; null where no road leads there. */
export async function wayBetween(from: Position, to: Position, leave: number, zone: string): Promise<Journey | null> {
  const table = await tableOf(DateTime.fromSeconds(leave, { zone }).toISODate()!, zone)
  const [a, b] = [placeAt(table.roads, from), placeAt(table.roads, to)]
  return a && b ? journey(table, a, b, leave) : null
}

/** Where somebody is by their last tap today, and what they have in hand there. */
async function hereNow(
  viewer: Viewer,
  personId: string,
  visitId: string,
  zone: string,
  now: Date,
): Promise<{ site: SiteRow | null; work: Ahead['work'] }> {
  const midnight = DateTime.fromJSDate(now, { zone }).startOf('day')
  const theirs = await visitsOf([personId])
  const mine = await visitsWithCrew({
    id: theirs.filter((id) => id !== visitId),
    status: ['onSite', 'done'],
    arrivedAt: { [Op.gte]: midnight.toJSDate() },
  })
  const running = mine.find(({ status }) => status === 'onSite')
  const last = running ?? mine.sort((a, b) => Number(a.finishedAt ?? a.arrivedAt) - Number(b.finishedAt ?? b.arrivedAt)).at(-1)
  if (!running) return { site: last?.site ?? null, work: null }
  const learned = await learnedIn(viewer.companyId, running.branchId)
  const { minutes, spread } = await expected(
    running.jobId,
    running.siteId,
    running.kind as Visit['kind'],
    learned,
    running.crew.map(({ personId }) => personId),
  )
  return { site: running.site, work: { since: running.arrivedAt!.getTime() / 1000, seconds: minutes * 60, spread } }
}

/** The way to a visit: for whoever asks, if they are on it, else for who leads it. */
export async function wayTo(viewer: Viewer, visitId: string, now = new Date()): Promise<Way> {
  const visit = await visitFor(viewer, visitId)
  const rules = await settingsOf(visit.branchId)
  const zone = rules.timezone
  const people = await peopleOn(visitId)
  const { site, work } = await hereNow(
    viewer,
    people.includes(viewer.personId) ? viewer.personId : (people[0] ?? viewer.personId),
    visitId,
    zone,
    now,
  )
  const to = (await database().models.sites.findByPk(visit.siteId, { raw: true }))!
  const ahead: Ahead = { now: now.getTime() / 1000, work }
  const leave = leavesAt(ahead)
  const iso = (seconds: number) => new Date(Math.round(seconds) * 1000).toISOString()
  const begin: Position | null = site
    ? (await positionOf(site)).position
    : rules.day.storeAddress
      ? await routing.find(rules.day.storeAddress)
      : null
  const end = (await positionOf(to)).position
  const unknown = {
    from: begin ? (site?.name ?? 'the store') : null,
    leaveAt: iso(leave),
    arriveAt: null,
    fourAt: null,
    metres: 0,
    legs: [],
  }
  if (site && site.id === to.id) return { ...unknown, arriveAt: iso(leave), fourAt: iso(leave) }
  if (!begin || !end) return unknown
  const way = await wayBetween(begin, end, leave, zone)
  if (!way) return unknown
  return {
    ...unknown,
    arriveAt: iso(way.arrive),
    fourAt: iso(fourOfFiveBy(ahead, way.arrive)),
    metres: way.metres,
    legs: way.legs.map(({ name, kind, metres, from, to: until }) => ({ name, kind, metres, from: iso(from), to: iso(until) })),
  }
}
