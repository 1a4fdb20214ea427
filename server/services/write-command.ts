import { createHash } from 'node:crypto'
import type { Transaction } from 'sequelize'
import { v7 as uuid } from 'uuid'
import type { z } from 'zod'
import { decideJob, type JobState } from '../../core/job'
import { decideSite, type SiteCommand, type SiteState } from '../../core/site'
import type { refuse, CommandEnvelope, EventDraft, Outcome, StreamEvent, StreamKind } from '../../core/stream'
import { entriesOf, plainProblem } from '../../core/stream'
import { streamSchemas } from '../../core/stream-schemas'
import { streams } from '../../core/streams'
import { database, type JobRow, type SiteRow, type StreamRow } from '../database'
import { hub } from '../realtime/hub'
import { actorOf, type Viewer } from './access'
import { jobContext, settingsOf, siteContext, type BranchRules } from './decision-context'
import { ApiError, notFound } from './errors'
import { announce, type FeedChange } from './feed'
import { asksOtherRecords, otherRecordForbids, otherRecordsOf } from './home-links'
import { projectCounts, projectJob, projectSite } from './projections'
import { append, lockState, publishState } from './streams'

/** Same id, same content: a fingerprint tells a repeated command from a reused id. */
function fingerprintOf(envelope: CommandEnvelope): string {
  return createHash('sha256')
    .update(JSON.stringify([envelope.stream, envelope.streamId, envelope.command]))
    .digest('hex')
}

function parseCommand<S extends z.ZodType>(schema: S, command: unknown): z.infer<S> {
  const parsed = schema.safeParse(command, { error: plainProblem })
  if (!parsed.success)
    throw new ApiError(
      400,
      'badCommand',
      'This command is not complete.',
      parsed.error.issues.map((issue) => ({ where: issue.path.join('.'), problem: issue.message })),
    )
  return parsed.data
}

/** A tester that failed here is out of service in the whole company, until a lead brings it back. */
async function takeOutOfService(
  companyId: string,
  before: SiteState,
  after: SiteState,
  events: StreamEvent[],
  transaction: Transaction,
): Promise<boolean> {
  const failed = Object.keys(after.failedInstruments).filter((id) => before.failedInstruments[id]?.at !== after.failedInstruments[id]!.at)
  if (failed.length === 0 || events.every((event) => event.type === 'instrumentFailed')) return false
  await database().models.instruments.update(
    { outOfService: true, failedWhy: 'Failed its check at a home.' },
    { where: { id: failed, companyId }, transaction },
  )
  await announce(companyId, [{ topic: 'instruments', branchId: null }], transaction)
  return true
}

export interface Writing {
  envelope: CommandEnvelope
  viewer: Viewer
  now: Date
}

const toEvents = (kind: StreamKind, streamId: string, seq: number, drafts: EventDraft[], { envelope, viewer, now }: Writing) =>
  entriesOf(
    streams[kind],
    seq,
    drafts,
    { streamId, commandId: envelope.id, at: envelope.at, receivedAt: now.toISOString(), actor: actorOf(viewer) },
    uuid,
  )

async function remembered(
  envelope: CommandEnvelope,
  viewer: Viewer,
  fingerprint: string,
  transaction: Transaction,
): Promise<Outcome | null> {
  const row = await database().models.commands.findByPk(envelope.id, { transaction, raw: true })
  if (!row) return null
  if (row.fingerprint !== fingerprint || row.personId !== viewer.personId)
    throw new ApiError(409, 'commandIdReused', 'This command id was already used for something else.')
  return JSON.parse(row.outcome) as Outcome
}

export interface Written {
  outcome: Outcome
  states: [string, SiteState | JobState][]
  wake: boolean
  /** A tester failed: what other homes rest on it ends too. */
  testerFailed?: boolean
}

const outcomeOf = (
  envelope: CommandEnvelope,
  seq: number,
  result: { ok: true; events: { type: string }[] } | ReturnType<typeof refuse>,
): Outcome => {
  const base = { commandId: envelope.id, stream: envelope.stream, streamId: envelope.streamId, seq }
  return result.ok
    ? { status: 'accepted', ...base, eventTypes: result.events.map((event) => event.type) }
    : { status: 'refused', ...base, refusal: result.refusal }
}

async function remember(
  outcome: Outcome,
  command: { type: string },
  fingerprint: string,
  { viewer, now }: Writing,
  transaction: Transaction,
): Promise<void> {
  await database().models.commands.create(
    {
      id: outcome.commandId,
      companyId: viewer.companyId,
      personId: viewer.personId,
      streamId: outcome.streamId,
      fingerprint,
      type: command.type,
      outcome: JSON.stringify(outcome),
      receivedAt: now,
    },
    { transaction },
  )
}

const streamChange = (topic: 'site' | 'job', row: StreamRow, toSeq: number): FeedChange[] =>
  toSeq > row.seq ? [{ topic, branchId: row.branchId, streamId: row.id, fromSeq: row.seq + 1, toSeq }] : []

/**
 * A box that was opened takes the tests of its points along, in every job of the home: their counts follow. No job of the
 * home changes meanwhile, for every command of one locks the site first.
 */
async function recount(before: SiteState, site: SiteState, transaction: Transaction): Promise<void> {
  const opened = Object.values(site.boxes).some((box) => box.lastOpenedAt !== (before.boxes[box.id]?.lastOpenedAt ?? null))
  if (!opened) return
  const jobs = await database().models.jobs.findAll({ where: { siteId: site.siteId }, attributes: ['id'], transaction, raw: true })
  for (const { id } of jobs) {
    const job = await lockState('job', id, transaction)
    if (job) await projectCounts(job.state, site, transaction)
  }
}

