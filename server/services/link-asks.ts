import { randomBytes } from 'node:crypto'
import { Op } from 'sequelize'
import { v5 as uuidFrom } from 'uuid'
import { linkedUnits, linkObjection, linkTasks, surroundingsOf, type JobCommand, type JobState, type Unit } from '../../core/job'
import { readSetupCode } from '../../core/commission'
import { faultSaid, type LinkAnswer, type LinkTask, type LinkWork, type MeterTrace } from '../../core/link'
import type { BodyOf, JobLink, links } from '../../core/protocol'
import { database, transacted, type DeviceLinkRow, type JobRow, type LinkAskRow } from '../database'
import { runTogether } from '../database/statements'
import { isOffice, jobFor, peopleNames, viewerOf, type Viewer } from './access'
import { byProgram } from './asked'
import { settingsOf } from './branch-rules'
import { submit } from './company-writer'
import { crewOf } from './decision-context'
import { isOnline } from './device-links'
import { ApiError } from './errors'
import { announce } from './feed'
import { emptyFabric } from './projections'
import { logSecretRead, seal, unseal } from './secrets'
import { readState } from './streams'
import { parseCommand } from './write-command'

/** A question that no link takes, or that it does not come back from, is given up after so long, ms. */
const [waitsMs, worksMs] = [60_000, 150_000]
/** The link is answered at the latest after this, and the questions are looked for so often, ms. */
const [longestPollMs, lookEveryMs] = [20_000, 700]
/** So long a device is open for the household: the most that the standard allows, s (from memory). */
const openForSeconds = 900
/** Shown on a page. */
const mostShown = 30

/** Links that wait at this server are woken by what is asked of them here. */
const waiting = new Map<string, () => void>()
const pause = (linkId: string, ms: number) =>
  new Promise<void>((resolve) => {
    const timer = setTimeout(go, ms)
    function go() {
      clearTimeout(timer)
      waiting.delete(linkId)
      resolve()
    }
    waiting.set(linkId, go)
  })

const changed = ({ branchId, companyId }: Pick<LinkAskRow, 'branchId' | 'companyId'>, transaction: Parameters<typeof announce>[2]) =>
  announce(companyId, [{ topic: 'links', branchId }], transaction)

/** The link that reaches a home: the one that holds its installer, else the company’s one that was heard of last. */
async function reaches(job: Pick<JobRow, 'id' | 'companyId'>): Promise<{ link: DeviceLinkRow | null; holds: boolean }> {
  const { models } = database()
  const fabric = await models.deviceFabrics.findOne({ where: { jobId: job.id, emptiedAt: null }, raw: true })
  const rows = await models.deviceLinks.findAll({
    where: { companyId: job.companyId, endedAt: null, keyHash: { [Op.ne]: null } },
    order: [['seenAt', 'DESC']],
    raw: true,
  })
  // One that was ended took its keys along: the next one begins anew.
  const holder = rows.find(({ id }) => id === fabric?.linkId)
  return { link: holder ?? rows[0] ?? null, holds: holder !== undefined }
}
/** What was not answered in time is given up, and said. */
async function giveUpLate(where: { jobId: string } | { linkId: string }): Promise<void> {
  const { models } = database()
  const now = Date.now()
  const late = await models.linkAsks.findAll({
    where: {
      ...where,
      [Op.or]: [
        { state: 'waiting', askedAt: { [Op.lt]: new Date(now - waitsMs) } },
        { state: 'taken', takenAt: { [Op.lt]: new Date(now - worksMs) } },
      ],
    },
    raw: true,
  })
  for (const row of late)
    await finish(row, 'failed', row.state === 'waiting' ? 'No link took it within a minute.' : 'The link did not come back from it.')
}
async function finish(row: LinkAskRow, state: 'done' | 'failed', said: string, kept: Meaning['kept'] = {}): Promise<void> {
  await transacted(async (transaction) => {
    const outcome = { state, said: said.slice(0, 600), doneAt: new Date(), sealed: null, until: null, ...kept }
    await database().models.linkAsks.update(outcome, { where: { id: row.id }, transaction })
    await changed(row, transaction)
  })
}

/** The two ways in which the code of a window is written. */
interface WindowCodes {
  code: string
  square: string
}

