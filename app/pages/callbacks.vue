<script setup lang="ts">
import {
  causeWords,
  fateWords,
  remedyWords,
  returnOutcomeWords,
  returnStageWords,
  seenBy,
  seenInTime,
  waitsForVisit,
  type SeenInTime,
} from '../../core/job'
import { sentence as sentenceOf } from '../../core/site'
import { nothingTaught, numbersOf } from '../../core/triage'

const session = useSession()
const { t } = useTrade()
const { answer, loaded, problem } = useList('GET /api/callbacks', () => ({}), ['job'])
/** Only those of this cause, once somebody asked which they are. */
const ofCause = ref<string | null>(null)
const all = computed(() => answer.value?.callbacks ?? [])
type Line = (typeof all.value)[number]
/** The day by which somebody is to have looked at it, and how that stands; null: nobody has to come. */
function promiseOf(callback: Line): { is: SeenInTime; words: string; tone: string } | null {
  const branch = session.branchOf(callback.branchId)
  if (!waitsForVisit(callback) || !branch) return null
  const region = session.regionAt(callback.branchId)
  const by = seenBy(callback, branch.settings.day, region.zone)
  const is = seenInTime(by, callback.visitAt && dayOf(callback.visitAt, region), todayIn(region))
  const tone = { passed: 'bad', bookedLater: 'bad', today: 'warn', kept: '' }[is]
  return { is, words: seenWords(by, is === 'passed', region), tone }
}
const promises = computed(() => new Map(all.value.map((callback) => [callback.id, promiseOf(callback)])))
const rank: Record<SeenInTime, number> = { passed: 0, today: 1, bookedLater: 2, kept: 3 }
const rankOf = (callback: Line) => {
  const promise = promises.value.get(callback.id)
  return callback.danger && promise ? -1 : promise ? rank[promise.is] : 3
}
/** What is dangerous, then what is past its day, then as they come. */
const list = computed(() =>
  (ofCause.value ? all.value.filter(({ causeId }) => causeId === ofCause.value) : all.value).toSorted((a, b) => rankOf(a) - rankOf(b)),
)
const passed = computed(() => [...promises.value.values()].filter((one) => one?.is === 'passed').length)
const later = computed(() => [...promises.value.values()].filter((one) => one?.is === 'bookedLater').length)
const open = computed(() => all.value.filter(waitsForVisit))
const toCall = computed(() => all.value.filter(({ status }) => status === 'told'))
const due = computed(
  () => toCall.value.filter(({ callBackOn, branchId }) => callBackOn !== null && callBackOn <= todayIn(session.regionAt(branchId))).length,
)
const sentence = computed(() => {
  if (!loaded.value) return 'Looking for callbacks …'
  const calls = due.value ? `${counted(due.value, 'customer is', 'customers are')} to be called back today.` : ''
  if (!open.value.length) return calls || 'No callback is open.'
  const unplaced = open.value.filter((callback) => !callback.visitAt).length
  const broken = [
    passed.value ? `${passed.value} past the day by which they are to be seen` : '',
    later.value ? `${later.value} booked after it` : '',
  ].filter(Boolean)
  const promised = broken.length ? `${sentenceOf(broken.join(', '))}.` : ''
  return [
    `${counted(open.value.length, 'callback is', 'callbacks are')} open${unplaced ? `, ${unplaced} without a visit` : ''}.`,
    promised,
    calls,
  ]
    .filter(Boolean)
    .join(' ')
})
const returnsList = useList('GET /api/returns', () => ({}), ['job'])
const out = computed(() => returnsList.answer.value?.devices ?? [])
const outOpen = computed(() => out.value.filter(({ stage }) => stage !== 'settled'))
const outLate = computed(() => outOpen.value.filter(({ dueOn, branchId }) => dueOn !== null && dueOn < todayIn(session.regionAt(branchId))))
const shownOut = ref<string | null>(null)
const statusWords: Record<string, string> = { told: 'call back' }
const colours: Record<string, string> = { open: 'bad', diagnosed: 'warn', told: 'hot' }

const { answer: triageAnswer } = useList('GET /api/triage', () => ({}), ['job'])
const taught = computed(() => triageAnswer.value?.taught ?? nothingTaught())
const before = numbersOf(nothingTaught())
const learnt = computed(() => {
  const now = numbersOf(taught.value)
  return now.causes
    .map((cause, at) => ({ cause, count: taught.value.causes[cause.id] ?? 0, was: before.share[at] ?? 0, is: now.share[at]! }))
    .filter(({ count }) => count > 0)
    .sort((a, b) => b.count - a.count)
})
const percent = (share: number) => `${(share * 100).toFixed(1)} %`
</script>

