import type { JobCommand, JobState } from '../../core/job'
import type { Asker, Vantage, SiteCommand, SiteState } from '../../core/site'
import type { CommandEnvelope, Refusal, StreamEvent, StreamKind, StreamReducer } from '../../core/stream'
import { takeInto } from '../../core/stream/client'
import { defaultBranchSettings, supplySchemes } from '../../core/units'
import type { JobPage } from '../../core/protocol'

export interface Submission {
  ok: boolean
  refusal: Refusal | null
  /** Kept on this device; the server has not seen it yet. */
  kept?: boolean
}
/** What a crew mate just changed, marked for a moment. */
export interface Change {
  id: string
  boxId: string | null
  breakerId: string | null
  initials: string
}
/** So many waiting entries are a long list, and what comes back of it waits so long, ms. */
const manyWait = 20
const holdMs = 120
const markMs = 6000
const roomsAfterMs = 400
/** What is said on the way, or in the shop. */
const beforeTheDoor: ReadonlySet<string> = new Set([
  'setOff',
  'promiseAnew',
  'arrive',
  'movePart',
  'moveVisit',
  'cancelVisit',
  'scheduleVisit',
])

/**
 * One job and its site, folded here by the server's own reducers and kept live. `give` sends a command and returns
 * when the record shows what came of it. Without network the record is the last one this device knows, with this
 * person's own unsent entries on top.
 */
