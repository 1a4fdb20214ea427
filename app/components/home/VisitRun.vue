<script setup lang="ts">
import { doorWords, type Visit } from '../../../core/job'
import { boxName, sentence as capital } from '../../../core/site'
import { circuitsOff, doorChecks, doorVerdict, workOfVisit, type DoorAnswers, type DoorCheckId } from '../../../core/dispatch/visit'
import type { VisitAnswer, VisitQuestion } from '~/workers/visit'

/** Whether to begin, in which order, what goes off when, and when it is enough for today. */
const { job, site, asker, region, now, submitJob } = injectJobRecord()
const session = useSession()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const props = defineProps<{ visit: Visit }>()
const mine = computed(() => props.visit.personIds.includes(asker.value.personId) || session.viewer?.role === 'lead')
const { answer: facts, problem } = useList('GET /api/visits/:id/facts', () => ({ params: { id: props.visit.id } }), ['messages', 'jobs'], {
  keptAs: () => `facts of ${props.visit.id}`,
})

// At the door.
const answers = reactive<DoorAnswers>({})
watch(
  () => props.visit.door,
  (door) => Object.assign(answers, door?.answers ?? {}),
  { immediate: true },
)
const licensedHere = computed(() => props.visit.personIds.some((id) => session.person(id)?.licensed))
const checks = computed(() =>
  job.value && site.value
    ? doorChecks(job.value, site.value, props.visit, facts.value ?? { ready: [], licensed: licensedHere.value }, answers)
    : [],
)
const verdict = computed(() => doorVerdict(checks.value))
const verdictWords = computed(() => {
  const list = verdict.value.because.map(({ what }) => t(what)).join('; ')
  return {
    go: 'Nothing stands against it.',
    part: `Begin, and something may stay for another day. No, or not asked: ${list}.`,
    no: `Better not begun. No: ${list}.`,
    ask: `${counted(verdict.value.because.length, 'thing')} to ask before anything is opened.`,
  }[verdict.value.is]
})
const canAnswer = (id: DoorCheckId) => id !== 'licence' && id !== 'alarms'
const note = ref('')
async function decide(decision: 'go' | 'part' | 'no') {
  await run(() => submitJob({ type: 'decideAtDoor', visitId: props.visit.id, decision, answers: { ...answers }, note: note.value }))
}

// The order, worked out away from the page.
const beginsAt = computed(() => {
  const planned = props.visit.expectedAt ?? props.visit.startsAt
  return Math.floor((props.visit.status === 'onSite' ? now.value : Math.max(Date.parse(planned), now.value)) / 60_000) * 60_000
})
const minutesTo = (iso: string | null) => (iso ? (Date.parse(iso) - beginsAt.value) / 60_000 : null)
const work = computed(() => {
  if (!job.value || !site.value || props.visit.kind === 'survey') return null
  const { people = props.visit.personIds.length, pace = 1, duskAt = null } = facts.value ?? {}
  // Minutes go by: the order itself does not follow the clock, but for the dark.
  const dark = minutesTo(duskAt)
  return workOfVisit(job.value, site.value, { people, pace, darkAt: dark === null ? null : Math.round(dark / 15) * 15 })
})
const until = computed(() => Math.round((minutesTo(facts.value?.until ?? null) ?? 24 * 60) / 5) * 5)
const { put, answer, failed } = useNewestAnswer<{ question: VisitQuestion; answer: VisitAnswer }>(
  () => new Worker(new URL('../../workers/visit.ts', import.meta.url), { type: 'module' }),
)
const question = computed(() => (work.value?.boxes.length ? JSON.stringify({ work: work.value, until: until.value }) : null))
watch(question, (now) => now && void put(JSON.parse(now) as VisitQuestion), { immediate: true })
const found = computed(() => (question.value && !failed.value ? answer.value : null))
/** Of use to nobody where it is dark already, or after they have left. */
const duskToday = computed(() => {
  const { duskAt = null, until: leave = '' } = facts.value ?? {}
  return duskAt && Date.parse(duskAt) > beginsAt.value && duskAt < leave ? duskAt : null
})
const clock = (minutes: number) => clockTime(new Date(beginsAt.value + minutes * 60_000).toISOString(), region.value)
// Of the question that was answered: while another one is thought about, its boxes may be others.
const boxAt = (index: number) => site.value?.boxes[found.value?.boxIds[index] ?? '']
const nameAt = (index: number) => (boxAt(index) ? capital(boxName(site.value!, boxAt(index)!)) : 'A box')
const lines = computed(() => {
  if (!found.value) return []
  const { steps, after } = found.value.run
  return [
    ...steps.map((step) => ({ ...step, key: `box ${step.box}`, what: nameAt(step.box), soft: 'open, prove, work, close' })),
    ...after.map((step) => ({ ...step, key: `after ${step.box}`, what: nameAt(step.box), soft: 'join and test, with the power back on' })),
  ].sort((a, b) => a.from - b.from || a.to - b.to)
})
const offs = computed(() => (found.value && job.value && site.value ? circuitsOff(job.value, site.value, found.value.run) : []))
const enoughWords = computed(() => {
  if (!found.value || !facts.value) return ''
  const { boxes, of, lastStart, ends, handover } = found.value.enough
  const why = facts.value.untilWhy.is === 'next' ? `to be at ${facts.value.untilWhy.siteName} as promised` : 'the day ends'
  const limit = clockTime(facts.value.until, region.value)
  if (handover) return `All of it fits: done about ${clock(ends)}, and you have until ${limit} (${why}).`
  if (lastStart === null) return `The boxes fit, the handover may not: leave by ${limit} (${why}), and hand over another day.`
  return `${boxes} of ${counted(of, 'box', 'boxes')} fit until ${limit} (${why}). Begin no further box after ${clock(lastStart)}: what is opened is closed today.`
})
const sentence = computed(() => {
  const door = props.visit.door
  if (door) return `Decided at ${clockTime(door.at, region.value)}: the crew ${doorWords[door.decision]}.`
  // Hands are at work: what was to be asked before is late, and is not put as if there were time.
  if (props.visit.status === 'onSite' && verdict.value.is === 'ask')
    return 'Boxes are being worked at. Nobody has noted what was found at the door.'
  return verdictWords.value
})
</script>

