// Faults that need no killing: part of npm test, and of npm run test:faults. Each returns what was tried and what held.
import { randomUUID } from 'node:crypto'
import { backedUpWhileTheyWork } from './backup.mjs'
import { backedUpEachDay } from './daily-backup.mjs'
import { hintsBetweenServers } from './hints.mjs'
import { builtRunsAlone } from './alone.mjs'
import { behindAProxy } from './proxy.mjs'
import { beforeACluster } from './proxy-of-a-cluster.mjs'
import { envelopeOf, get, give, jobsOf, logIn, randomEnvelope } from './crew.mjs'

const day = 24 * 3_600_000
const agree = (what, good, wrong) => {
  if (!good) wrong.push(what)
}
const stateOf = async (url, person, job) => (await get(url, person, `/api/jobs/${job.jobId}`)).siteState

/** A phone that got no answer sends its batch again, and again, to either server, at the same time and later. */
export async function sameBatchThrice([first, second]) {
  const people = await logIn(first)
  const jobs = await jobsOf(first, people[3], ['School studio 2', 'Quay Loft 4'])
  const batch = Array.from({ length: 40 }, (_, index) => randomEnvelope(jobs[index % 2]))
  const told = new Map(batch.map((envelope) => [envelope.id, []]))
  const send = async (url) => {
    for (const envelope of batch) told.get(envelope.id).push((await give([url], people[3], envelope)).outcome)
  }
  await Promise.all([send(first), send(second)])
  await send(second)
  const wrong = []
  for (const [id, outcomes] of told)
    agree(`${id} was answered differently`, new Set(outcomes.map((outcome) => JSON.stringify(outcome))).size === 1, wrong)
  for (const job of jobs)
    for (const [stream, streamId] of [
      ['site', job.siteId],
      ['job', job.jobId],
    ]) {
      const { events } = await get(first, people[3], `/api/events?stream=${stream}&streamId=${streamId}&after=0`)
      agree(
        `${stream} has gaps`,
        events.every((event, index) => event.seq === index + 1),
        wrong,
      )
      for (const outcomes of told.values()) {
        const [outcome] = outcomes
        if (outcome.streamId !== streamId) continue
        const stored = events.filter((event) => event.commandId === outcome.commandId).length
        agree(
          `${outcome.commandId} is stored ${stored} times`,
          stored === (outcome.status === 'accepted' ? outcome.eventTypes.length : 0),
          wrong,
        )
      }
    }
  return { tried: 120, survived: 120 - wrong.length, wrong }
}

