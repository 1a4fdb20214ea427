<script setup lang="ts">
import { waitsForVisit } from '../../core/job'
import { DateTime } from 'luxon'
import type { ApiAnswer, CallbackLine, DayVisit, JobLine, PlannedVisit } from '../../core/protocol'
import type { Change } from '../../core/dispatch'
import { present } from '../../core/dispatch/away'
import { lackingOf } from '../../core/dispatch/board/needs'
import { vansTwice } from '../../core/dispatch/board/twice'
import type { OfferedWindow, Route, Tried } from '~/workers/day'
import type { WayId } from '~/utils/day-search'

const session = useSession()
const { now } = useNow()
const region = computed(() => session.region)
const day = ref(DateTime.now().setZone(region.value.zone).toISODate() ?? '')
const planning = ref<JobLine | null>(null)
const planningCallback = ref<CallbackLine | null>(null)
const pickedId = ref<string | null>(null)
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
/** As it is now, not as it was when it was picked. */
const picked = computed(() => visits.value.find(({ id }) => id === pickedId.value) ?? null)
const jobs = computed(() => jobList.answer.value?.jobs ?? [])
/** Jobs that have, or had, a visit. */
const placed = computed(() => jobs.value.filter((job) => job.status !== 'toSchedule').length)
const unplaced = computed(() =>
  jobs.value
    .filter((job) => job.status === 'toSchedule' || job.status === 'between')
    // What waits longest first.
    .sort((a, b) => a.number - b.number),
)
const callbacks = computed(() =>
  (callbackList.answer.value?.callbacks ?? []).filter((callback) => waitsForVisit(callback) && !callback.visitAt),
)
const loaded = computed(() => [visitList, jobList, callbackList].every((list) => list.loaded.value))
const problem = computed(() => visitList.problem.value ?? jobList.problem.value)
const load = () => Promise.all([visitList, jobList, callbackList].map((list) => list.load()))

// The office sees how the day will go, and plans it.
const desk = session.isOffice ? useDayDesk() : null
const file = shallowRef<ApiAnswer<'GET /api/dispatch/day'> | null>(null)
/** What no list of this screen says: who is away, whom a job takes, the hours of the branch. */
const heard = ref(0)
const hear = () => void heard.value++
onScopeDispose(
  useFeed().listen(({ topic, events }) => {
    if (topic === 'requests' || topic === 'settings' || events.some(({ type }) => type === 'needsSet')) hear()
  }, hear),
)
/** What the day follows from: a reading that somebody takes changes nothing of it. */
const dayKey = computed(() =>
  JSON.stringify([
    session.branch?.id,
    day.value,
    session.people.map(({ id, active, licensed, vanId, skills }) => [id, active, licensed, vanId, skills]),
    visits.value.map(({ id, status, startsAt, endsAt, windowTo, personIds, tags }) => [
      id,
      status,
      startsAt,
      endsAt,
      windowTo,
      personIds,
      tags,
    ]),
    unplaced.value.map(({ id }) => id),
    callbacks.value.map(({ id }) => id),
    heard.value,
  ]),
)
/** @returns whether it was read */
async function readDay(): Promise<boolean> {
  if (!desk || !session.branch || !loaded.value) return false
  const date = day.value
  const answer = await api('GET /api/dispatch/day', { query: { branchId: session.branch.id, date } })
  if (day.value !== date) return false
  if (answer.ok) file.value = answer.value
  else planProblem.value = answer.problem
  return answer.ok
}
watchDebounced([dayKey, loaded], () => void readDay(), { debounce: 300, maxWait: 3_000, immediate: true })
/** Every five minutes is soon enough for what is expected. */
const tick = computed(() => Math.floor(now.value / 300_000) * 300)
const todayHere = computed(() => DateTime.fromMillis(now.value, { zone: region.value.zone }).toISODate() ?? '')
const isToday = computed(() => todayHere.value === day.value)
let shown: Promise<void> = Promise.resolve()
watch(
  [file, tick],
  ([given]) => {
    // A day that is over is not planned any more.
    if (given?.date === day.value && day.value >= todayHere.value) shown = desk?.show(given, isToday.value ? tick.value : 0) ?? shown
  },
  { immediate: true },
)
watch([day, () => session.branch?.id], () => {
  file.value = null
  if (desk) desk.outlook.value = null
  desk?.forget()
})
/** Read, and shown to whoever works it out. */
async function readAnew(): Promise<boolean> {
  const read = await readDay()
  await nextTick()
  await shown
  return read
}
const rereading = ref(false)
/** By what is known now: whom a job takes may have been said since. */
async function planDay() {
  rereading.value = true
  const read = await readAnew()
  rereading.value = false
  if (read) desk!.plan()
}
const siteNames = computed(
  () =>
    new Map([
      ...(file.value?.homes ?? []).map(({ siteId, name }) => [siteId, name] as const),
      ...visits.value.map((visit) => [visit.siteId, visit.siteName] as const),
    ]),
)
const nameOf = (siteId: string) => siteNames.value.get(siteId) ?? 'A home'
const outlook = computed(() => (file.value?.date === day.value ? (desk?.outlook.value ?? null) : null))
const boardCrews = computed(() => (outlook.value ? desk!.crews.value : []))
const filter = ref('')
const chosenWay = ref<WayId | null>(null)
const planned = computed(() => desk !== null && (desk.searching.value || Object.keys(desk.ways.value).length > 0))
const changes = computed(() => (chosenWay.value ? (desk?.ways.value[chosenWay.value]?.proposal.changes ?? []) : []))
/** Who is likely late, the worst first. */
const likely = computed(() =>
  (outlook.value?.visits ?? [])
    .filter((one) => one.late >= oftenLate)
    .sort((a, b) => b.late - a.late)
    .flatMap((one) => visits.value.find(({ id }) => id === one.id) ?? []),
)

