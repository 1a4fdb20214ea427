import { v5 as uuidFrom } from 'uuid'
import { bookedTwice, sameMembers, vansTwice } from '../../core/dispatch'
import type { BodyOf, dispatch } from '../../core/protocol'
import type { JobCommand } from '../../core/job'
import { database, transacted } from '../database'
import { branchFor, type Viewer } from './access'
import { byProgram, type Asked } from './asked'
import { rulesOf } from './branch-rules'
import { ApiError } from './errors'
import { lockStates } from './streams'
import { visitsWithCrew } from './visits'
import { parseCommand, publish, writeGroup } from './write-command'

type Plan = BodyOf<typeof dispatch.acceptPlan>
const refused = (details: { where: string; problem: string }[]) =>
  new ApiError(409, 'planRefused', 'Nothing of this plan was taken over.', details)

/**
 * Takes a plan over, all of it or nothing, under the lock of its records and people. A visit that somebody changed since it was
 * looked at, a person in two places, somebody with things left open at a home: each refuses the whole.
 * @param chosen The visit whose customer chose its time.
 */
export async function acceptPlan(
  viewer: Viewer,
  plan: Plan,
  now = new Date(),
  chosen: string | null = null,
): Promise<{ moved: number; made: number }> {
  const branch = await branchFor(viewer, plan.branchId)
  const { models } = database()
  const jobIds = [...new Set(plan.visits.map(({ jobId }) => jobId))]
  const jobs = await models.jobs.findAll({ where: { id: jobIds, companyId: viewer.companyId, branchId: branch.id } })
  if (jobs.length < jobIds.length) throw new ApiError(404, 'noSuchJob', 'A job of this plan is not one of this branch.')
  if (new Set(plan.visits.map(({ visitId }) => visitId)).size < plan.visits.length)
    throw new ApiError(400, 'visitTwice', 'A visit is in this plan twice.')
  const sites = await models.sites.findAll({ where: { id: jobs.map(({ siteId }) => siteId) }, attributes: ['id', 'name'], raw: true })
  const homeOf = (jobId: string) => sites.find(({ id }) => id === jobs.find((job) => job.id === jobId)?.siteId)?.name ?? 'A home'
  const settings = rulesOf(branch)
  const together = new Set(plan.visits.map(({ visitId }) => visitId))
  const asked = plan.visits.map(({ jobId, visitId, makes, personIds, startsAt, endsAt, windowFrom, windowTo }): Asked => {
    const times = { visitId, personIds, startsAt, endsAt, windowFrom, windowTo, alsoBooked: false }
    const moves = visitId === chosen ? ('moveVisitForCustomer' as const) : ('moveVisit' as const)
    const command: JobCommand = makes ? { type: 'scheduleVisit', ...makes, ...times } : { type: moves, ...times }
    // Of this plan and this visit: said twice, it is stored once.
    const envelope = byProgram('job', jobId, command, now, { id: uuidFrom(visitId, plan.id) })
    return { envelope, command: parseCommand(envelope), viewer, now, row: jobs.find(({ id }) => id === jobId)!, settings, together }
  })
  const written = await transacted(async (transaction) => {
    await lockStates([...new Set([...jobIds, ...jobs.map(({ siteId }) => siteId)])], transaction)
    const known = await models.commands.count({ where: { id: asked.map(({ envelope }) => envelope.id) }, transaction })
    const rows = await visitsWithCrew({ id: [...together] }, transaction)
    if (!known) {
      const changed = plan.visits.flatMap(({ visitId, was, personIds, startsAt }) => {
        const row = rows.find(({ id }) => id === visitId)
        const people = (row?.crew ?? []).map((one) => one.personId)
        const isAt = (time: string) => Date.parse(time) === row?.startsAt.getTime()
        const same = was && row && isAt(was.startsAt) && sameMembers(was.personIds, people)
        const begun = row && row.status !== 'planned' && !(isAt(startsAt) && sameMembers(personIds, people))
        if (was && begun) return [{ where: row.site.name, problem: 'It has begun meanwhile.' }]
        return was && !same ? [{ where: row?.site.name ?? 'A visit', problem: 'It was changed meanwhile: look at the day anew.' }] : []
      })
      if (changed.length) throw refused(changed)
    }
    const result = await writeGroup(asked, transaction)
    const no = result.answers.flatMap((answer, index) => {
      const where = homeOf(plan.visits[index]!.jobId)
      if (answer instanceof ApiError) return [{ where, problem: answer.message }]
      return answer.status === 'refused' ? answer.refusal.reasons.map((problem) => ({ where, problem })) : []
    })
    if (no.length) throw refused(no)
    const bookings = plan.visits.map(({ visitId, ...visit }) => ({ id: visitId, ...visit }))
    const drivers = await models.people.findAll({
      where: { id: [...new Set(bookings.flatMap(({ personIds }) => personIds))] },
      attributes: ['id', 'vanId'],
      transaction,
      raw: true,
    })
    const siteOf = (jobId: string) => jobs.find(({ id }) => id === jobId)!.siteId
    const [shared] = vansTwice(
      bookings.map((one) => ({ ...one, siteId: siteOf(one.jobId) })),
      drivers,
    )
    if (shared) {
      const van = await models.stockPlaces.findByPk(shared.vanId, { transaction, raw: true })
      const where = homeOf(plan.visits.find(({ visitId }) => visitId === shared.second)!.jobId)
      throw refused([{ where, problem: `${van?.name ?? 'The van'} would be in two places at once.` }])
    }
    const twice = bookedTwice(bookings)
    if (twice.length) {
      const names = await models.people.findAll({ where: { id: twice.map(({ personId }) => personId) }, transaction, raw: true })
      throw refused(
        twice.map(({ personId, second }) => ({
          where: homeOf(plan.visits.find(({ visitId }) => visitId === second)!.jobId),
          problem: `${names.find(({ id }) => id === personId)?.name ?? 'Somebody'} would be in two places at once.`,
        })),
      )
    }
    return result
  })
  publish(viewer.companyId, [written])
  const made = plan.visits.filter(({ makes }) => makes).length
  return { made, moved: plan.visits.length - made }
}
