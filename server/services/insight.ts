import { QueryTypes } from 'sequelize'
import { DateTime } from 'luxon'
import { writeRows } from '../../core/format/cells'
import { modelInsights, type ModelInsight } from '../../core/insight/devices'
import { beyondChance, shareOf } from '../../core/insight/rates'
import { risenSince } from '../../core/insight/risen'
import type { DeviceFailure, Insight, OwnInsight } from '../../core/protocol'
import { currentUnits, type payers } from '../../core/job'
import { causes as causesKnown, type CauseKind } from '../../core/triage'
import { database } from '../database'
import { branchFor, jobFor, type Viewer } from './access'
import { readState } from './streams'

/** A callback within so many days says that the work was not right the first time. Common practice, no source. */
const quietDays = 30
const monthsShown = 24

/** Where a company, and perhaps one of its branches, is looked at. */
export async function scopeOf(viewer: Viewer, branchId: string | undefined) {
  if (branchId) await branchFor(viewer, branchId)
  const also = (table: string) => `${table}.company_id = :companyId${branchId ? ` AND ${table}.branch_id = :branchId` : ''}`
  const ask = <T extends object>(sql: string, more: object = {}) =>
    database().sequelize.query<T>(sql, { type: QueryTypes.SELECT, replacements: { companyId: viewer.companyId, branchId, ...more } })
  return { also, ask }
}
type Scope = Awaited<ReturnType<typeof scopeOf>>
/** A device failed where it came out, and a callback found the device itself to be the cause. */
const failures = (also: (table: string) => string, joins = '') =>
  `FROM callbacks JOIN units ON units.id = callbacks.unit_id ${joins} WHERE ${also('callbacks')} AND callbacks.cause_kind = 'device' AND units.removed_at IS NOT NULL`
const days = 'GREATEST(0, TIMESTAMPDIFF(DAY, units.installed_at, COALESCE(units.removed_at, :now)))'

async function modelsOf({ also, ask }: Scope, now: Date): Promise<ModelInsight[]> {
  // One text of days for each model: a row for each day of each would take longer to carry than to count.
  const [all, dead] = await Promise.all([
    ask<{ model: string; days: string; inWall: number }>(
      `SET STATEMENT group_concat_max_len = 1000000000 FOR SELECT units.model AS model, GROUP_CONCAT(${days}) AS days, SUM(units.removed_at IS NULL) AS inWall FROM units WHERE ${also('units')} GROUP BY units.model`,
      { now },
    ),
    ask<{ model: string; days: number }>(`SELECT units.model AS model, ${days} AS days ${failures(also)} GROUP BY units.id`, { now }),
  ])
  return modelInsights(
    all.map(({ model, inWall, ...one }) => {
      const counts = new Map<number, number>()
      const add = (day: number, more: number) => counts.set(day, (counts.get(day) ?? 0) + more)
      for (const day of one.days.split(',')) add(Number(day), 1)
      const failed = dead.filter((row) => row.model === model).map((row) => Number(row.days))
      for (const day of failed) add(day, -1)
      const seen = [...counts].map(([day, count]) => ({ days: day, failed: false, count }))
      return { model, inWall: Number(inWall), lives: [...seen, ...failed.map((day) => ({ days: day, failed: true, count: 1 }))] }
    }),
  )
}

/** Jobs handed over so long ago that a callback would have come, each with whether none did. */
const settled = (also: (table: string) => string) =>
  `FROM jobs LEFT JOIN (SELECT job_id, MIN(opened_at) AS first FROM callbacks WHERE ${also('callbacks')} GROUP BY job_id) AS heard ON heard.job_id = jobs.id`
const quiet = `COALESCE(SUM(heard.first IS NULL OR heard.first > DATE_ADD(jobs.handed_over_at, INTERVAL ${quietDays} DAY)), 0)`
const settledBefore = (now: Date) => DateTime.fromJSDate(now).minus({ days: quietDays }).toJSDate()

/** By when a home was built: rules and wires of their time. */
const ages = ['before 1950', '1950 to 1979', '1980 to 1999', '2000 and later', 'not known'] as const
const ageOf =
  "CASE WHEN sites.year_built IS NULL THEN 'not known' WHEN sites.year_built < 1950 THEN 'before 1950' WHEN sites.year_built < 1980 THEN '1950 to 1979' WHEN sites.year_built < 2000 THEN '1980 to 1999' ELSE '2000 and later' END"