/** Crews against time, or on the roads, or seven days. */
const onMap = ref(false)
const onWeek = ref(false)
function pickDay(date: string) {
  day.value = date
  onWeek.value = false
}
const routes = shallowRef<Route[]>([])
watch([onMap, outlook], async ([map, known]) => {
  if (map && known) routes.value = await desk!.routes()
})
const crewName = (id: string) => session.initials(boardCrews.value.find((crew) => crew.id === id)?.personIds ?? [])
/** Where each crew is by its last tap. */
const there = computed(() =>
  boardCrews.value.flatMap(({ id }) => {
    const last = visits.value.filter((visit) => visit.status !== 'planned' && visit.personIds.includes(id)).at(-1)
    return last ? [{ siteId: last.siteId, people: crewName(id) }] : []
  }),
)
async function place(siteId: string, position: [number, number] | null) {
  const answer = await api('POST /api/sites/:id/place', { params: { id: siteId }, body: { position } })
  planProblem.value = answer.ok ? null : answer.problem
  void readDay()
}

// Taking a plan over, or one move, all or nothing; and taking it back.
const taking = ref(false)
const planProblem = ref<Problem | null>(null)
const back = shallowRef<{ words: string; visits: PlannedVisit[]; made: { jobId: string; visitId: string }[] } | null>(null)
async function accept(planned: PlannedVisit[], words: string) {
  taking.value = true
  const before = new Map(visits.value.map((visit) => [visit.id, visit]))
  const answer = await api('POST /api/dispatch/plans', { body: { id: newId(), branchId: session.branch!.id, visits: planned } })
  taking.value = false
  planProblem.value = answer.ok ? null : answer.problem
  if (!answer.ok) return false
  back.value = {
    words,
    made: planned.flatMap(({ jobId, visitId, makes }) => (makes ? [{ jobId, visitId }] : [])),
    visits: planned.flatMap((one) => {
      const was = before.get(one.visitId)
      if (one.makes || !was) return []
      const { startsAt, endsAt, windowFrom, windowTo, personIds } = was
      return [{ ...one, was: { startsAt: one.startsAt, personIds: one.personIds }, startsAt, endsAt, windowFrom, windowTo, personIds }]
    }),
  }
  desk?.forget()
  void load()
  return true
}
async function takeBack() {
  const { visits: moved, made } = back.value!
  taking.value = true
  for (const { jobId, visitId } of made) {
    const given = await submitJobCommand(jobId, { type: 'cancelVisit', visitId, reason: 'Taken back by the office' })
    if (!given.ok) {
      taking.value = false
      planProblem.value = {
        status: 409,
        code: 'notTakenBack',
        message: given.refusal?.reasons.join(' ') ?? 'It could not be taken back.',
        details: null,
      }
      return
    }
  }
  taking.value = false
  if (!moved.length || (await accept(moved, ''))) back.value = null
  void load()
}
const take = (given: Change[]) =>
  accept(given.map(plannedOf), `${counted(given.filter(({ quiet }) => !quiet).length, 'change')} taken over.`)