async function writeSite(site: SiteRow, settings: BranchRules, writing: Writing, transaction: Transaction): Promise<Written> {
  const { envelope, viewer, now } = writing
  const command = parseCommand(streamSchemas.site.command, envelope.command)
  const fingerprint = fingerprintOf(envelope)
  // Records of one home are locked together, always in one order: what one allows the other may not contradict meanwhile.
  const others = asksOtherRecords(command) ? await otherRecordsOf(site, transaction) : []
  const states = new Map<string, NonNullable<Awaited<ReturnType<typeof lockState<'site'>>>>>()
  for (const id of [site.id, ...others.map((other) => other.id)].sort()) {
    const locked = await lockState('site', id, transaction)
    if (locked) states.set(id, locked)
  }
  const locked = states.get(site.id)
  if (!locked) throw notFound('This site')
  const known = await remembered(envelope, viewer, fingerprint, transaction)
  if (known) return { outcome: known, states: [], wake: false }
  const context = await siteContext(viewer, site, envelope, command, settings, now, transaction, locked.state)
  const twins = others.flatMap(({ id, name }) => (states.get(id) ? [{ name, state: states.get(id)!.state }] : []))
  const decision = otherRecordForbids(command, twins) ?? decideSite(locked.state, command, context)
  const events = decision.ok ? toEvents('site', site.id, locked.row.seq, decision.events, writing) : []
  const after = await append('site', locked.row, locked.state, events, transaction)
  const outcome = outcomeOf(envelope, after.seq, decision)
  await remember(outcome, command, fingerprint, writing, transaction)
  if (events.length > 0) await projectSite(locked.state, after, locked.row, transaction)
  await recount(locked.state, after, transaction)
  const testerFailed = await takeOutOfService(site.companyId, locked.state, after, events, transaction)
  await announce(site.companyId, streamChange('site', locked.row, after.seq), transaction)
  return { outcome, states: [[site.id, after]], wake: events.length > 0, testerFailed }
}

async function writeJob(job: JobRow, settings: BranchRules, writing: Writing, transaction: Transaction): Promise<Written> {
  const { envelope, viewer, now } = writing
  const command = parseCommand(streamSchemas.job.command, envelope.command)
  const fingerprint = fingerprintOf(envelope)
  // Site before job, always: the energy state may not change between the decision and the commit.
  const siteLocked = await lockState('site', job.siteId, transaction)
  const jobLocked = await lockState('job', job.id, transaction)
  if (!siteLocked || !jobLocked) throw notFound('This job')
  const known = await remembered(envelope, viewer, fingerprint, transaction)
  if (known) return { outcome: known, states: [], wake: false }
  const context = await jobContext(viewer, job, envelope, command, siteLocked.state, settings, now, transaction)
  const decision = decideJob(jobLocked.state, command, context)
  const events = decision.ok ? toEvents('job', job.id, jobLocked.row.seq, decision.events, writing) : []
  const siteEvents = decision.ok ? toEvents('site', job.siteId, siteLocked.row.seq, decision.siteEvents, writing) : []
  const siteAfter = await append('site', siteLocked.row, siteLocked.state, siteEvents, transaction)
  const jobAfter = await append('job', jobLocked.row, jobLocked.state, events, transaction)
  const outcome = outcomeOf(envelope, jobAfter.seq, decision)
  await remember(outcome, command, fingerprint, writing, transaction)
  if (siteEvents.length > 0) await projectSite(siteLocked.state, siteAfter, siteLocked.row, transaction)
  if (events.some((event) => streams.job.events.get(event.type)!.rules.rows))
    await projectJob(jobLocked.state, jobAfter, siteAfter, jobLocked.row, transaction)
  await announce(
    job.companyId,
    [...streamChange('site', siteLocked.row, siteAfter.seq), ...streamChange('job', jobLocked.row, jobAfter.seq)],
    transaction,
  )
  return {
    outcome,
    states: [
      [job.siteId, siteAfter],
      [job.id, jobAfter],
    ],
    wake: events.length + siteEvents.length > 0,
  }
}

/** Decides and stores one command inside a transaction that the caller commits; publish() follows the commit. */
export function writeCommand(
  kind: StreamKind,
  row: JobRow | SiteRow,
  settings: BranchRules,
  writing: Writing,
  transaction: Transaction,
): Promise<Written> {
  return kind === 'site'
    ? writeSite(row as SiteRow, settings, writing, transaction)
    : writeJob(row as JobRow, settings, writing, transaction)
}

/** Gives a command that no client sent, in a transaction of its own; publish() follows. */
export async function giveToSite(
  site: SiteRow,
  viewer: Viewer,
  command: SiteCommand,
  { basedOnSeq, now }: { basedOnSeq: number; now: Date },
): Promise<Written> {
  const envelope = {
    id: uuid(),
    stream: 'site' as const,
    streamId: site.id,
    at: now.toISOString(),
    basedOnSeq,
    jobSeq: null,
    heldMs: 0,
    command,
  }
  return database().sequelize.transaction(async (transaction) =>
    writeCommand('site', site, await settingsOf(site.branchId, transaction), { envelope, viewer, now }, transaction),
  )
}

/** After the commit: the next reader starts from the new states, and connected clients hear of them. */
export function publish(companyId: string, written: Written[]): void {
  for (const { states } of written) for (const [id, state] of states) publishState(id, state)
  if (written.some((one) => one.wake)) hub.wake(companyId)
}
