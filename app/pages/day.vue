<script setup lang="ts">
import { DateTime } from 'luxon'
import type { CallbackLine, DayVisit, JobLine } from '../../core/protocol'

const session = useSession()
const { now } = useNow()
const region = computed(() => session.region)
const day = ref(DateTime.now().setZone(region.value.zone).toISODate() ?? '')
const planning = ref<JobLine | null>(null)
const planningCallback = ref<CallbackLine | null>(null)
const picked = ref<DayVisit | null>(null)
const moving = ref(false)
const cancelReason = ref('')
const { busy, refusal, run } = useAction()

const range = computed(() => {
  const start = DateTime.fromISO(day.value, { zone: region.value.zone }).startOf('day')
  return { from: start.toUTC().toISO()!, to: start.plus({ days: 1 }).toUTC().toISO()! }
})
const branchQuery = () => ({ query: { branchId: session.branch?.id } })
const visitList = useList('GET /api/visits', () => ({ query: { ...range.value, branchId: session.branch?.id } }), ['site', 'job', 'jobs'])
const jobList = useList('GET /api/jobs', branchQuery, ['site', 'job', 'jobs'])
const callbackList = useList('GET /api/callbacks', branchQuery, ['job', 'jobs'])
const visits = computed(() => visitList.answer.value?.visits ?? [])
const jobs = computed(() => jobList.answer.value?.jobs ?? [])
/** Jobs that have, or had, a visit. */
const placed = computed(() => jobs.value.filter((job) => job.status !== 'toSchedule').length)
const unplaced = computed(() => jobs.value.filter((job) => job.status === 'toSchedule' || job.status === 'between'))
const callbacks = computed(() =>
  (callbackList.answer.value?.callbacks ?? []).filter((callback) => callback.status !== 'closed' && !callback.visitAt),
)
const loaded = computed(() => [visitList, jobList, callbackList].every((list) => list.loaded.value))
const problem = computed(() => visitList.problem.value ?? jobList.problem.value)
const load = () => Promise.all([visitList, jobList, callbackList].map((list) => list.load()))

const isToday = computed(() => DateTime.fromMillis(now.value, { zone: region.value.zone }).toISODate() === day.value)
const late = computed(() => visits.value.filter((visit) => visit.status === 'planned' && Date.parse(visit.windowTo) < now.value))
const over = computed(() => visits.value.filter((visit) => visit.status === 'onSite' && Date.parse(visit.endsAt) < now.value))
const sentence = computed(() => {
  if (!loaded.value) return 'Looking at the day …'
  const waiting = callbacks.value.length
    ? ` ${callbacks.value.length === 1 ? 'One callback waits' : `${callbacks.value.length} callbacks wait`} for a visit.`
    : ''
  if (isToday.value && late.value.length)
    return `${late.value.length === 1 ? 'One appointment missed' : `${late.value.length} appointments missed`}: ${late.value.map((visit) => visit.siteName).join(', ')}.${waiting}`
  if (isToday.value && over.value.length)
    return `${over.value.map((visit) => visit.siteName).join(', ')} ${over.value.length === 1 ? 'runs' : 'run'} over.${waiting}`
  if (!visits.value.length) return `No visit is planned ${isToday.value ? 'today' : 'on this day'}.${waiting}`
  const onSite = visits.value.filter((visit) => visit.status === 'onSite').length
  return `${counted(visits.value.length, 'visit')}${onSite ? `, ${onSite} on site` : ''}${isToday.value ? ', every appointment kept so far' : ''}.${waiting}`
})
const shift = (days: number) =>
  (day.value = DateTime.fromISO(day.value, { zone: region.value.zone }).plus({ days }).toISODate() ?? day.value)
const dayWords = computed(() =>
  DateTime.fromISO(day.value, { zone: 'UTC', locale: region.value.locale }).toLocaleString({
    weekday: 'long',
    day: 'numeric',
    month: 'long',
  }),
)
const branchItems = computed(() => session.branches.map((branch) => ({ label: branch.name, value: branch.id })))
const branchId = computed({ get: () => session.branch?.id ?? '', set: (id: string) => (session.branchChoice = id) })

function pick(visit: DayVisit) {
  refusal.value = null
  moving.value = false
  cancelReason.value = ''
  picked.value = visit
}
const asVisit = computed(() =>
  picked.value ? { ...picked.value, kind: picked.value.kind as 'install', status: picked.value.status as 'planned' } : null,
)
async function cancel() {
  if (
    await run(() => submitJobCommand(picked.value!.jobId, { type: 'cancelVisit', visitId: picked.value!.id, reason: cancelReason.value }))
  )
    picked.value = null
}
function finished() {
  planning.value = null
  planningCallback.value = null
  picked.value = null
  void load()
}
</script>