/** A visit that was dropped elsewhere and breaks something: it waits for a word. */
const dropped = shallowRef<{ visit: DayVisit; words: string[]; planned: PlannedVisit[] } | null>(null)
async function drop(visit: DayVisit, crewId: string, startAt: string, told: Tried | null) {
  // Let go before it was said what it does: it is asked for once more, and nothing is moved untold.
  const tried = told ?? (await desk!.tryAt(visit.id, crewId, startAt))
  if (!tried) return
  const words = [
    ...(Date.parse(startAt) < now.value ? ['That time is over.'] : []),
    ...(tried.change.breaksPromise
      ? [
          `${visit.siteName} was promised ${clockTime(visit.windowFrom, region.value)}–${clockTime(visit.windowTo, region.value)}: telephone first.`,
        ]
      : []),
    ...tried.late.flatMap(({ id, minutes }) =>
      id === visit.id ? [] : [`${visits.value.find((one) => one.id === id)?.siteName} would begin ${minutesWords(minutes)} late.`],
    ),
    ...tried.breaks.map((one) => `${sentenceOf(breakWords[one])}.`),
  ]
  planProblem.value = null
  const planned = [tried.change, ...tried.also].map(plannedOf)
  if (words.length) dropped.value = { visit, words, planned }
  else void accept(planned, `${visit.siteName} moved.`)
}
async function dropAnyway() {
  const { planned, visit } = dropped.value!
  if (await accept(planned, `${visit.siteName} moved.`)) dropped.value = null
}
const expectedOf = (id: string) => outlook.value?.visits.find((one) => one.id === id) ?? null
/** Times on a day that a booked visit could move to. */
async function timesOn(visitId: string, date: string): Promise<OfferedWindow[]> {
  const visit = file.value?.visits.find(({ id }) => id === visitId)
  const home = file.value?.homes.find(({ siteId }) => siteId === visit?.siteId)
  const weekday = DateTime.fromISO(date).weekday
  const worked = date === day.value || (session.branch?.settings.day.workdays ?? []).includes(weekday)
  if (!visit || !home || date < todayHere.value || !worked) return []
  const answer = date === day.value ? null : await api('GET /api/dispatch/day', { query: { branchId: session.branch!.id, date } })
  const other = answer ? (answer.ok ? answer.value : null) : file.value!
  return other ? desk!.elsewhen(visit, home, other, date === todayHere.value ? Math.floor(now.value / 1000) : 0) : []
}
const needsOf = (id: string) => file.value?.visits.find((one) => one.id === id)?.needs ?? null
/** What the people of the picked visit have not. */
const lacking = computed(() => {
  const needs = picked.value && needsOf(picked.value.id)
  const come = picked.value?.personIds.flatMap((id) => session.person(id) ?? []) ?? []
  return needs && lackingOf(needs, come)
})
/** Somebody may have been given a van after their visits were booked. */
const vanWords = computed(() =>
  vansTwice(file.value?.visits.filter(({ status }) => status !== 'done') ?? [], file.value?.people ?? []).map(
    ({ vanId, first, second }) => {
      const [one, other] = [first, second].map((id) => nameOf(file.value!.visits.find((visit) => visit.id === id)!.siteId))
      return `${session.vanName(vanId) ?? 'One van'} is booked to ${one} and ${other} at once.`
    },
  ),
)
const waitingOf = (id: string) => file.value?.open.find((one) => one.id === id) ?? null
/** A callback that is to be seen by the day that is shown, or was before today. */
function dueOf(id: string): { words: string; tone: string } | null {
  const by = waitingOf(id)?.by ?? null
  if (by === null || by > day.value) return null
  const was = by < todayIn(region.value)
  return { words: `${sentenceOf(seenWords(by, was, region.value))}.`, tone: was ? 'bad' : 'warn' }
}
const lacksOf = (id: string) => waitingOf(id)?.lacks ?? null
/** What waits, while somebody is on the telephone. */
const calling = ref<{ id: string; siteName: string; what: string } | null>(null)
/** From a call: its windows are offered at once. */
const asked = ref(String(useRoute().query.windows ?? ''))
watchEffect(() => {
  const callback = callbacks.value.find(({ id }) => id === asked.value)
  if (!callback || !outlook.value) return
  asked.value = ''
  calling.value = { id: callback.id, siteName: callback.siteName, what: callback.what }
})
/** @returns windows, or why there is none to be said */
async function windowsOf(id: string): Promise<OfferedWindow[] | string> {
  // What has just come in is on its list before the day knows it.
  const read = waitingOf(id) !== null || (await readAnew())
  const waits = waitingOf(id)
  if (!waits) return read ? 'It does not wait for a visit any more.' : 'The day could not be read. Close this and look again.'
  if (waits.lacks) return `Not here: ${waits.lacks}.`
  return (await desk!.windows(id)) ?? 'The windows could not be worked out. Close this and look again, or schedule it by hand.'
}
async function book({ change, also }: OfferedWindow) {
  if (await accept([change, ...also].map(plannedOf), `${calling.value!.siteName} booked.`)) calling.value = null
}