/** So many finished visits say something of a person; fewer say what chance did. */
const visitsNeeded = 30
/** One’s own numbers: of the homes in which one worked, those that needed nobody again. Nobody else is shown them. */
export async function readOwnInsight(viewer: Viewer, now = new Date()): Promise<OwnInsight> {
  const { also, ask } = await scopeOf(viewer, undefined)
  const { personId } = viewer
  const finished = (what: string) =>
    `SELECT ${what} FROM visits JOIN visit_people ON visit_people.visit_id = visits.id WHERE ${also('visits')} AND visits.status = 'done' AND visit_people.person_id = :personId`
  const [done] = await ask<{ visits: number }>(finished('COUNT(*) AS visits'), { personId })
  const visits = Number(done!.visits)
  const said = { visits, needed: visitsNeeded, days: quietDays }
  if (visits < visitsNeeded) return { ...said, homes: null }
  const homes = async (among = '') => {
    const [row] = await ask<{ jobs: number; quiet: number }>(
      `SELECT COUNT(*) AS jobs, ${quiet} AS quiet ${settled(also)} WHERE ${also('jobs')} AND jobs.handed_over_at <= :before ${among}`,
      { before: settledBefore(now), personId },
    )
    return { jobs: Number(row!.jobs), quiet: Number(row!.quiet) }
  }
  const [own, all] = await Promise.all([homes(`AND jobs.id IN (${finished('visits.job_id')} AND visits.kind = 'install')`), homes()])
  if (!own.jobs) return { ...said, homes: null }
  return {
    ...said,
    homes: {
      ...own,
      ...{ share: shareOf(own.quiet, own.jobs), company: shareOf(all.quiet, all.jobs).rate },
      beyond: beyondChance({ count: own.jobs - own.quiet, exposure: own.jobs }, (all.jobs - all.quiet) / all.jobs),
    },
  }
}

export async function readInsight(viewer: Viewer, branchId: string | undefined, now = new Date()): Promise<Insight> {
  const scope = await scopeOf(viewer, branchId)
  const { also, ask } = scope
  const since = DateTime.fromJSDate(now, { zone: 'utc' })
    .startOf('month')
    .minus({ months: monthsShown - 1 })
  const [models, aged, causes, paid, handed, opened] = await Promise.all([
    modelsOf(scope, now),
    ask<{ age: (typeof ages)[number]; jobs: number; quiet: number }>(
      `SELECT ${ageOf} AS age, COUNT(*) AS jobs, ${quiet} AS quiet ${settled(also)} JOIN sites ON sites.id = jobs.site_id WHERE ${also('jobs')} AND jobs.handed_over_at <= :before GROUP BY 1`,
      { before: settledBefore(now) },
    ),
    ask<{ kind: CauseKind | null; causeId: string | null; count: number }>(
      `SELECT cause_kind AS kind, cause_id AS causeId, COUNT(*) AS count FROM callbacks WHERE ${also('callbacks')} GROUP BY 1, 2`,
    ),
    ask<{ payer: (typeof payers)[number] | null; count: number }>(
      `SELECT payer, COUNT(*) AS count FROM callbacks WHERE ${also('callbacks')} GROUP BY 1 ORDER BY count DESC`,
    ),
    ask<{ month: string; count: number }>(
      `SELECT DATE_FORMAT(handed_over_at, '%Y-%m') AS month, COUNT(*) AS count FROM jobs WHERE ${also('jobs')} AND handed_over_at >= :since GROUP BY 1`,
      { since: since.toJSDate() },
    ),
    ask<{ month: string; count: number }>(
      `SELECT DATE_FORMAT(opened_at, '%Y-%m') AS month, COUNT(*) AS count FROM callbacks WHERE ${also('callbacks')} AND opened_at >= :since GROUP BY 1`,
      { since: since.toJSDate() },
    ),
  ])
  const of = (rows: { month: string; count: number }[], month: string) => Number(rows.find((row) => row.month === month)?.count ?? 0)
  const months = Array.from({ length: monthsShown }, (_, index) => {
    const month = since.plus({ months: index }).toFormat('yyyy-MM')
    return { month, handedOver: of(handed, month), callbacks: of(opened, month) }
  })
  const sumOf = (of: 'jobs' | 'quiet') => aged.reduce((sum, row) => sum + Number(row[of]), 0)
  const [jobs, still] = [sumOf('jobs'), sumOf('quiet')]
  return {
    models,
    firstTime: { days: quietDays, jobs, quiet: still, share: shareOf(still, jobs) },
    ages: ages.flatMap((age) => {
      const row = aged.find((one) => one.age === age)
      if (!row) return []
      const [of, well] = [Number(row.jobs), Number(row.quiet)]
      return [
        {
          age,
          jobs: of,
          quiet: well,
          share: shareOf(well, of),
          beyond: beyondChance({ count: of - well, exposure: of }, (jobs - still) / jobs),
        },
      ]
    }),
    causes: byKind(causes),
    payers: paid.map(({ payer, count }) => ({ payer, count: Number(count) })),
    months,
    risenSince: risenSince(months),
  }
}

