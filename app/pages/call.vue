<script setup lang="ts">
import type { JobPage, UnitLine } from '../../core/protocol'
import type { Submission } from '~/composables/useJobRecord'
import { automatedHome, payerWords, pointsOfUnit, seenBy } from '../../core/job'
import { sentence as sentenceOf } from '../../core/site'
import {
  answersInWords,
  carryWords,
  goesOnUntil,
  nothingTaught,
  numbersOf,
  ofThisHome,
  redFlags,
  symptomWords,
  symptoms,
  triage,
  withItsLog,
  type Asked,
  type Cause,
  type OfItsLog,
  type RedFlag,
  type Said,
  type Symptom,
} from '../../core/triage'

/** A customer calls: danger first, then what is the matter, one question at a time, until it works or somebody is sent. */
const session = useSession()
const { busy, refusal, run } = useAction()
const search = ref('')
const found = ref<UnitLine[]>([])
const unit = ref<UnitLine | null>(null)
const nothing = {
  what: '',
  since: todayIn(session.region),
  symptoms: [] as Symptom[],
  answers: [] as Answer[],
  tried: [] as Said['tried'][number][],
  flags: [] as RedFlag[],
  /** What a log of its app or hub says, once it was read. */
  log: null as OfItsLog | null,
}
type Answer = Said['answers'][number]
const form = reactive(structuredClone(nothing))
const draft = computed({
  get: () => ({ form: { ...form }, unit: unit.value }),
  set: (value) => {
    Object.assign(form, value.form)
    unit.value = value.unit
  },
})
const { foundAt, forget, discard } = useDraft('call', draft)
watchDebounced(
  search,
  async () => {
    const answer = await api('GET /api/units', { query: { search: search.value } })
    if (answer.ok) found.value = answer.value.units
  },
  { debounce: 200 },
)

const page = shallowRef<JobPage | null>(null)
const problem = shallowRef<Problem | null>(null)
watch(
  () => unit.value?.jobId,
  async (id) => {
    page.value = null
    if (!id) return
    const answer = await api('GET /api/jobs/:id', { params: { id } })
    if (id !== unit.value?.jobId) return
    page.value = answer.ok ? answer.value : null
    problem.value = answer.ok ? null : answer.problem
  },
  { immediate: true },
)
const branch = computed(() => session.branchOf(page.value?.job.branchId ?? '') ?? session.branch)
const region = computed(() => session.regionAt(branch.value?.id ?? ''))
const { t } = providePlace(() => ({ schemeId: branch.value?.schemeId ?? 'na120', region: region.value }))
const taughtList = useList('GET /api/triage', () => ({}), ['job'])
/** What closed callbacks teach meanwhile changes nothing in the middle of a call. */
const taught = shallowRef(nothingTaught())
watch(taughtList.answer, (answer) => answer && !form.answers.length && (taught.value = answer.taught), { immediate: true })

const installed = computed(() => {
  const here = page.value?.jobState.units[unit.value?.id ?? '']
  return here && !here.removedAt ? here : null
})
const home = computed(() =>
  page.value && installed.value ? ofThisHome(page.value.jobState, page.value.siteState, installed.value, new Date().toISOString()) : null,
)
const numbers = computed(() => numbersOf(taught.value, unit.value?.model ?? null))
const tooOld = computed(() => form.log !== null && !goesOnUntil(form.log, form.since, region.value.zone))
const call = computed(() => {
  const words: Said = { symptoms: form.symptoms, answers: form.answers, tried: form.tried }
  return home.value && withItsLog(home.value, tooOld.value ? null : form.log, words)
})
const state = computed(() => call.value && triage(numbers.value, call.value.home.facts, call.value.said, call.value.home))
/** What the home does by itself, for a log to be held against. */
const automated = computed(() =>
  page.value
    ? automatedHome(page.value.jobState, page.value.siteState, { zone: region.value.zone, position: page.value.site.position })
    : null,
)
const device = computed(() => (page.value && installed.value ? (pointsOfUnit(page.value.jobState, installed.value)[0]?.id ?? null) : null))
const ofLog = (sentence: string) => (form.what = `${what.value.replace(/\.?$/, what.value ? '.' : '')} ${sentence}`.trim().slice(0, 480))
/** A call begins with what the customer says: without it nothing is asked. */
const begun = computed(() => form.symptoms.length > 0 || form.answers.length > 0)
const danger = computed(() => form.flags.length > 0)
const mended = computed(() => state.value?.next.kind === 'mended' && !danger.value)
const already = computed(
  () =>
    Object.values(page.value?.jobState.callbacks ?? {}).find(({ unitId, status }) => unitId === unit.value?.id && status !== 'closed') ??
    null,
)

