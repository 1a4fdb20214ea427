import { DateTime } from 'luxon'
import { Op } from 'sequelize'
import type { Content } from 'pdfmake/interfaces'
import { readVisits, writeHours, writeVisits } from '../../core/format'
import { visitWords, type Visit } from '../../core/job'
import type { BodyOf, dispatch, PlannedVisit } from '../../core/protocol'
import { partNeeds, stillToPick } from '../../core/stock/needs'
import { sameMembers } from '../../core/dispatch'
import { regionOf } from '../../core/units'
import { clockOf, dateIn } from '../../core/units/region'
import { v5 as uuidFrom } from 'uuid'
import { database } from '../database'
import { acceptPlan } from './accept-plan'
import { branchFor, isOffice, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { ApiError } from './errors'
import { heading, makePdf, soft, table } from './pdf'
import { readState } from './streams'
import { isoCourse, isoTimes, visitsWithCrew } from './visits'

interface Days {
  branchId: string
  from: string
  to: string
}
async function between(viewer: Viewer, { branchId, from, to }: Days, status: string[]) {
  const branch = await branchFor(viewer, branchId)
  const zone = branch.timezone
  const rows = await visitsWithCrew({
    companyId: viewer.companyId,
    branchId,
    status,
    startsAt: {
      [Op.gte]: DateTime.fromISO(from, { zone }).startOf('day').toJSDate(),
      [Op.lt]: DateTime.fromISO(to, { zone }).plus({ days: 1 }).startOf('day').toJSDate(),
    },
  })
  const people = await database().models.people.findAll({ where: { companyId: viewer.companyId }, raw: true })
  return { branch, zone, rows, people }
}

export async function visitsTable(viewer: Viewer, days: Days): Promise<string> {
  const { zone, rows, people } = await between(viewer, days, ['planned', 'onSite', 'done'])
  return writeVisits(
    rows.map(({ crew, job, site, ...row }) => ({
      visitId: row.id,
      job: job.number,
      home: site.name,
      kind: row.kind as Visit['kind'],
      ...isoTimes(row),
      people: crew.map(({ personId }) => people.find((one) => one.id === personId)?.initials ?? '?'),
    })),
    zone,
  )
}

/** Reads visits from a table: what is as it was is left alone. */
export async function readVisitsTable(
  viewer: Viewer,
  { id, branchId, text, checkOnly }: BodyOf<typeof dispatch.readVisitsTable>,
  now = new Date(),
): Promise<{ moved: number; made: number; same: number }> {
  const branch = await branchFor(viewer, branchId)
  const { models } = database()
  const { rows, problems } = readVisits(text, branch.timezone)
  const [jobs, people, visits] = await Promise.all([
    models.jobs.findAll({ where: { companyId: viewer.companyId, branchId, number: rows.map(({ job }) => job) }, raw: true }),
    models.people.findAll({ where: { companyId: viewer.companyId, branchId, active: true }, raw: true }),
    visitsWithCrew({ companyId: viewer.companyId, branchId, id: rows.flatMap(({ visitId }) => visitId ?? []) }),
  ])
  let same = 0
  const planned = rows.flatMap(({ line, visitId, job: number, kind, people: initials, ...times }): PlannedVisit[] => {
    const say = (problem: string) => {
      problems.push({ where: `line ${line}`, problem })
      return []
    }
    const job = jobs.find((one) => one.number === number)
    if (!job) return say(`There is no job ${number} in this branch.`)
    const ids = initials.map((one) => people.filter(({ initials: its }) => its.toLowerCase() === one.toLowerCase()))
    const odd = ids.findIndex((list) => list.length !== 1)
    if (odd >= 0) return say(ids[odd]!.length ? `Several people are ${initials[odd]}.` : `Nobody of this branch is ${initials[odd]}.`)
    const personIds = [...new Set(ids.map((list) => list[0]!.id))]
    const base = { jobId: job.id, personIds, ...times }
    if (!visitId) {
      if (kind === 'callback') return say('A callback is scheduled from its own list.')
      return [{ ...base, visitId: uuidFrom(`new visit ${line}`, id), makes: { kind, callbackId: null }, was: null }]
    }
    const known = visits.find((one) => one.id === visitId)
    if (!known || known.jobId !== job.id) return say(`There is no such visit of job ${number}.`)
    const was = { startsAt: known.startsAt.toISOString(), personIds: known.crew.map(({ personId }) => personId) }
    const unchanged =
      sameMembers(was.personIds, personIds) &&
      (['startsAt', 'endsAt', 'windowFrom', 'windowTo'] as const).every((key) => known[key].getTime() === Date.parse(times[key]))
    if (unchanged) {
      same++
      return []
    }
    if (known.status !== 'planned') return say('This visit has begun, is over, or was cancelled: it cannot be changed.')
    return [{ ...base, visitId, makes: null, was }]
  })
  if (problems.length) throw new ApiError(422, 'badTable', 'Nothing was taken over. These lines are not right:', problems)
  if (planned.length > 120) throw new ApiError(422, 'tooMany', 'At most 120 visits change at once. Read them back in parts.')
  const made = planned.filter(({ makes }) => makes).length
  if (checkOnly || !planned.length) return { made, moved: planned.length - made, same }
  return { ...(await acceptPlan(viewer, { id, branchId, visits: planned }, now)), same }
}

export async function hoursTable(viewer: Viewer, days: Days): Promise<string> {
  const { zone, rows, people } = await between(viewer, days, ['onSite', 'done'])
  return writeHours(
    rows.flatMap(({ crew, site, job, ...row }) =>
      crew.map(({ personId }) => ({
        person: people.find((one) => one.id === personId)?.name ?? '',
        ...{ home: site.name, job: job.number, kind: row.kind, startsAt: row.startsAt.toISOString() },
        ...isoCourse(row),
      })),
    ),
    zone,
  )
}

/** A day on paper: for whose phone is flat. Door codes are never on it. */
export async function daySheet(viewer: Viewer, { branchId, date }: { branchId: string; date: string }): Promise<Buffer> {
  const { branch, rows, people } = await between(viewer, { branchId, from: date, to: date }, ['planned', 'onSite', 'done'])
  const { models } = database()
  const [company, customers] = await Promise.all([
    models.companies.findByPk(viewer.companyId, { raw: true }),
    models.customers.findAll({ where: { id: rows.map(({ job }) => job.customerId) }, raw: true }),
  ])
  const region = regionOf({ timezone: branch.timezone, schemeId: branch.schemeId, settings: rulesOf(branch) })
  const loads = new Map(
    await Promise.all(
      [...new Set(rows.map(({ jobId }) => jobId))].map(async (jobId) => {
        const needs = partNeeds(await readState('job', jobId)).filter((need) => stillToPick(need) > 0)
        return [jobId, needs.map((need) => `${stillToPick(need)} × ${need.name}`).join(', ')] as const
      }),
    ),
  )
  const mine = isOffice(viewer) ? people : people.filter(({ id }) => id === viewer.personId)
  const parts = mine
    .map((person) => ({ person, visits: rows.filter(({ crew }) => crew.some(({ personId }) => personId === person.id)) }))
    .filter(({ visits }) => visits.length)
  if (!parts.length) throw new ApiError(409, 'noVisits', 'There is no visit on that day: there is nothing to print.')
  const clock = (at: Date) => clockOf(at.toISOString(), region)
  const content: Content[] = parts.flatMap(({ person, visits }, index): Content[] => [
    { ...(heading(`${person.name}, ${dateIn(date, region.locale)}`) as object), pageBreak: index ? 'before' : undefined } as Content,
    table(
      ['When', 'Where', 'What'],
      visits.map(({ startsAt, endsAt, windowFrom, windowTo, site, job, kind, crew }) => {
        const customer = customers.find(({ id }) => id === job.customerId)
        const mates = crew
          .filter(({ personId }) => personId !== person.id)
          .map(({ personId }) => people.find(({ id }) => id === personId)?.name ?? '')
        const load = loads.get(job.id)
        return [
          { text: `${clock(startsAt)}–${clock(endsAt)}\npromised ${clock(windowFrom)}–${clock(windowTo)}` },
          {
            text: [
              { text: site.name, bold: true },
              `\n${site.address}\n${customer?.name ?? ''}${customer?.phone ? `, ${customer.phone}` : ''}`,
            ],
          },
          {
            text: [
              `${visitWords[kind as Visit['kind']]}: ${job.title}, job ${job.number}`,
              mates.length ? `\nwith ${mates.join(', ')}` : '',
              load ? { text: `\nto load: ${load}`, color: soft } : '',
            ],
          },
        ]
      }),
      [100, 170, '*'],
    ),
  ])
  return makePdf({
    title: `Day sheet, ${dateIn(date, region.locale)}`,
    company: company!.name,
    footer: `${company!.name}, ${branch.name}. Printed ${clockOf(new Date().toISOString(), region)}: what was moved since is not on it.`,
    schemeId: branch.schemeId,
    region,
    content,
  })
}