<template>
  <div class="split">
    <div class="p-[18px_22px]">
      <div class="row wrap mb-3">
        <USelect v-if="session.branches.length > 1" v-model="branchId" :items="branchItems" aria-label="Branch" class="w-44" />
        <span class="row">
          <UButton icon="i-lucide-arrow-left" aria-label="Day before" variant="ghost" square @click="shift(-1)" />
          <b>{{ dayWords }}</b>
          <UButton icon="i-lucide-arrow-right" aria-label="Day after" variant="ghost" square @click="shift(1)" />
        </span>
        <UButton v-if="!isToday" variant="link" @click="day = DateTime.now().setZone(region.zone).toISODate()!">today</UButton>
        <span class="grow" />
        <UButton to="/jobs/new" icon="i-lucide-plus">New job</UButton>
      </div>
      <h1 class="sentence">{{ sentence }}</h1>
      <p class="soft mt-1 mb-4">A bracket is what the customer was promised. A pale tail is a visit running over.</p>
      <CommonProblem :problem="problem" />
      <DayFirstSteps v-if="loaded && session.hasRole('lead')" :jobs="jobs.length" :visits="placed" />
      <StockShort v-if="loaded && session.isOffice" />
      <DayLoneWorkers :region="region" :now="now" />
      <DayBoard v-if="visits.length" :visits="visits" :region="region" :day="day" :now="now" @pick="pick" />
      <p v-else-if="loaded" class="note">Place work from the list beside, or take in a new job.</p>
    </div>
    <aside class="side" aria-label="Not placed yet">
      <h2 class="kicker mb-2">Not placed yet</h2>
      <p v-if="loaded && !unplaced.length && !callbacks.length" class="soft">Everything has a visit.</p>
      <div v-for="callback in callbacks" :key="callback.id" class="slip hot-edge">
        <b>Callback: {{ callback.siteName }}</b>
        <p class="soft small">{{ callback.what }}</p>
        <UButton class="mt-2" @click="planningCallback = callback">Schedule</UButton>
      </div>
      <div v-for="job in unplaced" :key="job.id" class="slip">
        <NuxtLink :to="`/jobs/${job.id}`"
          ><b>{{ job.siteName }}</b></NuxtLink
        >
        <p class="soft small">
          {{ job.title }} ·
          {{ job.status === 'between' ? `${job.passed} of ${job.points} pass, come back` : `${counted(job.points, 'point')}` }}
        </p>
        <UButton class="mt-2" :aria-label="`Schedule ${job.siteName}`" @click="planning = job">Schedule</UButton>
      </div>
    </aside>

    <USlideover
      :open="planning !== null"
      :title="`Schedule ${planning?.siteName ?? ''}`"
      :description="planning?.title ?? ''"
      @update:open="planning = null"
    >
      <template #body><DayVisitForm v-if="planning" :job-id="planning.id" :branch-id="planning.branchId" @done="finished" /></template>
    </USlideover>
    <USlideover
      :open="planningCallback !== null"
      :title="`Schedule the callback at ${planningCallback?.siteName ?? ''}`"
      :description="planningCallback?.what ?? ''"
      @update:open="planningCallback = null"
    >
      <template #body
        ><DayVisitForm
          v-if="planningCallback"
          :job-id="planningCallback.jobId"
          :branch-id="planningCallback.branchId"
          kind="callback"
          :callback-id="planningCallback.id"
          @done="finished"
      /></template>
    </USlideover>
    <USlideover
      :open="picked !== null"
      :title="picked?.siteName ?? ''"
      :description="picked ? `${picked.jobTitle}, ${picked.address}` : ''"
      @update:open="picked = null"
    >
      <template #body>
        <div v-if="picked" class="stack">
          <p>
            {{ dayAndTime(picked.startsAt, region) }}–{{ clockTime(picked.endsAt, region) }}, promised
            {{ clockTime(picked.windowFrom, region) }}–{{ clockTime(picked.windowTo, region) }}
          </p>
          <div class="row">
            <CommonWho v-for="id in picked.personIds" :key="id" :person-id="id" /><span class="soft"
              >{{ picked.passed }} of {{ picked.points }} points pass</span
            >
          </div>
          <p v-if="picked.tags.length" class="note amber">Tags of {{ picked.tags.join(', ') }} hang at this home.</p>
          <UButton :to="`/jobs/${picked.jobId}`" variant="solid">Open the job</UButton>
          <template v-if="picked.status === 'planned' || picked.status === 'onSite'">
            <UButton @click="moving = !moving">Change time or crew</UButton>
            <DayVisitForm v-if="moving && asVisit" :job-id="picked.jobId" :branch-id="picked.branchId" :visit="asVisit" @done="finished" />
          </template>
          <div v-if="picked.status === 'planned'" class="stack rule pt-3">
            <UFormField label="Cancel it? Say why"><UInput v-model="cancelReason" /></UFormField>
            <UButton color="error" :loading="busy" :disabled="cancelReason.trim().length < 3" @click="cancel">Cancel this visit</UButton>
            <CommonRefusal :refusal="refusal" />
          </div>
        </div>
      </template>
    </USlideover>
  </div>
</template>

<style scoped>
.slip {
  border: 1.5px solid var(--ink);
  border-radius: 4px;
  padding: 10px 12px;
  margin-bottom: 10px;
  font-size: 14px;
}
.hot-edge {
  border-left: 6px solid var(--copper);
}
</style>
