import { createHash } from 'node:crypto'
import { DateTime } from 'luxon'
import { Op, QueryTypes, UniqueConstraintError, type Transaction } from 'sequelize'
import { v7 as uuid } from 'uuid'
import type { z } from 'zod'
import { deviceModelSchema, type DeviceModel } from '../../core/fit'
import {
  decideJob,
  findingsOf,
  jobCommandSchema,
  judgePlan,
  jobUpcasters,
  type JobCommand,
  type JobContext,
  type JobState,
} from '../../core/record'
import {
  decideSite,
  pinTypes,
  siteCommandSchema,
  systemTypes,
  siteUpcasters,
  type SiteCommand,
  type SiteContext,
  type SiteState,
} from '../../core/safety'
import type { refuse, CommandEnvelope, EventDraft, Outcome, StreamEvent, StreamKind } from '../../core/stream'
import { currentVersion, plainProblem } from '../../core/stream'
import { branchSettingsSchema, type BranchSettings } from '../../core/units'
import { database, type JobRow, type SiteRow, type StreamRow } from '../database'
import { hub } from '../realtime/hub'
import { actorOf, jobFor, siteFor, viewerOf, type Viewer } from './access'
import { ApiError, notFound } from './errors'
import { announce, type FeedChange } from './feed'
import { jobRowTypes, projectCounts, projectJob, projectSite } from './projections'
import { checkPin } from './pins'
import { reconcileSites } from './reconcile'
import { asksOtherRecords, otherRecordForbids, otherRecordsOf } from './home-links'
import { seal, unseal } from './secrets'
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

/** Is this person on a planned or running visit at the site (or of the job), or the lead? */
async function isOnCrew(viewer: Viewer, where: { siteId: string } | { jobId: string }, transaction: Transaction): Promise<boolean> {
  if (viewer.role === 'lead') return true
  const { models } = database()
  const mine = await models.visitPeople.findAll({ where: { personId: viewer.personId }, attributes: ['visitId'], transaction, raw: true })
  if (mine.length === 0) return false
  return (
    (await models.visits.count({ where: { ...where, status: ['planned', 'onSite'], id: mine.map((row) => row.visitId) }, transaction })) > 0
  )
}

/** How long before and after its times a visit still counts as today's, hours. Common practice, no source. */
const visitMarginHours = 12
/** Is this person on a visit of this site that is due now, or under way? Leads too: a title is no presence. */
async function isOnVisit(viewer: Viewer, siteId: string, now: Date, transaction: Transaction): Promise<boolean> {
  const { models } = database()
  const mine = await models.visitPeople.findAll({ where: { personId: viewer.personId }, attributes: ['visitId'], transaction, raw: true })
  const margin = visitMarginHours * 3_600_000
  return (
    (await models.visits.count({
      where: {
        siteId,
        id: mine.map((row) => row.visitId),
        [Op.or]: [
          { status: 'onSite' },
          {
            status: 'planned',
            startsAt: { [Op.lt]: new Date(now.getTime() + margin) },
            endsAt: { [Op.gt]: new Date(now.getTime() - margin) },
          },
        ],
      },
      transaction,
    })) > 0
  )
}

