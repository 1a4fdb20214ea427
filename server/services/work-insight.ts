import { DateTime } from 'luxon'
import type { NearMissKind } from '../../core/insight/near-misses'
import type { visitKinds } from '../../core/job'
import type { WorkInsight } from '../../core/protocol'
import type { Viewer } from './access'
import { scopeOf } from './insight'

const days = 365
/** Longer than booked by so many minutes: what comes after it hears of it. */
const overMinutes = 15
const [mostLongest, mostHomes] = [8, 12]
const booked = 'TIMESTAMPDIFF(SECOND, visits.starts_at, visits.ends_at)'
const taken = 'TIMESTAMPDIFF(SECOND, visits.arrived_at, visits.finished_at)'
const way = 'TIMESTAMPDIFF(SECOND, visits.set_off_at, visits.arrived_at)'
/** A visit that nobody ended on its day says nothing of how long it took. */
const longestSeconds = 14 * 3600
type Kind = (typeof visitKinds)[number]

export async function readWork(viewer: Viewer, branchId: string | undefined, now = new Date()): Promise<WorkInsight> {
  const { also, ask: asked } = await scopeOf(viewer, branchId)
  const since = DateTime.fromJSDate(now).minus({ days }).toJSDate()
  const ask = <T extends object>(sql: string) => asked<T>(sql, { since, overMinutes, longestSeconds, mostLongest })
  const ended = `FROM visits WHERE ${also('visits')} AND visits.status = 'done' AND visits.finished_at >= :since AND visits.arrived_at IS NOT NULL AND ${taken} BETWEEN 0 AND :longestSeconds`
  const wayThere = `visits.set_off_at IS NOT NULL AND ${way} BETWEEN 0 AND :longestSeconds`
  const [kinds, longest, missed] = await Promise.all([
    ask<{ kind: Kind; visits: number; booked: string; taken: string; late: string; way: string; ways: string }>(
      `SELECT visits.kind AS kind, COUNT(*) AS visits, SUM(${booked}) AS booked, SUM(${taken}) AS taken, SUM(${taken} - ${booked} >= :overMinutes * 60) AS late,
        SUM(IF(${wayThere}, ${way}, 0)) AS way, SUM(${wayThere}) AS ways ${ended} GROUP BY visits.kind ORDER BY visits DESC`,
    ),
    ask<{ jobId: string; number: number; siteName: string; kind: Kind; at: Date; booked: number; taken: number }>(
      `SELECT late.job_id AS jobId, jobs.number AS number, sites.name AS siteName, late.kind AS kind, late.arrived_at AS at, late.booked AS booked, late.taken AS taken
        FROM (SELECT visits.*, ${booked} AS booked, ${taken} AS taken ${ended} AND ${taken} - ${booked} >= :overMinutes * 60 ORDER BY ${taken} - ${booked} DESC, visits.id LIMIT :mostLongest) AS late
        JOIN jobs ON jobs.id = late.job_id JOIN sites ON sites.id = late.site_id ORDER BY late.taken - late.booked DESC, late.id`,
    ),
    ask<{ kind: NearMissKind; code: string; siteId: string; siteName: string; jobId: string | null; at: Date }>(
      `SELECT near_misses.kind AS kind, near_misses.code AS code, near_misses.site_id AS siteId, sites.name AS siteName, MAX(near_misses.at) AS at,
        (SELECT jobs.id FROM jobs WHERE jobs.site_id = near_misses.site_id ORDER BY jobs.number DESC LIMIT 1) AS jobId
        FROM near_misses JOIN sites ON sites.id = near_misses.site_id WHERE ${also('near_misses')} AND near_misses.at >= :since
        GROUP BY near_misses.kind, near_misses.code, near_misses.site_id, DATE(near_misses.at) ORDER BY at DESC`,
    ),
  ])
  const hours = (seconds: string | number | null) => Number(seconds ?? 0) / 3600
  const groups = new Map<string, typeof missed>()
  for (const one of missed) {
    const key = `${one.kind} ${one.code}`
    const lines = groups.get(key) ?? []
    groups.set(key, lines)
    lines.push(one)
  }
  return {
    days,
    kinds: kinds.map((row) => ({
      ...{ kind: row.kind, visits: Number(row.visits), bookedHours: hours(row.booked), takenHours: hours(row.taken) },
      ...{ over: Number(row.late), wayHours: hours(row.way), ways: Number(row.ways) },
    })),
    longest: longest.map(({ jobId, number, siteName, kind, at, ...seconds }) => ({
      ...{ jobId, number: Number(number), siteName, kind, at: new Date(at).toISOString() },
      bookedMinutes: Math.round(Number(seconds.booked) / 60),
      takenMinutes: Math.round(Number(seconds.taken) / 60),
    })),
    nearMisses: [...groups.values()]
      .map((lines) => ({
        ...{ kind: lines[0]!.kind, code: lines[0]!.code, days: lines.length },
        homes: lines.slice(0, mostHomes).map(({ siteName, jobId, at }) => ({ siteName, jobId, at: new Date(at).toISOString() })),
      }))
      .sort((a, b) => b.days - a.days),
  }
}
