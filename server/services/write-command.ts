import { createHash } from 'node:crypto'
import type { Transaction } from 'sequelize'
import { v7 as uuid } from 'uuid'
import { decideJob, type JobCommand } from '../../core/job'
import { decideSite, underTodaysName, type SiteCommand, type SiteState } from '../../core/site'
import {
  entriesOf,
  foldEvents,
  plainProblem,
  type refuse,
  type CommandEnvelope,
  type EventDraft,
  type Outcome,
  type StreamEvent,
  type StreamKind,
} from '../../core/stream'
import { streamSchemas } from '../../core/stream-schemas'
import { streams, type StateOf } from '../../core/streams'
import { database, transacted, type JobRow, type SiteRow, type StreamRow } from '../database'
import { isFingerprintOf, keyedFingerprint } from '../database/secret-key'
import { insertInto, runTogether, type Statement } from '../database/statements'
import { hub } from '../realtime/hub'
import { actorOf, type Viewer } from './access'
import { byProgram, type Asked, type Writing } from './asked'
import { settingsOf } from './branch-rules'
import { crewOf, jobContext, siteContext, type OnCrew } from './decision-context'
import { nearMissStatements } from './near-misses'
import { ApiError, notFound, wasErased } from './errors'
import { feedStatements, type FeedChange } from './feed'
import { asksOtherRecords, otherRecordForbids, otherRecordsOf } from './home-links'
import { countStatement, jobStatements, siteStatements } from './projections'
import { eventStatements, lockState, lockStates, publishState, reducerOf } from './streams'

/** Same id, same content: a fingerprint tells a repeated command from a reused id. */
const digestOf = ({ stream, streamId, command }: CommandEnvelope): string =>
  createHash('sha256')
    .update(JSON.stringify([stream, streamId, command]))
    .digest('hex')

/** Reads a command by its schema. Throws ApiError 400. */
export function parseCommand(envelope: CommandEnvelope): SiteCommand | JobCommand {
  const parsed = streamSchemas[envelope.stream].command.safeParse(underTodaysName(envelope.command), { error: plainProblem })
  if (parsed.success) return parsed.data
  throw new ApiError(
    400,
    'badCommand',
    'This command is not complete.',
    parsed.error.issues.map((issue) => ({ where: issue.path.join('.'), problem: issue.message })),
  )
}

/** A tester that failed here is out of service in the whole company, until a lead brings it back. */
async function takeOutOfService(companyId: string, { before, after, events }: Held<'site'>, transaction: Transaction): Promise<boolean> {
  const failed = Object.keys(after.failedInstruments).filter((id) => before.failedInstruments[id]?.at !== after.failedInstruments[id]!.at)
  if (failed.length === 0 || events.every((event) => event.type === 'instrumentFailed')) return false
  await database().models.instruments.update(
    { outOfService: true, failedWhy: 'Failed its check at a home.' },
    { where: { id: failed, companyId }, transaction },
  )
  return true
}

/** A record that is locked for a group of commands: as it was committed, and as they have made it so far. */
interface Held<K extends StreamKind = StreamKind> {
  kind: K
  row: StreamRow
  before: StateOf<K>
  after: StateOf<K>
  events: StreamEvent[]
}

const dayMs = 86_400_000
/**
 * When it was done, by the clock of the device; one that is off by more than a day would date signatures and tests wrong, so then it
 * is the server’s time less how long the entry waited on the device.
 */
export function doneAt({ at, heldMs }: Pick<CommandEnvelope, 'at' | 'heldMs'>, now: Date): string {
  const here = now.getTime() - heldMs
  return Math.abs(here - Date.parse(at)) > dayMs ? new Date(here).toISOString() : at
}