export function useJobRecord(jobId: string) {
  const session = useSession()
  const feed = useFeed()
  const outbox = useOutbox()
  const page = shallowRef<JobPage | null>(null)
  /** As the server last acknowledged. Changed by folding; `tick` says that it was. */
  const knownJob = shallowRef<JobState | null>(null)
  const knownSite = shallowRef<SiteState | null>(null)
  const savedAt = ref<string | null>(null)
  const problem = ref<Problem | null>(null)
  const changes = ref<Change[]>([])
  const { now, nowIso, serverNow } = useNow()

  /** So many answers are on their way. */
  let asked = 0
  /** @param anew what is here is not to be trusted: the server may have been put back from a backup */
  async function load(anew = false) {
    asked++
    const answer = await api('GET /api/jobs/:id', { params: { id: jobId } })
    asked--
    if (!answer.ok) {
      const kept = answer.problem.status === 0 ? await keptJob(session.viewer?.personId ?? '', jobId) : undefined
      if (!kept || page.value) {
        if (!page.value) problem.value = answer.problem
        return
      }
      page.value = kept.page
      // Kept by an earlier program, perhaps: what it did not know of is empty.
      knownJob.value = keptJobState(jobId, kept.page.jobState)
      knownSite.value = keptSiteState(kept.page.job.siteId, kept.page.siteState)
      savedAt.value = kept.savedAt
      return
    }
    problem.value = null
    savedAt.value = null
    page.value = answer.value
    // What is said here may have to be kept a moment later, in a cellar: the rooms come as soon as the record is shown.
    setTimeout(() => void loadRooms().catch(() => undefined), roomsAfterMs)
    outbox.setOutcomeUnknown(answer.value.job.siteId, false)
    // An answer may be older than what the feed already brought.
    const older = {
      job: answer.value.jobState.seq < (knownJob.value?.seq ?? 0),
      site: answer.value.siteState.seq < (knownSite.value?.seq ?? 0),
    }
    if (anew || !older.job) knownJob.value = answer.value.jobState
    if (anew || !older.site) knownSite.value = answer.value.siteState
    // Older because it was on its way, or because what was here is gone: the server knows.
    if (anew && older.job) await catchUp('job', jobId).catch(() => undefined)
    if (anew && older.site) await catchUp('site', answer.value.job.siteId).catch(() => undefined)
    // And may be older than what the feed brought while it was on its way.
    const missed = [...early]
    early.clear()
    for (const [streamId, events] of missed) {
      const kind = kindOf(streamId)
      if (kind) await take(kind, streamId, events)
    }
  }
  const kindOf = (streamId: string): StreamKind | null => (streamId === jobId ? 'job' : streamId === page.value?.job.siteId ? 'site' : null)
  /** What the feed brings before the record is here, by stream: which home it is of is not known yet. */
  const early = new Map<string, StreamEvent[]>()

  const copies = { site: knownSite, job: knownJob }
  /** @returns false when entries between are missing */
  async function fold(kind: StreamKind, events: StreamEvent[]): Promise<boolean> {
    const rooms = roomsHere.value ?? (await loadRooms())
    const copy = copies[kind]
    if (!copy.value) return true
    const whole = takeInto(rooms.streams[kind].reducer as StreamReducer<never>, copy.value as never, events)
    triggerRef(copy)
    return whole
  }
  function mark(events: StreamEvent[]) {
    for (const event of events) {
      if (event.actor.personId === session.viewer?.personId) continue
      const payload = event.payload as { boxId?: string; breakerId?: string; proofId?: string }
      const boxId = payload.boxId ?? knownSite.value?.proofs[payload.proofId ?? '']?.boxId ?? null
      const change = { id: event.id, boxId, breakerId: payload.breakerId ?? null, initials: event.actor.initials }
      changes.value = [...changes.value, change].slice(-30)
      setTimeout(() => (changes.value = changes.value.filter((one) => one.id !== change.id)), markMs)
    }
  }

  async function catchUp(kind: StreamKind, streamId: string) {
    const after = copies[kind].value?.seq ?? 0
    const answer = await api('GET /api/events', { query: { stream: kind, streamId, after } })
    if (answer.ok) await fold(kind, answer.value.events)
  }

  async function take(kind: StreamKind, streamId: string, events: StreamEvent[]) {
    try {
      if (await fold(kind, events)) mark(events)
      else await catchUp(kind, streamId)
    } catch {
      // The rooms could not be had: the server folds.
      await load()
    }
  }

  /** What comes back of a long list that is being sent is taken in together: with each the record and all that waits is made anew. */
  const held: Record<StreamKind, StreamEvent[]> = { job: [], site: [] }
  let letGo: ReturnType<typeof setTimeout> | null = null
  function takeHeld() {
    letGo = null
    for (const kind of ['site', 'job'] as const) {
      const events = held[kind].splice(0)
      if (events.length) void take(kind, kind === 'job' ? jobId : (page.value?.job.siteId ?? ''), events)
    }
  }
  onScopeDispose(() => letGo && clearTimeout(letGo))
  function takeSoon(kind: StreamKind, streamId: string, events: StreamEvent[]) {
    if (!letGo && !(outbox.sending && outbox.pending.length > manyWait)) return void take(kind, streamId, events)
    held[kind].push(...events)
    letGo ??= setTimeout(takeHeld, holdMs)
  }
  const stop = feed.listen(
    (change) => {
      const { topic, streamId, events } = change
      // What was folded of it before says what is not there any more.
      if (topic === 'erased' && streamId === jobId) return void load(true)
      if (events.length === 0 || streamId === null) return
      // What comes before the record is asked for is in it.
      if (!page.value) return void (asked && early.set(streamId, [...(early.get(streamId) ?? []), ...events]))
      const kind = kindOf(streamId)
      if (kind) takeSoon(kind, streamId, events)
    },
    () => void load(true),
  )
  onScopeDispose(stop)

  // The device keeps the newest record for a start without network.
  watchDebounced(
    () => [knownJob.value?.seq, knownSite.value?.seq, page.value],
    async () => {
      if (!page.value || !knownJob.value || !knownSite.value || savedAt.value) return
      const copy = JSON.parse(JSON.stringify({ ...page.value, jobState: knownJob.value, siteState: knownSite.value })) as JobPage
      await keepJob({ personId: session.viewer!.personId, jobId, page: copy })
    },
    { debounce: 1500, maxWait: 10_000 },
  )

  const outcomeUnknown = computed(() => outbox.isOutcomeUnknown(page.value?.job.siteId ?? ''))
  // An answer that never came is on the server: it is asked for as soon as there is a connection.
  const askAgain = setInterval(() => {
    if (outcomeUnknown.value && feed.status === 'live') void load()
    roomsWanted()
  }, 2000)
  onScopeDispose(() => clearInterval(askAgain))

  const branch = computed(() => session.branchOf(page.value?.job.branchId ?? '') ?? session.branch)
  const settings = computed(() => branch.value?.settings ?? defaultBranchSettings)

  /** The record with this person's unsent entries on top: what the screens show. */
  const here = computed(() => {
    const siteId = page.value?.job.siteId ?? ''
    const known = { job: knownJob.value, site: knownSite.value }
    const waiting = [...outbox.pendingOf(siteId), ...outbox.pendingOf(jobId)].sort((a, b) => a.key! - b.key!)
    if (!known.job || !known.site || !session.viewer) return { ...known, waiting: 0 }
    const rooms = roomsHere.value
    // Without what this person did and has not sent, the record would not be true.
    if (waiting.length && !rooms) return { job: null, site: null, waiting: waiting.length }
    // Folding changes in place: the screens get objects of their own each time, so that all of them see what changed.
    const states = { job: structuredClone(known.job), site: structuredClone(known.site) }
    // As old as it is by the server's time: a device whose clock is wrong would make a proof last for days.
    for (const entry of waiting)
      rooms!.foldUnsent(states, entry.envelope!, {
        session,
        settings: settings.value,
        madeAt: new Date(serverNow() - outbox.heldMs(entry)).toISOString(),
      })
    return { ...states, waiting: waiting.length }
  })
  const roomsWanted = () => {
    if (outbox.pending.length > 0 && !roomsHere.value) void loadRooms().catch(() => undefined)
  }
  watch(() => outbox.pending.length, roomsWanted, { immediate: true })
  const job = computed(() => here.value.job)
  const site = computed(() => here.value.site)
  const offline = computed(() => feed.status === 'lost' || savedAt.value !== null)

  const onTheWayHere = computed(() =>
    Object.values(job.value?.visits ?? {}).find(
      ({ status, setOffAt, personIds }) => status === 'planned' && setOffAt && personIds.includes(session.viewer?.personId ?? ''),
    ),
  )
  /** On its way: what takes the ground from under one's own hands, or tells of power, counts from the tap on. */
  const givingUp = ref(0)
  const tellsOfPower = ({ type, state }: { type: string; state?: unknown }) =>
    type === 'observeLive' || (type === 'observeBreaker' && state !== 'open')
  async function submit(stream: StreamKind, command: { type: string }, onBehalf?: { personId: string; pin: string }): Promise<Submission> {
    const givesUp = stream === 'site' && (tellsOfPower(command) || (roomsHere.value?.givesUpTypes.has(command.type) ?? true))
    if (givesUp) givingUp.value++
    try {
      // Who has set off and now does something in the home is there, whether or not they say so.
      const visit = onTheWayHere.value
      if (visit && !beforeTheDoor.has(command.type)) await send('job', { type: 'arrive', visitId: visit.id })
      return await send(stream, command, onBehalf)
    } finally {
      if (givesUp) givingUp.value--
    }
  }
  async function send(
    stream: StreamKind,
    command: { type: string } & Record<string, unknown>,
    onBehalf?: { personId: string; pin: string },
  ): Promise<Submission> {
    const streamId = stream === 'site' ? (page.value?.job.siteId ?? '') : jobId
    const seen = {
      basedOnSeq: knownSite.value?.understoodSeq ?? 0,
      jobSeq: knownJob.value?.understoodSeq ?? null,
      where: page.value?.site.name ?? '',
      forbidden(envelope: CommandEnvelope) {
        const { job, site } = here.value
        const madeAt = new Date(serverNow()).toISOString()
        try {
          return job && site
            ? (roomsHere.value?.forbiddenOn({ job, site }, envelope, { session, settings: settings.value, madeAt }) ?? null)
            : null
        } catch {
          // What cannot be judged here is kept: the server decides.
          return null
        }
      },
    }
    const { submission, outcome } = await sendCommand(stream, streamId, seen, command, onBehalf)
    if (outcome?.status !== 'accepted') return submission
    if ((copies[stream].value?.seq ?? 0) < outcome.seq) await catchUp(stream, streamId)
    if (stream === 'job' && outcome.eventTypes.includes('visitFinished') && page.value) await catchUp('site', page.value.job.siteId)
    return submission
  }

  const scheme = computed(() => supplySchemes[site.value?.schemeId ?? 'na120'])
  /** Times are the home's, written as whoever reads is used to. */
  const region = computed(() => session.regionAt(branch.value?.id ?? ''))
  /** Without network, or with entries the server has not seen, only the stricter rule for that counts. */
  const vantage = computed<Vantage>(() => ({
    now: nowIso.value,
    proofLimitMinutes: settings.value.proofLimitMinutes,
    outcomeUnknown: outcomeUnknown.value || givingUp.value > 0,
    acknowledged: (offline.value || here.value.waiting > 0) && knownSite.value ? { ...knownSite.value } : null,
  }))
  const asker = computed<Asker>(() => ({ personId: session.viewer?.personId ?? '', licensed: session.viewer?.licensed ?? false }))
  const onCrew = computed(
    () =>
      session.viewer?.role === 'lead' ||
      Object.values(job.value?.visits ?? {}).some(
        (visit) => (visit.status === 'planned' || visit.status === 'onSite') && visit.personIds.includes(session.viewer?.personId ?? ''),
      ),
  )

  return {
    jobId,
    page,
    job,
    site,
    offline,
    savedAt,
    changes,
    problem,
    load,
    now,
    branch,
    settings,
    scheme,
    region,
    vantage,
    asker,
    onCrew,
    submitSite: (command: SiteInput, onBehalf?: { personId: string; pin: string }) => submit('site', command, onBehalf),
    submitJob: (command: JobInput) => submit('job', command),
  }
}
/** Commands as a screen writes them: the schema's defaults may be left out. */
type Loose<C> = C extends { type: string } ? { type: C['type'] } & Partial<Omit<C, 'type'>> : never
export type SiteInput = Loose<SiteCommand>
export type JobInput = Loose<JobCommand>
export type JobRecord = ReturnType<typeof useJobRecord>

const recordKey: InjectionKey<JobRecord> = Symbol('job record')
/** The record of the job this page is about; pages of one job share it. */
export function provideJobRecord(jobId: string): JobRecord {
  const record = useJobRecord(jobId)
  provide(recordKey, record)
  void record.load()
  return record
}
export function injectJobRecord(): JobRecord {
  const record = inject(recordKey)
  if (!record) throw new Error('No job record is provided here.')
  return record
}