export async function readJobLink(viewer: Viewer, jobId: string): Promise<JobLink> {
  const job = await jobFor(viewer, jobId)
  await giveUpLate({ jobId })
  const { link, holds } = await reaches(job)
  const rows = await database().models.linkAsks.findAll({
    where: { jobId },
    order: [
      ['askedAt', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: mostShown,
    raw: true,
  })
  const names = await peopleNames(viewer.companyId)
  return {
    link: link && { id: link.id, name: link.name, online: isOnline(link) },
    holds,
    asks: rows.map(({ id, unitId, doing, state, said, personId, askedAt, doneAt, sealed, until, trace }) => ({
      ...{ id, unitId, doing, state, said },
      ...{ askedBy: names.get(personId) ?? '', askedAt: askedAt.toISOString(), doneAt: doneAt?.toISOString() ?? null },
      trace: trace === null ? null : (JSON.parse(trace) as MeterTrace),
      opened: until && sealed && until > new Date() ? { ...(JSON.parse(unseal(sealed)) as WindowCodes), until: until.toISOString() } : null,
    })),
  }
}

/** Asks the link for something at a device. The same id again is the same question; one device is asked one thing at a time. */
export async function askLink(
  viewer: Viewer,
  jobId: string,
  { id, unitId, doing, clear, code, anyway }: BodyOf<typeof links.askLink>,
): Promise<{ id: string }> {
  const job = await jobFor(viewer, jobId)
  const { models } = database()
  const onCrew = await transacted((transaction) => crewOf([viewer], [job.siteId], transaction))
  // Whoever has left lets the household in and takes the installer off from the office as well.
  const fromOffice = doing === 'leave' || doing === 'homes' || doing === 'open'
  if (!onCrew(viewer, { jobId }) && !(fromOffice && isOffice(viewer)))
    throw new ApiError(403, 'notOnCrew', 'You are not on a visit of this job. Ask the dispatcher to put you on it.')
  const shown = doing === 'join' && code ? readSetupCode('openHome', code) : null
  if (shown && !shown.ok)
    throw new ApiError(422, 'codeUnread', `${shown.problem} It is the code that the app shows when it opens the device for one more home.`)
  const known = await models.linkAsks.findByPk(id, { raw: true })
  if (known) {
    if (known.jobId === jobId && known.unitId === unitId && known.doing === doing) return { id }
    throw new ApiError(409, 'otherQuestion', 'This id belongs to another question.')
  }
  await giveUpLate({ jobId })
  const [state, site] = await Promise.all([readState('job', jobId), readState('site', job.siteId)])
  const no = linkObjection(state, site, unitId, doing, { clear, code: shown !== null })
  if (no) throw new ApiError(409, no.code, [...no.reasons, ...no.toYes].join(' '))
  const { link } = await reaches(job)
  if (!link) throw new ApiError(409, 'noLink', 'No laptop is a link of this company yet. Make a code in the settings.')
  if (!isOnline(link))
    throw new ApiError(409, 'linkAway', `${link.name} is not heard of. Open it in the network of this home and start the link.`)
  await transacted(async (transaction) => {
    // Two who ask at once ask one after the other.
    await models.deviceLinks.findByPk(link.id, { transaction, lock: transaction.LOCK.UPDATE })
    const busy = await models.linkAsks.findOne({ where: { jobId, unitId, state: ['waiting', 'taken'] }, transaction })
    if (busy) throw new ApiError(409, 'linkBusy', 'The link is at this device already.')
    if (!(await models.deviceFabrics.findByPk(jobId, { transaction })))
      await models.deviceFabrics.create(
        {
          jobId,
          companyId: job.companyId,
          linkId: link.id,
          seal: seal(randomBytes(32).toString('base64')),
          openedAt: new Date(),
          emptiedAt: null,
        },
        { transaction },
      )
    else await models.deviceFabrics.update({ linkId: link.id, emptiedAt: null }, { where: { jobId }, transaction })
    await models.linkAsks.create(
      {
        ...{ id, companyId: job.companyId, branchId: job.branchId, jobId, unitId, linkId: link.id, personId: viewer.personId, doing },
        ...{ state: 'waiting', said: '', askedAt: new Date(), takenAt: null, doneAt: null },
        ...{ anyway, sealed: shown ? seal(code) : null, until: null, trace: null },
      },
      { transaction },
    )
    await changed(job, transaction)
  })
  waiting.get(link.id)?.()
  return { id }
}

/** Work for a link: waits for some, and answers with none after a while. */
export async function takeLinkTasks(link: DeviceLinkRow, gone: () => boolean): Promise<{ tasks: LinkTask[] }> {
  const { models } = database()
  const wasAway = !isOnline(link)
  await models.deviceLinks.update({ seenAt: new Date() }, { where: { id: link.id } })
  if (wasAway) await transacted((transaction) => announce(link.companyId, [{ topic: 'links', branchId: null }], transaction))
  await giveUpLate({ linkId: link.id })
  for (const until = Date.now() + longestPollMs; ;) {
    const rows = await models.linkAsks.findAll({
      where: { linkId: link.id, state: 'waiting' },
      order: [['askedAt', 'ASC']],
      limit: 20,
      raw: true,
    })
    const tasks: LinkTask[] = []
    for (const row of rows) {
      const task = await taskOf(row)
      if (task) tasks.push(task)
    }
    if (tasks.length || Date.now() > until || gone()) return { tasks }
    await pause(link.id, lookEveryMs)
  }
}

async function taskOf(row: LinkAskRow): Promise<LinkTask | null> {
  const { models } = database()
  const job = await models.jobs.findByPk(row.jobId, { raw: true })
  const fabric = await models.deviceFabrics.findByPk(row.jobId, { raw: true })
  if (!job || !fabric) return null
  const [state, site] = await Promise.all([readState('job', job.id), readState('site', job.siteId)])
  // A box may have been opened since it was asked.
  const no = linkObjection(state, site, row.unitId, row.doing, { clear: true, code: row.sealed !== null })
  const unit = state.units[row.unitId]
  const work = unit && !no ? await workOf(row, state, unit) : null
  if (!unit || !work) {
    await finish(row, 'failed', no?.reasons.join(' ') ?? 'There is nothing to do any more.')
    return null
  }
  const [taken] = await models.linkAsks.update({ state: 'taken', takenAt: new Date() }, { where: { id: row.id, state: 'waiting' } })
  return taken
    ? {
        id: row.id,
        jobId: job.id,
        unitId: unit.id,
        seal: await sealOf(fabric),
        around: surroundingsOf(state, site, unit, Date.now()),
        work,
      }
    : null
}
/** What the fabric of a job is sealed with: made anew once nothing in the home carries the installer any more. */
async function sealOf({ jobId, seal: sealed }: { jobId: string; seal: string }): Promise<string> {
  if (sealed) return unseal(sealed)
  const { deviceFabrics } = database().models
  const made = randomBytes(32).toString('base64')
  const [mine] = await deviceFabrics.update({ seal: seal(made), emptiedAt: null }, { where: { jobId, seal: '' } })
  return mine ? made : unseal((await deviceFabrics.findByPk(jobId, { raw: true }))!.seal)
}
async function workOf(row: LinkAskRow, state: JobState, unit: Unit): Promise<LinkWork | null> {
  switch (row.doing) {
    case 'join': {
      if (row.sealed) return { do: 'join', code: unseal(row.sealed) }
      if (!unit.code.sealed) return null
      await logSecretRead({ companyId: row.companyId, personId: row.personId } as Viewer, 'setupCode', unit.id)
      return { do: 'join', code: unseal(unit.code.sealed) }
    }
    case 'check':
    case 'wall':
      return linkTasks.work(state, unit, row.doing === 'wall')
    case 'trace':
      return linkTasks.trace(state, unit)
    case 'name':
      return { do: 'name', name: unit.name }
    case 'open':
      return { do: 'open', seconds: openForSeconds }
    case 'homes':
      return { do: 'homes' }
    case 'leave':
      return { do: 'leave', gone: unit.removedAt !== null, anyway: Boolean(row.anyway) }
  }
}

/** What came of a task, into the record as the word of whoever asked. The same again changes nothing. */
export async function takeLinkAnswer(link: DeviceLinkRow, { id, answer }: BodyOf<typeof links.giveLinkAnswer>): Promise<{ ok: true }> {
  const { models } = database()
  const row = await models.linkAsks.findOne({ where: { id, linkId: link.id }, raw: true })
  if (!row) throw new ApiError(404, 'noSuchTask', 'This task is none of this link.')
  if (row.state === 'done') return { ok: true }
  const person = await models.people.findByPk(row.personId)
  const job = await models.jobs.findByPk(row.jobId)
  if (!person || !job) return { ok: true }
  const { command, said, good, kept } = meaningOf(row, answer, await readState('job', job.id))
  if (command) {
    // Of this task: said twice, it is stored once.
    const envelope = byProgram('job', job.id, command, new Date(), { id: uuidFrom('answer', row.id) })
    const viewer = await viewerOf(person)
    const settings = await settingsOf(job.branchId)
    const { outcome } = await submit({ envelope, command: parseCommand(envelope), viewer, now: new Date(), row: job, settings })
    if (outcome.status === 'refused') {
      await finish(row, 'failed', outcome.refusal.reasons.join(' '))
      return { ok: true }
    }
  }
  await finish(row, good ? 'done' : 'failed', said, kept)
  await settleHolding(job.id)
  return { ok: true }
}
/** A home in which no device carries the installer, nor is about to, is held by no link, and its key is thrown away. One that was given up may come late. */
async function settleHolding(jobId: string): Promise<void> {
  if (linkedUnits(await readState('job', jobId)).length) {
    await database().models.deviceFabrics.update({ emptiedAt: null }, { where: { jobId } })
    return
  }
  await transacted((transaction) => runTogether([emptyFabric(jobId)], transaction))
}

interface Meaning {
  command: JobCommand | null
  said: string
  good: boolean
  /** What is kept with the question beside it. */
  kept?: Partial<Pick<LinkAskRow, 'sealed' | 'until' | 'trace'>>
}
function meaningOf(row: LinkAskRow, answer: LinkAnswer, state: JobState): Meaning {
  const { unitId } = row
  const unit = state.units[unitId]
  if (!unit) return { command: null, said: 'The device is not part of the record any more.', good: false }
  if (!answer.ok) {
    const doing = row.doing === 'wall' ? 'check' : row.doing
    return { command: { type: 'noteLinkFault', unitId, doing, fault: answer.fault }, said: faultSaid(answer.fault, row.doing), good: false }
  }
  switch (answer.did) {
    case 'join': {
      const { device } = answer
      return { command: { type: 'linkUnit', unitId, device }, said: `Joined in ${(device.ms / 1000).toFixed(1)} s.`, good: true }
    }
    case 'check': {
      const results = linkTasks.results(state, unit, answer)
      const failed = results.filter(({ result }) => result === 'fail')
      return {
        command: results.length ? { type: 'recordLinkChecks', unitId, results } : null,
        said: failed.length
          ? `${failed.length} of ${results.length} checks failed: ${failed[0]!.measured}.`
          : `${results.length} checks passed.`,
        good: failed.length === 0,
      }
    }
    case 'trace': {
      const { at, watts } = answer.trace
      const most = Math.max(0, ...watts)
      return {
        command: null,
        said: at.length ? `${at.length} readings, ${most.toFixed(most < 10 ? 1 : 0)} W at most.` : 'Its meter said nothing.',
        good: at.length > 0,
        kept: { trace: JSON.stringify(answer.trace) },
      }
    }
    case 'name': {
      const { kept } = answer
      const same = kept === unit.name
      return {
        command: { type: 'noteDeviceName', unitId, name: unit.name, kept },
        said: same ? `It keeps “${kept}”.` : `It keeps only “${kept}”: the standard has room for 32 letters.`,
        good: same,
      }
    }
    case 'open': {
      const { code, square } = answer
      const until = new Date((row.takenAt ?? new Date()).getTime() + openForSeconds * 1000)
      return {
        command: { type: 'noteOpened', unitId, until: until.toISOString() },
        said: 'It was opened for the household for a quarter of an hour.',
        good: true,
        kept: { sealed: seal(JSON.stringify({ code, square } satisfies WindowCodes)), until },
      }
    }
    case 'homes': {
      const others = answer.homes.filter(({ own }) => !own).length
      const said = others ? 'The household is on it.' : 'Nobody of the household is on it yet.'
      return { command: { type: 'noteHomes', unitId, homes: answer.homes }, said, good: others > 0 }
    }
    case 'leave': {
      const { homesLeft } = answer
      const said = homesLeft === 0 ? 'The installer is off it, and no home is left on it.' : 'The installer is off it.'
      return { command: { type: 'unlinkUnit', unitId, homesLeft }, said, good: true }
    }
  }
}