<template>
  <div class="page">
    <div class="row wrap mb-4">
      <h1 class="sentence grow">{{ sentence }}</h1>
      <UButton icon="i-lucide-phone" variant="solid" to="/call">New callback</UButton>
    </div>
    <CommonProblem :problem="problem" />
    <p v-if="ofCause" class="note mb-3">
      Only those of one cause: {{ t(learnt.find(({ cause }) => cause.id === ofCause)?.cause.words ?? ofCause) }}.
      <UButton variant="link" class="p-0" @click="ofCause = null">All of them</UButton>
    </p>
    <NuxtLink
      v-for="callback in list"
      :key="callback.id"
      :to="`/jobs/${callback.jobId}/callback/${callback.id}`"
      class="list-row line"
      :class="{ closed: callback.status === 'closed' }"
    >
      <span
        ><b>{{ callback.siteName }}</b> <span class="soft">{{ callback.unitName || callback.serial }}</span><br />{{ callback.what }}</span
      >
      <span class="small"
        ><b :class="colours[callback.status] ?? 'good'">{{ statusWords[callback.status] ?? callback.status }}</b
        ><b v-if="callback.danger && callback.status !== 'closed'" class="bad"> · danger</b><br /><span class="soft">{{
          callback.causeKind ? `${t(causeWords[callback.causeKind as 'wiring'])}; ${remedyWords[callback.remedy as 'replace']}` : ''
        }}</span></span
      >
      <span class="small soft"
        >opened {{ dayAndTime(String(callback.openedAt), session.regionAt(callback.branchId)) }}<br />{{
          callback.visitAt
            ? `visit ${dayAndTime(callback.visitAt, session.regionAt(callback.branchId))}`
            : callback.callBackOn
              ? `on ${dayWord(callback.callBackOn, session.regionAt(callback.branchId))}`
              : callback.status === 'closed'
                ? ''
                : 'no visit yet'
        }}<template v-if="promises.get(callback.id)"
          ><br /><span :class="promises.get(callback.id)!.tone">{{ promises.get(callback.id)!.words }}</span></template
        ></span
      >
    </NuxtLink>
    <section v-if="out.length" class="mt-8" aria-label="Devices that are out">
      <div class="row wrap mb-2">
        <h2 class="kicker grow">
          {{ counted(outOpen.length, 'device that came out is', 'devices that came out are') }} not settled{{
            outLate.length ? `, ${outLate.length} past ${outLate.length === 1 ? 'its' : 'their'} day` : ''
          }}
        </h2>
        <UButton v-if="session.isOffice" to="/api/returns/table" external icon="i-lucide-download">Table (CSV)</UButton>
      </div>
      <div v-for="device in out" :key="`${device.jobId} ${device.serial}`" class="out">
        <button
          type="button"
          class="list-row line w-full text-left"
          :aria-expanded="shownOut === `${device.jobId} ${device.serial}`"
          @click="shownOut = shownOut === `${device.jobId} ${device.serial}` ? null : `${device.jobId} ${device.serial}`"
        >
          <span
            ><b>{{ device.model }}</b> <span class="mono small">{{ device.serial }}</span><br /><span class="soft"
              >{{ device.siteName }}, job {{ device.jobNumber }}</span
            ></span
          >
          <span class="small"
            ><b :class="device.stage === 'settled' ? 'good' : outLate.includes(device) ? 'bad' : 'warn'">{{
              device.stage === 'settled' ? returnOutcomeWords[device.outcome ?? 'scrapped'] : returnStageWords[device.stage]
            }}</b
            ><br /><span class="soft">{{ fateWords[device.goes] }}</span></span
          >
          <span class="small soft">{{ device.dueOn ? `by ${dayWord(device.dueOn, session.regionAt(device.branchId))}` : '' }}</span>
        </button>
        <div v-if="shownOut === `${device.jobId} ${device.serial}`" class="pb-4 px-1">
          <CallbackOutDevice
            :job-id="device.jobId"
            :branch-id="device.branchId"
            :device="device"
            :may-follow="session.isOffice"
            @changed="returnsList.load"
          />
          <NuxtLink
            class="underline small"
            :to="device.callbackId ? `/jobs/${device.jobId}/callback/${device.callbackId}` : `/jobs/${device.jobId}/parts?by=box`"
            >{{ device.callbackId ? 'Its callback, and its pictures' : 'Where it failed: parts, by box' }}</NuxtLink
          >
        </div>
      </div>
      <p v-if="returnsList.answer.value?.more" class="soft small">More were settled before these; the table has them.</p>
    </section>
    <CallbackBatteriesDue v-if="session.isOffice" />
    <section v-if="learnt.length" class="mt-8" aria-label="What closed callbacks have taught">
      <h2 class="kicker">What {{ counted(taught.closed, 'closed callback has', 'closed callbacks have') }} taught</h2>
      <p class="soft small mb-2">
        How often each cause is expected, before anything is said: as the trade has it, and as your own callbacks have moved it. Few
        callbacks move little.
      </p>
      <div v-for="line in learnt" :key="line.cause.id" class="list-row learnt">
        <span>{{ t(line.cause.words) }}</span><span class="mono small">{{ percent(line.was) }} → {{ percent(line.is) }}</span
        ><UButton
          variant="link"
          class="p-0"
          :aria-label="`Show ${counted(line.count, 'callback')}: ${t(line.cause.words)}`"
          @click="ofCause = line.cause.id"
          >{{ counted(line.count, 'callback') }}</UButton
        >
      </div>
    </section>
    <p v-if="loaded && !list.length" class="note">
      A callback belongs to an installed device. Hand over a job first; then it can be called back.
    </p>
  </div>
</template>

<style scoped>
.line {
  grid-template-columns: minmax(0, 1fr) 210px 190px;
}
.closed {
  background: var(--mute);
}
.learnt {
  grid-template-columns: minmax(0, 1fr) 160px 120px;
}
@media (max-width: 760px) {
  .line {
    grid-template-columns: 1fr 1fr;
  }
  .learnt {
    grid-template-columns: 1fr auto;
  }
  .line > :first-child,
  .learnt > :first-child {
    grid-column: 1 / -1;
  }
}
</style>