<template>
  <div>
    <h1 class="sentence mb-3">{{ sentence }}</h1>
    <CommonProblem :problem="problem" />
    <details class="mb-6 door" :open="visit.status === 'planned' || verdict.is === 'no'">
      <summary><h2 class="kicker">At the door</h2></summary>
      <p v-if="visit.door" class="soft mb-2">{{ verdictWords }}{{ visit.door.note ? ` Noted: ${visit.door.note}` : '' }}</p>
      <div v-for="check in checks" :key="check.id" class="check">
        <span class="grow"
          ><b :class="{ warn: check.is === 'no' }">{{ t(check.what) }}</b
          ><br /><span class="soft small">{{ t(check.why) }}</span></span
        >
        <CommonToggles
          v-if="mine && canAnswer(check.id)"
          :spoken="t(check.what)"
          :items="[
            { value: 'yes', label: 'yes' },
            { value: 'no', label: 'no' },
          ]"
          :chosen="check.is === 'ask' ? undefined : check.is"
          @choose="answers[check.id] = $event"
        />
        <span v-else class="mono small">{{ check.is === 'ask' ? 'to ask' : check.is }}</span>
      </div>
      <template v-if="mine">
        <UFormField label="Note for the office; needed where you do not begin" class="mt-3 max-w-md"
          ><UInput v-model="note" maxlength="500"
        /></UFormField>
        <div class="row wrap mt-2">
          <UButton :variant="verdict.is === 'go' ? 'solid' : 'outline'" :loading="busy" @click="decide('go')">We begin</UButton>
          <UButton :variant="verdict.is === 'part' ? 'solid' : 'outline'" :loading="busy" @click="decide('part')"
            >We begin, something stays</UButton
          >
          <UButton
            :variant="verdict.is === 'no' ? 'solid' : 'outline'"
            :loading="busy"
            :disabled="note.trim().length < 3"
            @click="decide('no')"
            >We do not begin</UButton
          >
        </div>
        <CommonRefusal :refusal="refusal" class="mt-2" />
        <p class="soft small mt-2">The program says what it knows; you decide. Local code and a licensed person’s judgement come first.</p>
      </template>
    </details>
    <template v-if="found && lines.length">
      <section v-if="enoughWords" aria-label="Enough for today" class="mb-6">
        <h2 class="kicker mb-1">Enough for today</h2>
        <p>{{ enoughWords }}</p>
      </section>
      <section aria-label="In this order" class="mb-6">
        <h2 class="kicker mb-1">In this order</h2>
        <p class="soft small mb-2">
          Each circuit goes off once, for as short as possible{{
            duskToday ? `; rooms that lose their light before dark, ${clockTime(duskToday, region)}` : ''
          }}. Minutes are expected ones.
        </p>
        <ol>
          <li v-for="line in lines" :key="line.key" class="line">
            <span class="when"
              ><span class="mono">{{ clock(line.from) }}–{{ clock(line.to) }}</span
              ><span v-if="work!.people > 1" class="soft small ml-2">
                {{ ['one', 'the other', 'a third'][line.person] ?? 'another' }}</span
              ></span
            >
            <span class="grow"
              ><b>{{ line.what }}</b> <span class="soft small">{{ line.soft }}</span></span
            >
          </li>
        </ol>
      </section>
      <section aria-label="What goes off" class="mb-6">
        <h2 class="kicker mb-1">What goes off, for the customer</h2>
        <ul>
          <li v-for="one in offs" :key="one.breakerId" class="line">
            <span class="mono when">{{ clock(one.from) }}–{{ clock(one.to) }}</span>
            <span class="grow"
              ><b>{{ capital(t(one.name)) }}</b
              >, about {{ Math.round((one.to - one.from) / 5) * 5 || 5 }} min<template v-if="one.lights.length"
                ><br /><span class="soft small">{{ one.lights.join(', ') }}, and whatever else is on it</span></template
              ><template v-if="one.asks.length"
                ><br /><b class="small warn">{{ one.asks.join('; ') }}</b></template
              ></span
            >
          </li>
        </ul>
      </section>
    </template>
    <p v-else-if="visit.kind !== 'survey'" class="soft">No box of this job waits for a device.</p>
  </div>
</template>

<style scoped>
/* It opens. */
.door summary {
  text-decoration: underline;
  min-height: 44px;
  display: flex;
  align-items: center;
  cursor: pointer;
}
.check,
.line {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}
.when {
  min-width: 215px;
}
@media (max-width: 560px) {
  .line {
    flex-wrap: wrap;
    gap: 2px 12px;
  }
  .line .grow {
    flex-basis: 100%;
  }
}
</style>
