import { jobReducer, type JobCommand, type JobState } from '../../core/record'
import { siteReducer, type Asker, type SafetyClock, type SiteCommand, type SiteState } from '../../core/safety'
import { applyEvent, SeqGap, type Refusal, type StreamEvent, type StreamKind } from '../../core/stream'
import { branchSettingsSchema, supplySchemes } from '../../core/units'
import type { JobPage } from '../../server/services/jobs'

export interface Given {
  ok: boolean
  refusal: Refusal | null
}

/**
 * One job and its site, folded here by the server's own reducers and kept live. `give` sends a command and returns
 * when the record shows what came of it.
 */
export function useJobRecord(jobId: string) {
  const session = useSession()
  const feed = useFeed()
  const page = shallowRef<JobPage | null>(null)
  const job = ref<JobState | null>(null)
  const site = ref<SiteState | null>(null)
  const problem = ref<Problem | null>(null)
  const { now, nowIso } = useNow()

  async function load() {
    const answer = await api<JobPage>(`/api/jobs/${jobId}`)
    if (!answer.ok) {
      problem.value = answer.problem
      return
    }
    problem.value = null
    page.value = answer.value
    // An answer may be older than what the feed already brought.
    if (!job.value || answer.value.jobState.seq >= job.value.seq) job.value = answer.value.jobState
    if (!site.value || answer.value.siteState.seq >= site.value.seq) site.value = answer.value.siteState
  }

  function fold(kind: StreamKind, event: StreamEvent) {
    if (kind === 'site' && site.value) applyEvent(siteReducer, site.value as SiteState, event)
    if (kind === 'job' && job.value) applyEvent(jobReducer, job.value as JobState, event)
  }

  async function catchUp(kind: StreamKind, streamId: string) {
    const after = (kind === 'site' ? site.value : job.value)?.seq ?? 0
    const answer = await api<{ events: StreamEvent[] }>(`/api/events?stream=${kind}&streamId=${streamId}&after=${after}`)
    if (answer.ok) for (const event of answer.value.events) fold(kind, event)
  }

  async function take(kind: StreamKind, streamId: string, events: StreamEvent[]) {
    try {
      for (const event of events) fold(kind, event)
    } catch (error) {
      if (!(error instanceof SeqGap)) throw error
      await catchUp(kind, streamId)
    }
  }

  const stop = feed.listen(
    (change) => {
      if (change.streamId === jobId) void take('job', jobId, change.events)
      else if (page.value && change.streamId === page.value.job.siteId) void take('site', page.value.job.siteId, change.events)
    },
    () => void load(),
  )
  onScopeDispose(stop)

  async function give(stream: StreamKind, command: { type: string }): Promise<Given> {
    const streamId = stream === 'site' ? (page.value?.job.siteId ?? '') : jobId
    const { given, outcome } = await sendCommand(stream, streamId, site.value?.seq ?? 0, command)
    if (outcome?.status !== 'accepted') return given
    if (((stream === 'site' ? site.value : job.value)?.seq ?? 0) < outcome.seq) await catchUp(stream, streamId)
    if (stream === 'job' && outcome.eventTypes.includes('visitFinished') && page.value) await catchUp('site', page.value.job.siteId)
    return given
  }

  const branch = computed(() => session.branchOf(page.value?.job.branchId ?? '') ?? session.branch)
  const settings = computed(() => branch.value?.settings ?? branchSettingsSchema.parse({}))
  const scheme = computed(() => supplySchemes[site.value?.schemeId ?? 'na120'])
  const zone = computed(() => branch.value?.timezone ?? 'UTC')
  const clock = computed<SafetyClock>(() => ({ now: nowIso.value, proofLimitMinutes: settings.value.proofLimitMinutes }))
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
    job: job as Ref<JobState | null>,
    site: site as Ref<SiteState | null>,
    problem,
    load,
    now,
    branch,
    settings,
    scheme,
    zone,
    clock,
    asker,
    onCrew,
    giveSite: (command: SiteInput) => give('site', command),
    giveJob: (command: JobInput) => give('job', command),
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