const choices = computed(() => symptoms.map((value) => ({ value, label: t(symptomWords[value]) })))
const saidWords = computed(() => form.symptoms.map((symptom) => t(symptomWords[symptom])).join(', '))
const dangerWords = computed(() => form.flags.map((flag) => t(redFlags[flag])).join(', '))
const what = computed(() => form.what.trim() || sentenceOf([dangerWords.value, saidWords.value].filter(Boolean).join('; ')))

function answered({ question, again }: Asked, answer: number | null) {
  form.answers = again
    ? form.answers.map((one) => (one.question === question.id ? { ...one, again: answer } : one))
    : [...form.answers, { question: question.id, answer }]
}
const tried = (cause: Cause, works: boolean) => (form.tried = [...form.tried, { cause: cause.id, mended: works }])
const takeBack = (id: string) => (form.answers = form.answers.filter(({ question }) => question !== id))
const saidSoFar = computed(() => t(answersInWords(form.answers)))
function another() {
  unit.value = null
  Object.assign(form, structuredClone(nothing))
}

const needs = computed(() => state.value?.visit ?? null)
const payer = computed(() => needs.value?.payers[0] ?? null)
const answerOf = (id: string) => form.answers.find(({ question }) => question === id)?.answer
const callOf = () => ({
  ...{ symptoms: form.symptoms, answers: form.answers, tried: form.tried, flags: form.flags },
  ranked: state
    .value!.suspects.slice(0, 5)
    .map(({ cause, share }) => ({ cause: cause.id, words: cause.words, share: Math.round(share * 1000) / 1000 })),
  carry: danger.value ? [] : needs.value!.carry.map((one) => carryWords[one]),
  minutes: needs.value!.minutes,
  licence: danger.value || needs.value!.licence,
  payer: payer.value && payer.value.share >= 0.5 ? payer.value.payer : null,
})
const inTwoDays = () => dayIn(2, region.value)
/** What the branch promises, to be said while they are on the telephone. */
const seen = computed(() =>
  branch.value ? seenBy({ openedAt: new Date().toISOString(), danger: danger.value }, branch.value.settings.day, region.value.zone) : null,
)
/** Its id, once it is on record: a second try opens no second one. */
const opened = ref<string | null>(null)
async function open(): Promise<Submission> {
  const callbackId = opened.value ?? newId()
  const submission = opened.value
    ? ({ ok: true, refusal: null } as Submission)
    : await submitJobCommand(unit.value!.jobId, {
        ...{ type: 'openCallback', callbackId, unitId: unit.value!.id, what: what.value, since: form.since, call: callOf() },
        offlineInApp: form.symptoms.includes('offline') || answerOf('appSays') === 0,
        wallSwitchFlipped: answerOf('before') === 0,
        routerChanged: answerOf('router') === 0,
        breakerTripped: form.symptoms.includes('trips') || answerOf('lever') === 2 || form.flags.includes('tripsAgain'),
      })
  if (submission.ok) opened.value = callbackId
  if (!submission.ok || state.value?.next.kind !== 'mended' || danger.value) return submission
  const { cause } = state.value.next
  return submitJobCommand(unit.value!.jobId, {
    ...{ type: 'solveCallback', callbackId, causeId: cause.id, callBackOn: inTwoDays() },
    how: t(cause.steps.join(' ')).slice(0, 480),
  })
}
async function end(toWindows: boolean) {
  const jobId = unit.value!.jobId
  if (!(await run(open))) return
  const callbackId = opened.value!
  forget()
  await navigateTo(toWindows && session.isOffice ? `/day?windows=${callbackId}` : `/jobs/${jobId}/callback/${callbackId}`)
}
const sentence = computed(() => {
  if (!unit.value) return 'Somebody calls: which device is it?'
  if (danger.value) return 'Danger: a licensed person comes today.'
  if (!state.value || !begun.value) return 'What is the matter?'
  const [first] = state.value.suspects
  if (mended.value) return 'It works again.'
  return `${first!.share >= 0.5 ? 'Most likely' : 'Perhaps'} ${t(first!.cause.words)}, ${Math.round(first!.share * 100)} %.`
})
</script>