/** The instrument a command needs to know of. */
function instrumentOf(command: SiteCommand, state: SiteState): string | null {
  if (command.type === 'startProof') return command.instrumentId
  if (command.type === 'finishProof') return state.proofs[command.proofId]?.instrumentId ?? null
  return command.type === 'recordCause' && 'again' in command.cause ? command.cause.again.instrumentId : null
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

export async function catalogueModel(companyId: string, modelId: string, transaction?: Transaction): Promise<DeviceModel | null> {
  const row = await database().models.models.findOne({ where: { id: modelId, companyId, active: true }, transaction, raw: true })
  return row ? deviceModelSchema.parse(JSON.parse(row.data)) : null
}

/** The settings of a branch, and its zone: a calibration ends with a day there. */
type BranchRules = BranchSettings & { timezone: string }
export const rulesOf = ({ settings, timezone }: { settings: unknown; timezone: string }): BranchRules => ({
  ...branchSettingsSchema.parse(settings),
  timezone,
})

async function siteContext(
  viewer: Viewer,
  site: SiteRow,
  envelope: CommandEnvelope,
  command: SiteCommand,
  settings: BranchRules,
  now: Date,
  transaction: Transaction,
  state: SiteState,
): Promise<SiteContext> {
  const instrumentId = instrumentOf(command, state)
  const instrument = instrumentId
    ? await database().models.instruments.findOne({
        where: { id: instrumentId, companyId: site.companyId, active: true },
        transaction,
        raw: true,
      })
    : null
  return {
    actor: actorOf(viewer),
    today: DateTime.fromJSDate(now, { zone: settings.timezone }).toISODate()!,
    onCrew: await isOnCrew(viewer, { siteId: site.id }, transaction),
    onVisit: command.type === 'witnessProof' && (await isOnVisit(viewer, site.id, now, transaction)),
    everyPair: settings.proofEveryPair,
    // Nobody has seen what is not there yet.
    basedOnSeq: Math.min(envelope.basedOnSeq, state.seq),
    heldMs: envelope.heldMs,
    now: now.toISOString(),
    proofLimitMinutes: settings.proofLimitMinutes,
    instrument: (id) =>
      instrument && instrument.id === id
        ? {
            name: instrument.name,
            serial: instrument.serial,
            kind: instrument.kind,
            calibrationDue: String(instrument.calibrationDue),
            lowestStepVolts: instrument.lowestStepVolts,
            outOfService: Boolean(instrument.outOfService),
            provedGoodAt: instrument.provedGoodAt?.toISOString() ?? null,
          }
        : null,
  }
}

type Visiting = Extract<JobCommand, { type: 'scheduleVisit' | 'moveVisit' }>
/** Other visits of the people of a visit at its time; their rows are held by whoever asks. */
async function bookedElsewhere(command: Visiting, zone: string, transaction: Transaction): Promise<JobContext['bookedElsewhere']> {
  const { sequelize } = database()
  const replacements = {
    people: command.personIds,
    visitId: command.visitId,
    from: new Date(command.startsAt),
    to: new Date(command.endsAt),
  }
  const rows = await sequelize.query<{ name: string; what: string; startsAt: string; endsAt: string }>(
    `SELECT p.name, s.name AS what, DATE_FORMAT(v.starts_at, '%Y-%m-%dT%H:%i:%s.000Z') AS startsAt, DATE_FORMAT(v.ends_at, '%Y-%m-%dT%H:%i:%s.000Z') AS endsAt FROM visits v JOIN visit_people vp ON vp.visit_id = v.id
       JOIN people p ON p.id = vp.person_id JOIN sites s ON s.id = v.site_id
     WHERE vp.person_id IN (:people) AND v.id <> :visitId AND v.status IN ('planned', 'onSite') AND v.starts_at < :to AND v.ends_at > :from ORDER BY v.starts_at LIMIT 6`,
    { replacements, transaction, type: QueryTypes.SELECT },
  )
  const at = (iso: string) => DateTime.fromISO(iso, { zone }).toFormat('d LLL H:mm')
  return rows.map(({ name, what, startsAt, endsAt }) => ({ name, what, from: at(startsAt), to: at(endsAt) }))
}

async function jobContext(
  viewer: Viewer,
  job: JobRow,
  { jobSeq, heldMs }: CommandEnvelope,
  command: JobCommand,
  site: SiteState,
  settings: BranchRules,
  now: Date,
  transaction: Transaction,
): Promise<JobContext> {
  const { models } = database()
  const model = command.type === 'chooseDevice' ? await catalogueModel(job.companyId, command.modelId, transaction) : null
  const photo = command.type === 'addPhoto' ? await models.photos.count({ where: { id: command.photoId, jobId: job.id }, transaction }) : 0
  const asked = command.type === 'scheduleVisit' || command.type === 'moveVisit' ? command.personIds : []
  const known = asked.length
    ? await models.people.findAll({
        // A helper from another branch comes with the rights of that visit.
        where: { id: asked, companyId: job.companyId, active: true },
        attributes: ['id'],
        // Held until the visit is stored, one after the other: two dispatchers cannot book one person in the same moment unhearing.
        order: [['id', 'ASC']],
        lock: transaction.LOCK.UPDATE,
        transaction,
        raw: true,
      })
    : []
  const names =
    command.type === 'nameUnit'
      ? await models.units.findAll({
          where: { siteId: job.siteId, removedAt: null },
          attributes: ['name', 'jobId'],
          transaction,
          raw: true,
        })
      : []
  const serial = command.type === 'recordUnit' || command.type === 'replaceUnit' ? command.serial : null
  const used = serial ? await models.units.count({ where: { companyId: job.companyId, serial }, transaction }) : 0
  return {
    actor: actorOf(viewer),
    onCrew: await isOnCrew(viewer, { jobId: job.id }, transaction),
    jobSeq,
    heldMs,
    site,
    method: settings,
    now: now.toISOString(),
    proofLimitMinutes: settings.proofLimitMinutes,
    model: (id) => (model?.id === id ? model : null),
    hasPhoto: () => photo > 0,
    isPerson: (id) => known.some((person) => person.id === id),
    bookedElsewhere: asked.length ? await bookedElsewhere(command as Visiting, settings.timezone, transaction) : [],
    otherNames: names.filter((unit) => unit.jobId !== job.id && unit.name).map((unit) => unit.name),
    serialInUse: (asking) => asking === serial && used > 0,
    findings: findingsOf,
    judgePlan,
    seal,
    unseal,
  }
}

export interface Writing {
  envelope: CommandEnvelope
  viewer: Viewer
  now: Date
}

function toEvents(
  kind: StreamKind,
  streamId: string,
  seq: number,
  drafts: EventDraft[],
  { envelope, viewer, now }: Writing,
): StreamEvent[] {
  const upcasters = kind === 'site' ? siteUpcasters : jobUpcasters
  return drafts.map((draft, index) => ({
    id: uuid(),
    stream: kind,
    streamId,
    seq: seq + 1 + index,
    commandId: envelope.id,
    version: currentVersion(upcasters, draft.type),
    at: envelope.at,
    receivedAt: now.toISOString(),
    actor: actorOf(viewer),
    type: draft.type,
    payload: draft.payload,
  }))
}

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
  const command = parseCommand(siteCommandSchema, envelope.command)
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
  const command = parseCommand(jobCommandSchema, envelope.command)
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
  if (events.some((event) => jobRowTypes.has(event.type)))
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

/** Whoever gives this command: the sender, or a crew mate on the sender's device with their own PIN. */
async function actingPerson(envelope: CommandEnvelope, sender: Viewer, now: Date): Promise<Viewer> {
  if (!envelope.onBehalf) return sender
  const { type } = envelope.command
  if (envelope.stream !== 'site' || !pinTypes.has(type as SiteCommand['type']))
    throw new ApiError(403, 'notByPin', 'This is not done with a PIN on somebody else’s device.')
  const person = await checkPin(sender.companyId, envelope.onBehalf.personId, envelope.onBehalf.pin, now)
  return { ...(await viewerOf(person)), via: { personId: sender.personId, initials: sender.initials } }
}

/**
 * Takes one command: decides it against the locked state and stores events, outcome and rows together. The same id
 * again gives the stored outcome. Throws ApiError for what is no decision: not found, not yours, not a command.
 */
export async function execute(envelope: CommandEnvelope, sender: Viewer, now = new Date()): Promise<Outcome> {
  const viewer = await actingPerson(envelope, sender, now)
  const row = envelope.stream === 'site' ? await siteFor(viewer, envelope.streamId) : await jobFor(viewer, envelope.streamId)
  if (envelope.stream === 'site' && systemTypes.has(envelope.command.type as SiteCommand['type']))
    throw new ApiError(403, 'notByHand', 'This follows from the register, and is not given by hand.')
  const settings = await settingsOf(row.branchId)
  const write = () =>
    database().sequelize.transaction((transaction) => writeCommand(envelope.stream, row, settings, { envelope, viewer, now }, transaction))
  let written: Written
  try {
    written = await write()
  } catch (error) {
    if (!(error instanceof UniqueConstraintError)) throw error
    // Somebody else stored the same serial or the same command id a moment earlier: decide once more on what is there now.
    written = await write().catch((again: unknown) => {
      throw again instanceof UniqueConstraintError
        ? new ApiError(409, 'idTaken', 'Something else already has this id. Nothing was stored; try again.')
        : again
    })
  }
  publish(viewer.companyId, [written])
  if (written.testerFailed) await reconcileSites(viewer.companyId, viewer, now)
  return written.outcome
}

/** The settings of a branch: a guest on a visit works by the rules of the branch they help. */
export async function settingsOf(branchId: string, transaction?: Transaction): Promise<BranchRules> {
  const branch = await database().models.branches.findByPk(branchId, { transaction })
  return rulesOf(branch!)
}