/** What was mended on the telephone has its cause, and with it the kind of it. */
function byKind(rows: { kind: CauseKind | null; causeId: string | null; count: number }[]): Insight['causes'] {
  const counts = new Map<CauseKind | null, number>()
  for (const { kind, causeId, count } of rows) {
    const own = kind ?? causesKnown.find(({ id }) => id === causeId)?.kind ?? null
    counts.set(own, (counts.get(own) ?? 0) + Number(count))
  }
  return [...counts].map(([kind, count]) => ({ kind, count })).sort((a, b) => b.count - a.count)
}

/** What of a job is watched before its crew leaves: by what became of such devices, and not by habit. */
export async function readSoak(viewer: Viewer, jobId: string, now = new Date()) {
  const job = await jobFor(viewer, jobId)
  const state = await readState('job', job.id)
  const here = new Set(currentUnits(state).map(({ model }) => `${model.maker} ${model.name}`))
  const models = await modelsOf(await scopeOf(viewer, undefined), now)
  return {
    models: models.flatMap(({ model, soon, first, installed }) =>
      soon !== null && here.has(model) ? [{ model, failed: first, of: installed, sure: soon }] : [],
    ),
  }
}

const mostListed = 200
export async function readFailures(viewer: Viewer, branchId: string | undefined, model: string, now = new Date()) {
  const { also, ask } = await scopeOf(viewer, branchId)
  const rows = await ask<Omit<DeviceFailure, 'installedAt'> & { installedAt: Date }>(
    `SELECT units.job_id AS jobId, jobs.number AS number, sites.name AS siteName, units.place AS place, units.serial AS serial, units.installed_at AS installedAt, ${days} AS days, MAX(callbacks.cause) AS cause
      ${failures(also, 'JOIN jobs ON jobs.id = units.job_id JOIN sites ON sites.id = units.site_id')}
      AND units.model = :model GROUP BY units.id ORDER BY units.removed_at DESC LIMIT ${mostListed + 1}`,
    { now, model },
  )
  const listed = rows.slice(0, mostListed).map((row) => ({
    ...row,
    number: Number(row.number),
    days: Number(row.days),
    installedAt: new Date(row.installedAt).toISOString(),
  }))
  return { failures: listed, more: Math.max(0, rows.length - mostListed) }
}

export async function insightCsv(viewer: Viewer, branchId: string | undefined, now = new Date()): Promise<string> {
  const rounded = (value: number, decimals = 2) => Number(value.toFixed(decimals))
  const models = await modelsOf(await scopeOf(viewer, branchId), now)
  return writeRows(
    [
      'model',
      'in_wall',
      'device_years',
      'failed',
      'failed_first_2_days',
      'failed_first_30_days',
      'per_100_a_year',
      'low',
      'high',
      'beyond_chance',
      'alive_after_a_year',
      'expected_next_year',
    ],
    models.map((one) => ({
      ...{ model: one.model, in_wall: one.inWall, device_years: rounded(one.years), failed: one.failed },
      ...{ failed_first_2_days: one.first, failed_first_30_days: one.early, per_100_a_year: rounded(one.perHundred.rate) },
      ...{ low: rounded(one.perHundred.low), high: rounded(one.perHundred.high), beyond_chance: one.beyond ?? '' },
      ...{ alive_after_a_year: one.afterYear ? rounded(one.afterYear.survival, 4) : '', expected_next_year: rounded(one.expected) },
    })),
  )
}