/** Puts what was decided behind a record that is held. Its committed state is shared with readers and never changed. */
function put<K extends StreamKind>(held: Held<K>, drafts: EventDraft[], { envelope, viewer, now }: Writing): void {
  if (drafts.length === 0) return
  const frame = {
    streamId: held.row.id,
    commandId: envelope.id,
    at: doneAt(envelope, now),
    receivedAt: now.toISOString(),
    actor: actorOf(viewer),
  }
  const events = entriesOf(streams[held.kind], held.after.seq, drafts, frame, uuid)
  if (held.after === held.before) held.after = structuredClone(held.before)
  foldEvents(reducerOf(held.kind), held.after, events)
  // What this program cannot read itself is never stored: the record would grant nothing from then on.
  if (held.after.unknownEvent !== held.before.unknownEvent)
    throw new Error(`An entry does not say what its kind says: ${held.after.unknownEvent}.`)
  held.events.push(...events)
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

/** Outcomes by the id of their command, with what tells the same command from another that reuses its id. */
type Known = Map<string, { fingerprint: string; personId: string; outcome: Outcome }>
async function knownOutcomes(asked: Asked[], transaction: Transaction): Promise<Known> {
  const rows = await database().models.commands.findAll({ where: { id: asked.map(({ envelope }) => envelope.id) }, transaction, raw: true })
  return new Map(rows.map(({ id, fingerprint, personId, outcome }) => [id, { fingerprint, personId, outcome: JSON.parse(outcome) }]))
}

const outcomeStatements = (fresh: Asked[], known: Known): Statement[] =>
  fresh.length === 0
    ? []
    : [
        insertInto(
          'commands',
          ['id', 'company_id', 'person_id', 'stream_id', 'fingerprint', 'type', 'outcome', 'received_at'],
          fresh.map(({ envelope, command, viewer, now }) => {
            const { outcome, fingerprint } = known.get(envelope.id)!
            return [
              envelope.id,
              viewer.companyId,
              viewer.personId,
              outcome.streamId,
              fingerprint,
              command.type,
              JSON.stringify(outcome),
              now,
            ]
          }),
        ),
      ]

/** What became of a group of commands, in their order. */
export interface Written {
  /** An ApiError where a command is none for this record: it alone was not taken. */
  answers: (Outcome | ApiError)[]
  states: { row: StreamRow; after: StateOf<StreamKind> }[]
  wake: boolean
  /** A tester failed: what other homes rest on it ends too. */
  testerFailed: boolean
}

/**
 * A box that was opened takes the tests of its points along, in every job of the home: their counts follow. No job of the
 * home changes meanwhile, for every command of one locks the site, too.
 */
async function recount(site: Held<'site'>, held: Map<string, Held>, transaction: Transaction): Promise<Statement[]> {
  const { before, after } = site
  const opened = Object.values(after.boxes).some((box) => box.lastOpenedAt !== (before.boxes[box.id]?.lastOpenedAt ?? null))
  if (!opened) return []
  const jobs = await database().models.jobs.findAll({ where: { siteId: after.siteId }, attributes: ['id'], transaction, raw: true })
  const statements: Statement[] = []
  for (const { id } of jobs) {
    const job = (held.get(id) as Held<'job'> | undefined)?.after ?? (await lockState('job', id, transaction))?.state
    if (job) statements.push(countStatement(job, after))
  }
  return statements
}

/**
 * Decides commands of one company one after the other, each on what those before it made, and stores events, outcomes and rows
 * together, inside a transaction; publish() follows its commit. Whatever goes wrong in the database ends
 * all of them: then each is asked again by itself. A decision that looks at rows that others of the group may change is to be
 * alone in its group (`isAlone`).
 * @param how.lookUp whether any of them was answered before is asked first; without it one that was makes the group fail
 * @param how.commits the same statement that stores them commits them: nothing of the transaction may follow
 */
export async function writeGroup(asked: Asked[], transaction: Transaction, { lookUp = true, commits = false } = {}): Promise<Written> {
  const siteOf = ({ envelope, row }: Asked) => (envelope.stream === 'site' ? row.id : (row as JobRow).siteId)
  // Records of one home are locked together: what one allows the other may not contradict meanwhile.
  const twins = new Map<Asked, { id: string; name: string }[]>()
  for (const one of asked)
    if (one.envelope.stream === 'site' && asksOtherRecords(one.command as SiteCommand))
      twins.set(one, await otherRecordsOf(one.row as SiteRow, transaction))
  // The energy state may not change between the decision and the commit, of a job either.
  const siteIds = [...asked.map(siteOf), ...[...twins.values()].flat().map(({ id }) => id)]
  const jobIds = asked.filter(({ envelope }) => envelope.stream === 'job').map(({ row }) => row.id)
  const held = new Map<string, Held>()
  for (const { row, state } of await lockStates([...new Set([...siteIds, ...jobIds])], transaction))
    held.set(row.id, { kind: row.kind, row, before: state, after: state, events: [] })
  const known: Known = lookUp ? await knownOutcomes(asked, transaction) : new Map()
  const onCrew = await crewOf(
    asked.map(({ viewer }) => viewer),
    [...new Set(asked.map(siteOf))],
    transaction,
  )
  const answers: (Outcome | ApiError)[] = []
  const fresh: Asked[] = []
  for (const one of asked) {
    const { envelope, viewer } = one
    const digest = digestOf(envelope)
    const before = known.get(envelope.id)
    if (before && (!isFingerprintOf(before.fingerprint, digest) || before.personId !== viewer.personId)) {
      answers.push(new ApiError(409, 'commandIdReused', 'This command id was already used for something else.'))
      continue
    }
    if (before) {
      answers.push(before.outcome)
      continue
    }
    const site = held.get(siteOf(one)) as Held<'site'> | undefined
    const job = envelope.stream === 'job' ? (held.get(one.row.id) as Held<'job'> | undefined) : null
    if (!site || job === undefined) {
      answers.push(notFound(job === undefined ? 'This job' : 'This site'))
      continue
    }
    if (job?.row.erasedAt) {
      answers.push(wasErased())
      continue
    }
    const outcome = job
      ? await decideForJob(one, one.command as JobCommand, site, job, onCrew, transaction)
      : await decideForSite(one, one.command as SiteCommand, site, othersIn(twins.get(one) ?? [], held), onCrew, transaction)
    answers.push(outcome)
    known.set(envelope.id, { fingerprint: keyedFingerprint(digest), personId: viewer.personId, outcome })
    fresh.push(one)
  }
  const changed = [...held.values()].filter(({ events }) => events.length > 0)
  const { statements, testerFailed } = await project(changed, held, transaction)
  const changes: FeedChange[] = changed.map(({ kind, row, after }) => ({
    topic: kind,
    branchId: row.branchId,
    streamId: row.id,
    fromSeq: row.seq + 1,
    toSeq: after.seq,
  }))
  await runTogether(
    [
      ...eventStatements(changed),
      ...statements,
      ...outcomeStatements(fresh, known),
      ...nearMissStatements(
        fresh.map((one) => ({ ...one, siteId: siteOf(one), outcome: known.get(one.envelope.id)!.outcome })),
        changed,
      ),
      ...feedStatements(asked[0]!.viewer.companyId, [
        ...(testerFailed ? [{ topic: 'instruments' as const, branchId: null }] : []),
        ...changed
          .filter(({ events }) => events.some(({ type }) => type === 'partMoved' || type === 'planSold'))
          .map(({ row }) => ({ topic: 'stock' as const, branchId: row.branchId })),
        ...changes,
      ]),
      ...(commits ? [{ sql: 'COMMIT', values: [] }] : []),
    ],
    transaction,
  )
  // Also of what did not change: the next reader need not fold it again.
  return { answers, states: [...held.values()], wake: changed.length > 0, testerFailed }
}

const othersIn = (twins: { id: string; name: string }[], held: Map<string, Held>) =>
  twins.flatMap(({ id, name }) => (held.has(id) ? [{ name, state: held.get(id)!.after as SiteState }] : []))

async function decideForSite(
  asked: Asked,
  command: SiteCommand,
  site: Held<'site'>,
  twins: { name: string; state: SiteState }[],
  onCrew: OnCrew,
  transaction: Transaction,
): Promise<Outcome> {
  const context = await siteContext(asked, command, site.after, onCrew, transaction)
  const decision = otherRecordForbids(command, twins) ?? decideSite(site.after, command, context)
  if (decision.ok) put(site, decision.events, asked)
  return outcomeOf(asked.envelope, site.after.seq, decision)
}

async function decideForJob(
  asked: Asked,
  command: JobCommand,
  site: Held<'site'>,
  job: Held<'job'>,
  onCrew: OnCrew,
  transaction: Transaction,
): Promise<Outcome> {
  const context = await jobContext(asked, command, site.after, onCrew, transaction)
  const decision = decideJob(job.after, command, context)
  if (decision.ok) {
    put(site, decision.siteEvents, asked)
    put(job, decision.events, asked)
  }
  return outcomeOf(asked.envelope, job.after.seq, decision)
}

/** Rows that follow from these records, and whether a tester failed. */
async function project(changed: Held[], held: Map<string, Held>, transaction: Transaction) {
  const statements: Statement[] = []
  let testerFailed = false
  for (const one of changed) {
    if (one.kind === 'site') {
      const site = one as Held<'site'>
      statements.push(...siteStatements(site.before, site.after, site.row), ...(await recount(site, held, transaction)))
      testerFailed = (await takeOutOfService(site.row.companyId, site, transaction)) || testerFailed
    } else if (one.events.some(({ type }) => streams.job.events.get(type)!.rules.rows)) {
      const job = one as Held<'job'>
      statements.push(...jobStatements(job.before, job.after, (held.get(job.after.siteId) as Held<'site'>).after, job.row))
    }
  }
  return { statements, testerFailed }
}

/**
 * Commands whose decision looks at rows that commands write, or whose rows decisions look at: visits and who is on them, names
 * and serials of devices, the register of testers.
 */
const aloneTypes: ReadonlySet<string> = new Set<SiteCommand['type'] | JobCommand['type']>([
  'openJob',
  'scheduleVisit',
  'moveVisit',
  'moveVisitForCustomer',
  'cancelVisit',
  'arrive',
  'finishVisit',
  'resumeVisit',
  'nameUnit',
  'recordUnit',
  'replaceUnit',
  'movePart',
  'recheckTester',
  'recordCause',
  'noteInstrumentFailed',
])
export const isAlone = ({ command }: CommandEnvelope): boolean => aloneTypes.has(command.type)

/** Decides and stores one command inside a transaction that the caller commits; publish() follows the commit. */
export async function writeCommand(asked: Asked, transaction: Transaction): Promise<Written & { outcome: Outcome }> {
  const written = await writeGroup([asked], transaction)
  const [outcome] = written.answers
  if (outcome instanceof ApiError) throw outcome
  return { ...written, outcome: outcome! }
}

/** Gives a command that no client sent, in a transaction of its own; publish() follows. */
export async function giveToSite(
  site: SiteRow,
  viewer: Viewer,
  command: SiteCommand,
  { basedOnSeq, now }: { basedOnSeq: number; now: Date },
): Promise<Written & { outcome: Outcome }> {
  const envelope = byProgram('site', site.id, command, now, { basedOnSeq })
  return transacted(async (transaction) =>
    writeCommand(
      { envelope, command: parseCommand(envelope), viewer, now, row: site, settings: await settingsOf(site.branchId, transaction) },
      transaction,
    ),
  )
}

/** After the commit: the next reader starts from the new states, and connected clients hear of them. */
export function publish(companyId: string, written: Written[]): void {
  for (const { states } of written) for (const { row, after } of states) publishState(row, after)
  // Whoever gave it hears first.
  if (written.some((one) => one.wake)) setImmediate(() => hub.wake(companyId))
}