<template>
  <div class="page">
    <div class="row wrap mb-2">
      <h1 class="sentence grow" data-testid="call-sentence">{{ sentence }}</h1>
      <span v-if="state?.asked" class="soft small"
        >{{ counted(state.asked, 'question') }} asked<template v-if="unit">, {{ unit.siteName }}</template></span
      >
    </div>
    <CommonDraft :at="foundAt" @discard="discard" />
    <section v-if="!unit" class="stack max-w-2xl">
      <UFormField label="Which device? Customer, street, room, name or serial" name="unit"
        ><UInput v-model="search" icon="i-lucide-search" autofocus name="unit"
      /></UFormField>
      <button v-for="line in found" :key="line.id" type="button" class="list-row pick" @click="unit = line">
        <b>{{ line.name || 'no name' }}</b><span class="soft"
          >{{ line.place }} · {{ line.siteName }}, {{ line.address }} · {{ line.customer }} · {{ line.model }} ·
          <span class="mono">{{ line.serial }}</span></span
        >
      </button>
      <p v-if="search && !found.length" class="soft">No installed device fits. Try the street, the customer, or fewer letters.</p>
    </section>
    <template v-else>
      <p class="mb-3">
        <b>{{ unit.name || unit.serial }}</b><span class="soft">
          · {{ unit.place }} · {{ unit.siteName }}, {{ unit.address }} · {{ unit.customer }} · {{ unit.model }}</span
        >
        <UButton variant="link" class="p-0 ml-2" @click="another">another device</UButton>
      </p>
      <CommonProblem :problem="problem" />
      <p v-if="already" class="note amber mb-3">
        It is called about already: {{ already.what }}
        <NuxtLink class="underline" :to="`/jobs/${unit.jobId}/callback/${already.id}`">Go on there.</NuxtLink>
      </p>
      <template v-if="state && installed && !already">
        <p v-if="home?.atWork" class="note red mb-3" data-testid="at-work">
          <b class="bad">{{ t(home.atWork) }}</b> Tell the customer to switch nothing on before you have spoken to them.
        </p>
        <CallbackDanger v-model="form.flags" class="mb-4" />
        <div class="three" :class="{ begun }">
          <section class="stack" aria-label="What the customer says">
            <h2 class="kicker">What the customer says</h2>
            <CommonToggles
              spoken="What the customer says"
              class="says"
              :items="choices"
              :chosen="form.symptoms"
              @choose="(symptom) => (form.symptoms = toggled(form.symptoms, symptom))"
            />
            <UFormField label="In their words" name="what"
              ><UTextarea v-model="form.what" name="what" :rows="2" :maxlength="480" :placeholder="what"
            /></UFormField>
            <UFormField label="Since" name="since"
              ><CommonDay v-model="form.since" label="Since" :region="region" name="since"
            /></UFormField>
            <details v-if="begun && automated && !danger">
              <summary>They can send a log: read it</summary>
              <LazyCallbackSwitchLog
                :home="automated"
                :device-id="device"
                :region="region"
                use="Put it with their words"
                @use="ofLog"
                @read="form.log = $event"
              />
              <p v-if="tooOld" class="note amber small">The log ends before it began: it says nothing of this.</p>
            </details>
          </section>
          <section class="stack" aria-label="Next">
            <h2 class="kicker">Next</h2>
            <p v-if="danger" class="note red">Nothing more is asked, and nothing is tried on the telephone.</p>
            <p v-else-if="!begun" class="soft">Press what they say on the left. Then one question at a time comes here.</p>
            <CallbackQuestion v-else :next="state.next" :model="installed.model" @answer="answered" @tried="tried" />
            <div v-if="saidSoFar.length || form.tried.length || form.log" class="stack">
              <h3 class="kicker rule pt-3">Said so far</h3>
              <p v-for="one in saidSoFar" :key="one.id" class="small row">
                <span class="grow"
                  ><span class="soft">{{ one.ask }}</span> <b>{{ one.answer }}</b></span
                ><UButton variant="link" class="p-0" :aria-label="`Take back: ${one.ask}`" @click="takeBack(one.id)">take back</UButton>
              </p>
              <p v-if="form.log" class="small row">
                <span class="grow"
                  ><span class="soft">Read a log, until</span>
                  <b>{{ dayAndTime(new Date(form.log.to * 1000).toISOString(), region) }}</b></span
                ><UButton variant="link" class="p-0" aria-label="Take the log back" @click="form.log = null">take back</UButton>
              </p>
              <p v-for="(one, index) in form.tried" :key="one.cause" class="small row">
                <span class="grow"
                  ><span class="soft">Tried: {{ t(numbers.causes.find(({ id }) => id === one.cause)?.words ?? one.cause) }}</span>
                  <b>{{ one.mended ? 'it helped' : 'it did not help' }}</b></span
                ><UButton
                  variant="link"
                  class="p-0"
                  aria-label="Take the try back"
                  @click="form.tried = form.tried.filter((_, at) => at !== index)"
                  >take back</UButton
                >
              </p>
            </div>
          </section>
          <section class="stack" aria-label="Causes">
            <h2 class="kicker">What it may be</h2>
            <template v-if="begun">
              <CallbackSuspects :suspects="state.suspects" />
              <LazyCallbackWiringTold
                v-if="!danger && page"
                :job="page.jobState"
                :site="page.siteState"
                :unit-id="installed.id"
                :symptoms="form.symptoms"
                :there="false"
              />
            </template>
            <p v-else class="soft">
              {{ counted(taught.closed, 'closed callback has', 'closed callbacks have') }} taught what is asked here.
            </p>
          </section>
        </div>
        <footer v-if="(begun || danger) && needs" class="foot" aria-label="How it ends">
          <div class="grow">
            <p v-if="mended"><b>Fixed now.</b> Call back on {{ dayWord(inTwoDays(), region) }}.</p>
            <p v-else-if="danger"><b>A licensed person, today.</b></p>
            <p v-else>
              <b>If somebody comes:</b> about {{ needs.minutes }} min there{{ needs.licence ? ', a licensed person' : ''
              }}<template v-if="needs.carry.length">; take along {{ needs.carry.map((one) => carryWords[one]).join(', ') }}</template
              >.
            </p>
            <p v-if="seen && !mended && !danger" class="small">
              Promise them: somebody has looked at it by <b>{{ dayWord(seen, region) }}</b>.
            </p>
            <p v-if="payer && !danger" class="soft small">
              Paid by {{ payerWords[payer.payer] }}, as it looks ({{ Math.round(payer.share * 100) }} %); decided when the cause is
              confirmed.
            </p>
            <CommonRefusal :refusal="refusal" />
          </div>
          <UButton v-if="mended" variant="solid" size="xl" :loading="busy" :disabled="what.length < 5" @click="end(false)"
            >Store it, and call back in two days</UButton
          >
          <template v-else>
            <UButton size="xl" :loading="busy" :disabled="what.length < 5" @click="end(false)">Open the callback</UButton>
            <UButton
              v-if="session.isOffice"
              variant="solid"
              size="xl"
              icon="i-lucide-phone"
              :loading="busy"
              :disabled="what.length < 5"
              @click="end(true)"
              >Offer windows</UButton
            >
          </template>
        </footer>
        <p class="soft small mt-3">
          Shares are the trade’s own, moved by your closed callbacks and by what is on record of this home. They rank; they prove nothing.
          Nobody opens a plate, a fixture or the {{ t('{panel}') }} on our advice.
        </p>
      </template>
      <p v-else-if="page && !installed" class="note amber">This device is not in the wall any more. Choose the one that is there now.</p>
      <p v-else-if="!problem && !already" class="soft">Reading the record of this home …</p>
    </template>
  </div>
</template>

<style scoped>
.three {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr) minmax(0, 1fr);
  gap: 28px;
}
.says {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1.5px;
}
.says :deep(button) {
  margin-left: 0;
  text-align: left;
  min-height: 36px;
}
.pick {
  width: 100%;
  text-align: left;
  min-height: 44px;
}
.foot {
  position: sticky;
  bottom: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  align-items: center;
  margin-top: 20px;
  padding: 12px 0;
  background: var(--paper);
  border-top: 3px solid var(--ink);
}
.foot > .grow {
  flex: 1 1 280px;
}
@media (max-width: 900px) {
  /* Once they have said what it is, the question is what the thumb wants. */
  .three.begun > :nth-child(2) {
    order: -1;
  }
  .foot {
    position: static;
  }
  .three {
    grid-template-columns: 1fr;
  }
  .says :deep(button) {
    min-height: 44px;
  }
}
</style>