/** A phone whose clock is a day behind or ahead: the record keeps both times and goes by its own. By more, and only its own is kept. */
export async function clockWrongByADay([first]) {
  const people = await logIn(first)
  const [job] = await jobsOf(first, people[3], ['Ferry Office'])
  const wrong = []
  let tried = 0
  for (const off of [-day + 3_600_000, day - 3_600_000, -400 * day, day + 3_600_000]) {
    const kept = Math.abs(off) < day ? off : 0
    const at = () => new Date(Date.now() + off).toISOString()
    const breakerId = job.breakers[0]
    const { seq } = await stateOf(first, people[3], job)
    const say = async (command, over = {}) => {
      tried++
      return (await give([first], people[3], envelopeOf('site', job.siteId, command, { at: at(), basedOnSeq: seq, ...over }))).outcome
    }
    const before = Date.now()
    const closed = await say({ type: 'observeBreaker', breakerId, state: 'closed', how: 'found', note: '' })
    const opened = await say({ type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' }, { basedOnSeq: seq + 5 })
    agree('a fact was refused because of the clock', closed.status === 'accepted' && opened.status === 'accepted', wrong)
    const { events } = await get(first, people[3], `/api/events?stream=site&streamId=${job.siteId}&after=${seq}`)
    const mine = events.filter((event) => [closed.commandId, opened.commandId].includes(event.commandId))
    agree('the order is not that of the server', mine.length === 2 && mine[0].seq < mine[1].seq, wrong)
    agree(
      'it is not dated by the phone, or by the server where the phone is off by more than a day',
      mine.every((event) => Math.abs(Date.parse(event.at) - Date.now() - kept) < 60_000),
      wrong,
    )
    agree(
      'the server’s time is not kept',
      mine.every((event) => Math.abs(Date.parse(event.receivedAt) - before) < 60_000),
      wrong,
    )
    const state = await stateOf(first, people[3], job)
    agree('the breaker is not as last said', state.breakers[breakerId].state === 'open', wrong)
    // A permit to close runs by the server's clock: a phone from tomorrow does not outlive it, one from yesterday is not late.
    const asked = await say({ type: 'requestClose', grantId: randomUUID(), breakerId, clearanceId: null }, { basedOnSeq: state.seq })
    if (asked.status === 'accepted') {
      const after = await stateOf(first, people[3], job)
      const grant = Object.values(after.grants).find((one) => one.breakerId === breakerId)
      const left = Date.parse(grant.expiresAt) - Date.now()
      agree('leave does not run by the server’s clock', left > 0 && left < 3_600_000, wrong)
      await say({ type: 'answerPermit', grantId: grant.id, answer: 'givenUp' }, { basedOnSeq: after.seq })
    }
  }
  return { tried, survived: tried - wrong.length, wrong }
}

/** One of three phones is away for ten minutes: facts come late and make nothing safer, leave is refused, names stay both. */
export async function tenMinutesAway([first, second]) {
  const people = await logIn(first)
  const [, bram, kit, odo] = people
  const [job] = await jobsOf(first, odo, ['Lock Cottage'])
  const wrong = []
  let tried = 0
  const known = await stateOf(first, odo, job)
  const say = async (url, person, command, over) => {
    tried++
    return (await give([url], person, envelopeOf('site', job.siteId, command, over))).outcome
  }
  const [breakerId, other] = job.breakers
  // Meanwhile the others go on.
  await say(first, odo, { type: 'observeBreaker', breakerId, state: 'closed', how: 'found', note: '' }, { basedOnSeq: known.seq })
  await say(second, odo, { type: 'observeBreaker', breakerId: other, state: 'open', how: 'did', note: '' }, { basedOnSeq: known.seq })
  const held = { at: new Date(Date.now() - 600_000).toISOString(), basedOnSeq: known.seq, heldMs: 600_000 }
  for (const person of [bram, kit, odo]) {
    const late = await say(second, person, { type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' }, held)
    agree('a late fact was refused', late.status === 'accepted', wrong)
  }
  const after = await stateOf(first, odo, job)
  agree('a late “open” opened a breaker that was seen closed since', after.breakers[breakerId].state === 'closed', wrong)
  const asked = await say(first, odo, { type: 'requestClose', grantId: randomUUID(), breakerId: other, clearanceId: null }, held)
  agree(`leave was given from a queue: ${JSON.stringify(asked)}`, asked.status === 'refused' && asked.refusal.code === 'onlineOnly', wrong)
  const closed = await say(first, odo, { type: 'observeBreaker', breakerId: other, state: 'closed', how: 'found', note: '' }, held)
  const end = await stateOf(second, odo, job)
  agree('a late “closed” was not believed', closed.status === 'accepted' && end.breakers[other].state === 'closed', wrong)
  return { tried, survived: tried - wrong.length, wrong }
}

/** One after the other: they give commands for the same homes. */
export const inTurnFaults = [
  ['the same batch sent three times, to two servers at once', sameBatchThrice],
  ['a phone’s clock wrong by a day, both ways', clockWrongByADay],
  ['one of three phones away for ten minutes', tenMinutesAway],
  ['backed up while people work, and put back', backedUpWhileTheyWork],
]
/** Beside them: on servers of their own, mostly waiting. */
export const besideFaults = [
  ['backed up each day by the program itself', backedUpEachDay],
  ['what is built runs by itself', builtRunsAlone],
  ['behind a proxy with TLS, as the guide has it', behindAProxy],
  ['the proxy before a cluster, as the guide has it', beforeACluster],
]
/** With nothing beside it: how soon something is heard is measured. */
export const loneFaults = [['a hint between two servers, and the service for it killed', hintsBetweenServers]]
export const quickFaults = [...inTurnFaults, ...besideFaults, ...loneFaults]
