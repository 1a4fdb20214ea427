<script setup lang="ts">
import { canTouch, permitReaching, nextPowerStep, proofMinutesLeft, sentence, undoSeconds } from '../../../../../core/site'
import { currentUnits, inDoubtAt, nextWorkStep } from '../../../../../core/job'

const route = useRoute()
const { page, job, site, asker, vantage, region, settings, onCrew, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const box = computed(() => site.value?.boxes[String(route.params.boxId)] ?? null)
/** What is next stands at once; what is looked up or comes last is fetched then. */
const stands = useMounted()
const selected = ref<string | null>(null)
const editing = ref(false)
const sawLive = ref(false)
const liveVolts = ref('')

const touch = computed(() => (box.value ? canTouch(site.value!, box.value.id, asker.value, vantage.value) : null))
const step = computed(() => (box.value ? nextPowerStep(site.value!, box.value.id, asker.value, vantage.value) : null))
const proof = computed(() => (box.value?.proofId ? (site.value!.proofs[box.value.proofId] ?? null) : null))
const permitNear = computed(() => (box.value ? permitReaching(site.value!, box.value) : undefined))
const witnessable = computed(
  () =>
    proof.value?.status === 'living' &&
    proof.value.personId !== session.viewer?.personId &&
    !proof.value.witnesses.some((witness) => witness.personId === session.viewer?.personId),
)
const minutesLeft = computed(() => (proof.value?.status === 'living' ? Math.floor(proofMinutesLeft(proof.value, vantage.value)) : null))
const work = computed(() => job.value?.boxes[box.value?.id ?? ''])
const units = computed(() => (job.value && box.value ? currentUnits(job.value).filter((unit) => unit.boxId === box.value!.id) : []))
/** Worked on and closed up on this visit: what comes next is the power, not the plate. */
const visitHours = 12
const finished = computed(() => {
  const closed = box.value?.closedBy
  if (box.value?.closure !== 'closed' || !closed) return false
  // Somebody called about a device in here since.
  const calledBack = Object.values(job.value?.callbacks ?? {}).some(
    ({ status, unitId, openedAt }) => status !== 'closed' && openedAt > closed.at && job.value!.units[unitId]?.boxId === box.value?.id,
  )
  return !calledBack && Date.parse(vantage.value.now) - Date.parse(closed.at) < visitHours * 3_600_000
})
const opening = ref(false)
watch(
  () => box.value?.closure,
  () => (opening.value = false),
)
const stage = computed(() => {
  if (!box.value) return 0
  if (box.value.closure === 'closed' && units.value.length >= Object.keys(work.value?.devices ?? {}).length && units.value.length > 0)
    return 5
  if (!touch.value?.yes) return ['open', 'tag', 'rehang'].includes(step.value?.kind ?? '') ? 0 : step.value?.kind === 'conductors' ? 1 : 2
  return units.value.length ? 4 : 3
})
const stages = ['open and tag', 'conductors', 'prove dead', 'connect', 'record and close']
const doubts = computed(() => (job.value && box.value ? inDoubtAt(job.value, box.value.id) : 0))
/** Gangs whose serial and code are put off. */
const later = ref(new Set<number>())
const workStep = computed(() =>
  touch.value?.yes && box.value && onCrew.value ? nextWorkStep(job.value!, site.value!, box.value.id, settings.value, later.value) : null,
)
/** The next step asks for this gang's device, or its serial. */
const docked = (gang: number) => (workStep.value?.kind === 'device' || workStep.value?.kind === 'unit') && workStep.value.gang === gang
const undoable = computed(() => {
  const closed = box.value?.closedBy
  return (
    box.value?.closure === 'closed' &&
    closed?.personId === asker.value.personId &&
    Date.parse(vantage.value.now) - Date.parse(closed.at) < undoSeconds * 1000
  )
})
async function reportLive(what: 'lightOn' | 'meter') {
  // What cannot be read as a number is kept as it was typed: a sign of power waits for no correction.
  const volts = typedNumber(liveVolts.value.replace(/\s*V$/i, ''))
  const readable = volts >= 0 && volts <= 1000
  if (
    await run(() =>
      submitSite({
        type: 'observeLive',
        boxId: box.value!.id,
        what,
        volts: readable ? volts : null,
        note: liveVolts.value.trim() && !readable ? `typed: ${liveVolts.value.trim()}` : '',
      }),
    )
  )
    sawLive.value = false
}
</script>

<template>
  <div v-if="!box || !touch || !step" class="page"><p class="note">This box is not part of the site.</p></div>
  <div v-else class="bench">
    <section class="picture" aria-label="The box">
      <div class="row wrap">
        <h1 class="sentence">{{ sentence(box.name) }}</h1>
        <span class="soft"
          >{{ site!.rooms[box.roomId]?.name }} · {{ box.gangs }}-gang{{
            box.volumeIn3 ? t(` · ${box.volumeIn3} in³`) : box.depthMm ? ` · ${box.depthMm} mm` : ''
          }}</span
        ><span class="grow" /><UButton :to="`/jobs/${page?.job.id}`" variant="link">back to the walk</UButton>
      </div>
      <ol class="stages" aria-label="Steps of this box">
        <li
          v-for="(name, index) in stages"
          :key="name"
          :class="{ d: index < stage, n: index === stage }"
          :aria-current="index === stage ? 'step' : undefined"
        >
          <i /><span>{{ name }}</span>
        </li>
      </ol>
      <BenchDrawing v-model="selected" :box="box" class="drawing" />
      <LazyBenchFill v-if="stands" :box="box" />
    </section>

    <div class="right">
      <JobDock>
        <PowerAsks />
        <p v-if="permitNear" class="note red">
          <b>{{ permitNear.name }} {{ t('may be closing {a breaker} on this box.') }}</b> Leave the plate on, hands off.
        </p>
        <p v-if="!onCrew" class="note">You are not on a visit of this job: you can look, and report facts.</p>
        <div v-if="witnessable" class="stack">
          <p>
            <b>{{ proof!.name }} has proven this box dead.</b> Witness it at the box and you may rely on it with your own tag.
          </p>
          <JobAct :loading="busy" @click="run(() => submitSite({ type: 'witnessProof', proofId: proof!.id }))">I witness this proof</JobAct>
        </div>
        <template v-if="touch.yes">
          <p class="good">
            <b>You may work in this box.</b>
            <span class="small">Proof by {{ proof?.initials }}, {{ minutesLeft }} minutes left; {{ touch.restsOn.join('; ') }}.</span>
          </p>
          <p v-if="minutesLeft !== null && minutesLeft <= 15" class="note amber">
            <b>The proof ends in {{ minutesLeft }} minutes.</b> Hands out before then, or prove again.
          </p>
          <LazyBenchWorkStep v-if="workStep" :box="box" :step="workStep" @later="later = new Set([...later, $event])" />
        </template>
        <template v-else-if="onCrew">
          <template v-if="finished && !opening">
            <BenchAfter :box="box" />
            <UButton variant="link" class="self-start" @click="opening = true">open this box again</UButton>
          </template>
          <BenchPowerStep v-else-if="!witnessable" :box="box" />
        </template>
        <CommonRefusal :refusal="refusal" />
      </JobDock>

      <section class="side" aria-label="What is known">
        <div class="desk-rail"><PowerRail :box-ids="[box.id]" compact /></div>
        <p v-if="offline" class="note amber">
          <b>No network.</b> Only your own acknowledged tags and your own proof count here. What you enter is kept on this device.
        </p>
        <p v-if="doubts" class="note amber" data-testid="doubts">
          <b>{{ doubts === 1 ? 'One thing here is' : `${doubts} things here are` }} in doubt.</b> It was done without network, under a proof
          that had already ended. Prove the box, check each item and correct what is wrong.
        </p>

        <LazyBenchLive v-if="onCrew && box.closure === 'opened'" :box="box" />
        <div v-if="box.conductors.length && onCrew && step.kind !== 'conductors'" class="rule pt-3 stack">
          <h2 class="kicker">What is known</h2>
          <LazyBenchRoles v-if="touch.yes" v-model="selected" :box="box" />
          <UButton :to="`/jobs/${page?.job.id}/wiring/${box.id}`" icon="i-lucide-route" class="self-start">Identify the conductors</UButton>
          <p v-if="!touch.yes" class="soft small">
            {{ box.conductors.map((conductor) => `${conductor.letter} ${conductor.colour}`).join(', ') }}. Roles are locked until the box is
            proven dead.
          </p>
          <UButton variant="link" class="self-start" @click="editing = !editing">{{
            editing ? 'keep the conductors as they are' : 'different conductors found'
          }}</UButton>
          <LazyBenchConductors v-if="editing && touch.yes" :box="box" @done="editing = false" />
        </div>
        <div v-if="stands && box.conductors.length" class="rule pt-3 stack">
          <LazyBenchDevice v-for="gang in box.gangs" :key="gang" :box="box" :gang="gang" :touch="touch" :docked="docked(gang)" />
        </div>
        <LazyBenchOtherBoxes v-if="stands" :box="box" />
        <div v-if="stands" class="rule pt-3 stack">
          <h2 class="kicker">Pictures</h2>
          <LazyBenchPhotos :box-id="box.id" />
        </div>

        <div v-if="stands && box.closure === 'opened' && onCrew && workStep?.kind !== 'close'" class="rule pt-3 stack">
          <h2 class="kicker">Close up</h2>
          <LazyBenchCloseUp :box="box" :may-touch="touch.yes" />
        </div>
        <div v-if="box.closure !== 'opened'" class="rule pt-3">
          <UButton
            v-if="undoable && onCrew"
            class="mb-2"
            :loading="busy"
            @click="run(() => submitSite({ type: 'undoClose', boxId: box!.id }))"
            >Not closed: that was a mistake</UButton
          >
          <p class="soft">
            {{
              box.closure === 'closed'
                ? 'The box is closed.'
                : box.closure === 'looking'
                  ? 'The plate is off with the power on.'
                  : `Capped and guarded by ${box.guardedBy?.name}.`
            }}
            <template v-if="units.length && !finished"
              >Tags off, power back, then
              <NuxtLink class="underline" :to="`/jobs/${page?.job.id}/tests`">test its points</NuxtLink>.</template
            >
          </p>
          <UButton
            v-if="box.closure === 'guarded' && onCrew && box.guardedBy?.personId !== session.viewer?.personId"
            class="mt-2"
            :loading="busy"
            @click="run(() => submitSite({ type: 'takeOverGuard', boxId: box!.id }))"
            >I have checked it: I am guarding it now</UButton
          >
        </div>

        <div class="rule pt-3">
          <UButton color="error" block @click="sawLive = !sawLive">I see voltage here</UButton>
          <div v-if="sawLive" class="stack mt-2">
            <UInput v-model="liveVolts" placeholder="volts, if measured" aria-label="Volts, if measured" inputmode="decimal" />
            <div class="row">
              <UButton color="error" :loading="busy" @click="reportLive('lightOn')">A light is on</UButton
              ><UButton color="error" :loading="busy" @click="reportLive('meter')">The tester shows it</UButton>
            </div>
          </div>
        </div>
        <p class="soft small">
          As of {{ clockTime(vantage.now, region) }}. This record supports your lock, tag and tester. It replaces none of them.
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 360px;
  min-height: calc(100dvh - 97px);
}
.picture {
  padding: 18px 22px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.right {
  background: var(--sheet);
  border-left: 1px solid var(--line);
}
.side {
  padding: 18px;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.stages {
  display: flex;
  gap: 4px;
}
.stages li {
  flex: 1;
  font-size: 12.5px;
  color: var(--soft);
}
.stages i {
  display: block;
  height: 6px;
  background: var(--mute);
  border-radius: 1px;
  margin-bottom: 3px;
}
.stages .d i {
  background: var(--petrol);
}
.stages .n i {
  background: var(--copper-bar);
}
.stages .n {
  color: var(--ink);
  font-weight: 640;
}
@media (min-width: 901px) {
  .picture > .drawing {
    max-height: calc(100dvh - 290px);
  }
}
@media (max-width: 900px) {
  .bench {
    display: flex;
    flex-direction: column;
  }
  .picture {
    display: contents;
  }
  .picture > * {
    margin: 0 16px;
  }
  .picture > .row {
    order: 0;
    margin-top: 12px;
  }
  .stages {
    order: 1;
    margin-top: 8px !important;
  }
  .stages span {
    font-size: 11px;
  }
  .desk-rail {
    display: none;
  }
  .side {
    order: 3;
    border-left: 0;
    padding: 12px 16px 20px;
    background: transparent;
  }
  .picture > .drawing {
    order: 2;
    width: calc(100% - 32px);
  }
  .picture > .fill {
    order: 5;
    margin-bottom: 12px;
  }
  .right {
    display: contents;
  }
}
</style>