/** All of their people are away. */
const alone = computed(() =>
  visits.value.filter((visit) => visit.status === 'planned' && file.value?.date === day.value && !present(file.value.away, visit).length),
)
/** Homes of visits: three by name, of more how many. */
function homesOf(list: readonly { siteName: string }[]): string {
  const names = list.slice(0, 3).map(({ siteName }) => siteName)
  return listed(list.length > 3 ? [...names, `${list.length - 3} more`] : names)
}
const late = computed(() => visits.value.filter((visit) => visit.status === 'planned' && Date.parse(visit.windowTo) < now.value))
const over = computed(() => visits.value.filter((visit) => visit.status === 'onSite' && Date.parse(visit.endsAt) < now.value))
const sentence = computed(() => {
  if (!loaded.value) return 'Looking at the day …'
  const waiting = callbacks.value.length
    ? ` ${callbacks.value.length === 1 ? 'One callback waits' : `${callbacks.value.length} callbacks wait`} for a visit.`
    : ''
  if (alone.value.length) {
    const gone = [...new Set(alone.value.flatMap(({ personIds }) => personIds))].map((id) => session.person(id)?.name ?? '')
    return `Nobody goes to ${homesOf(alone.value)}: ${listed(gone)} ${gone.length === 1 ? 'is' : 'are'} away.${waiting}`
  }
  if (isToday.value && late.value.length)
    return `${late.value.length === 1 ? 'One appointment missed' : `${late.value.length} appointments missed`}: ${homesOf(late.value)}.${waiting}`
  if (isToday.value && over.value.length) return `${homesOf(over.value)} ${over.value.length === 1 ? 'runs' : 'run'} over.${waiting}`
  if (!visits.value.length) return `No visit is planned ${isToday.value ? 'today' : 'on this day'}.${waiting}`
  if (isToday.value && likely.value.length)
    return `${likely.value.length === 1 ? 'One promise' : `${likely.value.length} promises`} will hardly hold: ${homesOf(likely.value)}.${waiting}`
  const onSite = visits.value.filter((visit) => visit.status === 'onSite').length
  return `${counted(visits.value.length, 'visit')}${boardCrews.value.length > 3 ? ` of ${boardCrews.value.length} crews` : ''}${onSite ? `, ${onSite} on site` : ''}${isToday.value ? ', every appointment kept so far' : ''}.${waiting}`
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
  pickedId.value = visit.id
}
const asVisit = computed(() => (picked.value ? { ...picked.value, kind: picked.value.kind as 'install' } : null))
async function cancel() {
  if (
    await run(() => submitJobCommand(picked.value!.jobId, { type: 'cancelVisit', visitId: picked.value!.id, reason: cancelReason.value }))
  )
    pickedId.value = null
}
function finished() {
  planning.value = null
  planningCallback.value = null
  pickedId.value = null
  void load()
}
</script>

<template>
  <div class="split">
    <div class="p-[18px_22px]">
      <div class="row wrap mb-3">
        <USelect v-if="session.branches.length > 1" v-model="branchId" :items="branchItems" aria-label="Branch" class="w-36" />
        <span class="row">
          <UButton icon="i-lucide-arrow-left" aria-label="Day before" variant="ghost" square @click="shift(-1)" />
          <UButton
            variant="ghost"
            class="px-1"
            :aria-pressed="onWeek"
            :aria-label="onWeek ? `Show ${dayWords}` : `${dayWords}: show the week`"
            @click="onWeek = !onWeek"
            >{{ dayWords }}</UButton
          >
          <UButton icon="i-lucide-arrow-right" aria-label="Day after" variant="ghost" square @click="shift(1)" />
        </span>
        <UButton v-if="!isToday" variant="link" @click="day = todayHere">today</UButton>
        <span class="grow" />
        <UInput
          v-if="visits.length > 6"
          v-model="filter"
          icon="i-lucide-search"
          placeholder="Find"
          aria-label="Find on the board"
          class="w-26"
        />
        <DayFiles
          v-if="session.isOffice && session.branch"
          :branch-id="session.branch.id"
          :region="region"
          :day="day"
          :routes="outlook ? desk!.routes : null"
          :crew-name="crewName"
        />
        <DayRequests v-if="session.isOffice && session.branch" :branch-id="session.branch.id" :region="region" />
        <UButton
          v-if="outlook"
          icon="i-lucide-map"
          square
          :aria-label="onMap ? 'Show crews against time' : 'Show the map'"
          :aria-pressed="onMap"
          @click="onMap = !onMap"
        />
        <UButton
          v-if="desk"
          :disabled="!outlook || desk.searching.value || (!visits.length && !file?.open.length)"
          :loading="rereading"
          @click="planDay"
          >Plan the day</UButton
        >
        <UButton to="/jobs/new" icon="i-lucide-plus">New job</UButton>
      </div>
      <h1 class="sentence">{{ sentence }}</h1>
      <p class="soft mt-1 mb-4">
        A bracket is what the customer was promised; a mark on it: it may not hold. Dashes before a visit are the way there.
        <DayUnsent v-if="session.isOffice" />
      </p>
      <CommonProblem :problem="problem" />
      <DayFirstSteps v-if="loaded && session.hasRole('lead')" :jobs="jobs.length" :visits="placed" />
      <StockShort v-if="loaded && session.isOffice" />
      <DayLoneWorkers :region="region" :now="now" />
      <div v-if="back && !planProblem" class="row note mb-3">
        <span class="grow" role="status">{{ back.words || 'Taken back.' }}</span>
        <UButton v-if="back.words" :loading="taking" @click="takeBack">Take it back</UButton>
        <UButton variant="ghost" icon="i-lucide-x" square aria-label="Put this note away" @click="back = null" />
      </div>
      <CommonProblem :problem="planProblem" />
      <p v-if="desk?.failed.value" class="note amber">The day could not be worked out: {{ desk.failed.value }}</p>
      <p v-for="words in vanWords" :key="words" class="note amber mb-3">{{ words }}</p>
      <p v-if="outlook && desk!.lost.value.length" class="note amber mb-3">
        No road of the map leads to {{ desk!.lost.value.map(nameOf).join(', ') }}: the way there is not counted. Show the home on the map of
        its job, or correct its address.
      </p>
      <LazyDayWeek
        v-if="onWeek && session.isOffice && session.branch"
        :branch-id="session.branch.id"
        :from="day"
        :region="region"
        :today="todayHere"
        @pick="pickDay"
      />
      <LazyDayMap
        v-else-if="onMap && desk?.roads.value && file"
        :roads="desk.roads.value"
        :homes="file.homes"
        :store="file.store"
        :routes="routes"
        :there="there"
        :crew-name="crewName"
        @place="place"
      />
      <DayBoard
        v-else-if="visits.length || changes.length"
        :visits="visits"
        :region="region"
        :day="day"
        :now="now"
        :crews="boardCrews"
        :outlook="outlook"
        :away="file?.away ?? []"
        :changes="changes"
        :name-of="nameOf"
        :skills-of="(id) => needsOf(id)?.skills ?? []"
        :try-at="outlook ? desk!.tryAt : null"
        :filter="filter"
        @pick="pick"
        @drop="drop"
      />
      <p v-else-if="loaded" class="note">Place work from the list beside, or take in a new job.</p>
      <DayWays
        v-if="desk && planned && file"
        v-model:chosen="chosenWay"
        :file="file"
        :ways="desk.ways.value"
        :searching="desk.searching.value"
        :share="desk.share.value"
        :crews="desk.crews.value"
        :name-of="nameOf"
        :region="region"
        :busy="taking"
        @stop="desk.stop()"
        @close="desk.forget()"
        @take="take"
      />
    </div>
    <aside class="side" aria-label="Not placed yet">
      <h2 class="kicker mb-2">Not placed yet</h2>
      <p v-if="loaded && !unplaced.length && !callbacks.length" class="soft">Everything has a visit.</p>
      <div v-for="callback in callbacks" :key="callback.id" class="slip hot-edge">
        <b>Callback: {{ callback.siteName }}</b>
        <p class="soft small">{{ callback.what }}</p>
        <p v-if="dueOf(callback.id)" class="small" :class="dueOf(callback.id)!.tone">{{ dueOf(callback.id)!.words }}</p>
        <div class="row wrap mt-2">
          <UButton @click="planningCallback = callback">Schedule</UButton>
          <UButton
            v-if="outlook"
            icon="i-lucide-phone"
            :aria-label="`Windows for ${callback.siteName}`"
            @click="calling = { id: callback.id, siteName: callback.siteName, what: callback.what }"
            >Windows</UButton
          >
        </div>
      </div>
      <div v-for="job in unplaced" :key="job.id" class="slip">
        <NuxtLink :to="`/jobs/${job.id}`"
          ><b>{{ job.siteName }}</b></NuxtLink
        >
        <p class="soft small">
          {{ job.title }} ·
          {{ job.status === 'between' ? `${job.passed} of ${job.points} pass, come back` : `${counted(job.points, 'point')}` }}
        </p>
        <p v-if="lacksOf(job.id)" class="small warn">Not here: {{ lacksOf(job.id) }}</p>
        <div class="row wrap mt-2">
          <UButton :aria-label="`Schedule ${job.siteName}`" @click="planning = job">Schedule</UButton>
          <UButton
            v-if="outlook && !lacksOf(job.id)"
            icon="i-lucide-phone"
            :aria-label="`Windows for ${job.siteName}`"
            @click="calling = { id: job.id, siteName: job.siteName, what: job.title }"
            >Windows</UButton
          >
        </div>
      </div>
    </aside>

    <USlideover
      :open="planning !== null"
      :title="`Schedule ${planning?.siteName ?? ''}`"
      :description="planning?.title ?? ''"
      @update:open="planning = null"
    >
      <template #body
        ><DayVisitForm v-if="planning" :job-id="planning.id" :branch-id="planning.branchId" @needs="readDay" @done="finished"
      /></template>
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
          @needs="readDay"
          @done="finished"
      /></template>
    </USlideover>
    <USlideover
      :open="calling !== null"
      :title="`Windows for ${calling?.siteName ?? ''}, ${dayWords}`"
      :description="calling?.what ?? ''"
      @update:open="calling = null"
    >
      <template #body>
        <DayWindows v-if="calling && desk" :id="calling.id" :ask="windowsOf" :region="region" :busy="taking" @book="book" />
        <CommonProblem :problem="planProblem" />
      </template>
    </USlideover>
    <UModal
      :open="dropped !== null"
      :title="`Move ${dropped?.visit.siteName ?? ''} to ${clockTime(dropped?.planned[0]?.startsAt ?? null, region)}?`"
      description="It would break something."
      @update:open="dropped = null"
    >
      <template #body>
        <div v-if="dropped" class="stack">
          <p v-for="one in dropped.words" :key="one" class="note amber">{{ one }}</p>
          <CommonProblem :problem="planProblem" />
          <div class="row">
            <UButton variant="solid" :loading="taking" @click="dropAnyway">Move it all the same</UButton>
            <UButton @click="dropped = null">Leave it</UButton>
          </div>
        </div>
      </template>
    </UModal>
    <USlideover
      :open="picked !== null"
      :title="picked?.siteName ?? ''"
      :description="picked ? `${picked.jobTitle}, ${picked.address}` : ''"
      @update:open="pickedId = null"
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
          <p v-if="lacking" class="note amber">This crew lacks: {{ lackWords(lacking) }}.</p>
          <p v-if="picked.tags.length" class="note amber">Tags of {{ picked.tags.join(', ') }} hang at this home.</p>
          <UButton :to="`/jobs/${picked.jobId}`" variant="solid">Open the job</UButton>
          <DayCustomer :visit="picked" :region="region" :expected="expectedOf(picked.id)" :times-on="outlook ? timesOn : null" />
          <template v-if="picked.status === 'planned' || picked.status === 'onSite'">
            <UButton @click="moving = !moving">Change time or crew</UButton>
            <DayVisitForm
              v-if="moving && asVisit"
              :job-id="picked.jobId"
              :branch-id="picked.branchId"
              :visit="asVisit"
              @needs="readDay"
              @done="finished"
            />
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
