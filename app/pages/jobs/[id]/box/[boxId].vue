<script setup lang="ts">
import { canTouch, grantReaching, nextPowerStep, proofMinutesLeft, undoSeconds } from '../../../../../core/safety'
import { currentUnits, inDoubtAt, stepDone, stepsFor, stepsToUndo } from '../../../../../core/record'

const route = useRoute()
const { page, job, site, asker, clock, zone, settings, onCrew, offline, giveSite, giveJob } = injectJobRecord()
const session = useSession()
const { busy, refusal, run } = useAction()
const box = computed(() => site.value?.boxes[String(route.params.boxId)] ?? null)
const selected = ref<string | null>(null)
const editing = ref(false)
const guardNote = ref('')
const guarding = ref(false)
const sawLive = ref(false)
const liveVolts = ref('')

const touch = computed(() => (box.value ? canTouch(site.value!, box.value.id, asker.value, clock.value) : null))
const step = computed(() => (box.value ? nextPowerStep(site.value!, box.value.id, asker.value, clock.value) : null))
const proof = computed(() => (box.value?.proofId ? (site.value!.proofs[box.value.proofId] ?? null) : null))
const grantNear = computed(() => (box.value ? grantReaching(site.value!, box.value) : undefined))
const proving = computed(() => proof.value?.status === 'open')
const witnessable = computed(
  () =>
    proof.value?.status === 'living' &&
    proof.value.personId !== session.viewer?.personId &&
    !proof.value.witnesses.some((witness) => witness.personId === session.viewer?.personId),
)
const minutesLeft = computed(() => (proof.value?.status === 'living' ? Math.floor(proofMinutesLeft(proof.value, clock.value)) : null))
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
  return !calledBack && Date.parse(clock.value.now) - Date.parse(closed.at) < visitHours * 3_600_000
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
const beforeClosing = computed(() => {
  const notes: string[] = []
  const gangs = Object.keys(work.value?.devices ?? {}).map(Number)
  if (gangs.some((gang) => !units.value.some((unit) => unit.gang === gang))) notes.push('A serial or setup code is not stored yet.')
  if (!job.value?.photos.some((photo) => photo.boxId === box.value?.id && photo.kind === 'beforeClosing'))
    notes.push('There is no picture from before closing.')
  if (doubts.value) notes.push('Something was done after its proof had ended, and nobody has looked at it yet.')
  for (let gang = 1; gang <= (box.value?.gangs ?? 0); gang++) {
    const steps = stepsFor(job.value!, site.value!, box.value!.id, gang, settings.value)
    if (!steps.length && !gangs.includes(gang)) continue
    const open = steps.filter((step) => !stepDone(job.value!, box.value!.id, gang, step))
    if (open.length || steps.length === 0)
      notes.push(
        `Gang ${gang}: ${steps.length ? `${open.length} of ${steps.length} connection steps are not done` : 'no connection steps were followed'}.`,
      )
    if (stepsToUndo(job.value!, box.value!.id, gang, steps).length)
      notes.push(`Gang ${gang}: something done under another plan is not undone.`)
  }
  return notes
})
/** With something missing it is asked once; a tap by mistake is taken back within a minute. */
const asking = ref(false)
async function closeBox() {
  if (beforeClosing.value.length && !asking.value) return void (asking.value = true)
  if (await run(() => giveSite({ type: 'closeBox', boxId: box.value!.id }))) asking.value = false
}
const undoable = computed(() => {
  const closed = box.value?.closedBy
  return (
    box.value?.closure === 'closed' &&
    closed?.personId === asker.value.personId &&
    Date.parse(clock.value.now) - Date.parse(closed.at) < undoSeconds * 1000
  )
})
async function guard() {
  if (await run(() => giveSite({ type: 'guardBox', boxId: box.value!.id, how: guardNote.value }))) guarding.value = false
}
async function reportLive(what: 'lightOn' | 'meter') {
  // What cannot be read as a number is kept as it was typed: a sign of power waits for no correction.
  const volts = typedNumber(liveVolts.value.replace(/\s*V$/i, ''))
  const readable = volts >= 0 && volts <= 1000
  if (
    await run(() =>
      giveSite({
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
        <h1 class="sentence">{{ box.name }}</h1>
        <span class="soft"
          >{{ site!.rooms[box.roomId]?.name }} · {{ box.gangs }}-gang{{
            box.volumeIn3 ? ` · ${box.volumeIn3} in³` : box.depthMm ? ` · ${box.depthMm} mm` : ''
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
      <BenchFill :box="box" />
    </section>

    <section class="side" aria-label="Next step">
      <div class="desk-rail"><PowerRail :box-ids="[box.id]" compact /></div>
      <p v-if="offline" class="note amber">
        <b>No network.</b> Your own acknowledged tags and your own proof count here, nothing else. What you enter is kept on this device.
      </p>
      <p v-if="grantNear" class="note red">
        <b>{{ grantNear.name }} may be closing a breaker on this box.</b> Leave the plate on, hands off.
      </p>
      <PowerAsks />
      <p v-if="!onCrew" class="note">You are not on a visit of this job: you can look, and report facts.</p>
      <div v-if="witnessable" class="note hot stack">
        <p>
          <b>{{ proof!.name }} has proven this box dead.</b> Witness it at the box and you may rely on it with your own tag.
        </p>
        <UButton variant="solid" :loading="busy" @click="run(() => giveSite({ type: 'witnessProof', proofId: proof!.id }))"
          >I witness this proof</UButton
        >
      </div>

      <div v-if="doubts" class="note amber stack" data-testid="doubts">
        <p>
          <b>{{ doubts === 1 ? 'One thing here is' : `${doubts} things here are` }} in doubt.</b> It was done without network, and the proof
          it was done under had ended by then. Prove the box, look at each, and put right what is not.
        </p>
        <UButton v-if="touch.yes" :loading="busy" class="self-start" @click="run(() => giveJob({ type: 'clearDoubt', boxId: box!.id }))"
          >I looked: it is right</UButton
        >
      </div>
      <template v-if="touch.yes">
        <p class="good">
          <b class="next-title">You may work in this box.</b><br /><span class="small"
            >Proof by {{ proof?.initials }}, {{ minutesLeft }} minutes left; {{ touch.restsOn.join('; ') }}.</span
          >
        </p>
        <p v-if="minutesLeft !== null && minutesLeft <= 15" class="note amber">
          <b>The proof ends in {{ minutesLeft }} minutes.</b> Hands out before then, or prove again.
        </p>
      </template>
      <template v-else-if="onCrew">
        <template v-if="finished && !opening">
          <BenchAfter :box="box" />
          <UButton variant="link" class="self-start" @click="opening = true">open this box again</UButton>
        </template>
        <BenchIsolate v-else-if="['open', 'tag', 'rehang', 'plate'].includes(step.kind) || box.closure === 'looking'" :box="box" />
        <LazyBenchCause v-else-if="step.kind === 'cause'" :box="box" />
        <LazyBenchConductors v-else-if="step.kind === 'conductors' || editing" :box="box" @done="editing = false" />
        <template v-else-if="step.kind === 'prove' || proving"
          ><p class="next-title">Prove it dead</p>
          <LazyBenchProof :box="box"
        /></template>
        <template v-else
          ><p class="next-title">{{ step.title }}</p>
          <p>{{ step.why }}</p></template
        >
      </template>

      <LazyBenchLive v-if="onCrew && box.closure === 'opened'" :box="box" />
      <div v-if="box.conductors.length && onCrew && step.kind !== 'conductors'" class="rule pt-3 stack">
        <h2 class="kicker">What is known</h2>
        <BenchRoles v-if="touch.yes" v-model="selected" :box="box" />
        <UButton :to="`/jobs/${page?.job.id}/wiring/${box.id}`" icon="i-lucide-route" class="self-start">Find out what each one is</UButton>
        <p v-if="!touch.yes" class="soft small">
          {{ box.conductors.map((conductor) => `${conductor.letter} ${conductor.colour}`).join(', ') }}. Roles are locked until the box is
          proven dead.
        </p>
        <UButton variant="link" class="self-start" @click="editing = !editing">{{
          editing ? 'leave the conductors as they are' : 'more or other conductors found'
        }}</UButton>
        <LazyBenchConductors v-if="editing && touch.yes" :box="box" @done="editing = false" />
      </div>
      <div v-if="box.conductors.length" class="rule pt-3 stack">
        <LazyBenchDevice v-for="gang in box.gangs" :key="gang" :box="box" :gang="gang" :touch="touch" />
      </div>
      <LazyBenchElsewhere :box="box" />
      <div class="rule pt-3 stack">
        <h2 class="kicker">Pictures</h2>
        <BenchPhotos :box-id="box.id" />
      </div>

      <div v-if="box.closure === 'opened' && onCrew" class="rule pt-3 stack">
        <h2 class="kicker">Close up</h2>
        <ul v-if="beforeClosing.length" class="small warn">
          <li v-for="note in beforeClosing" :key="note">{{ note }}</li>
        </ul>
        <div v-if="asking" class="note amber stack" data-testid="close-anyway">
          <p><b>Close it all the same?</b> What is missing is found at the handover, with the plate on.</p>
          <div class="row wrap">
            <UButton variant="solid" :loading="busy" :disabled="!touch.yes" @click="closeBox">Yes, it is closed</UButton>
            <UButton variant="link" @click="asking = false">Not yet</UButton>
          </div>
        </div>
        <UButton v-else variant="solid" size="xl" block :loading="busy" :disabled="!touch.yes" @click="closeBox">The box is closed</UButton>
        <UButton variant="link" @click="guarding = !guarding">It stays open: cap and guard</UButton>
        <div v-if="guarding" class="stack">
          <UInput v-model="guardNote" placeholder="all ends capped, blank plate on" aria-label="How it is capped and guarded" /><UButton
            :loading="busy"
            :disabled="!touch.yes || guardNote.trim().length < 5"
            @click="guard"
            >Capped and guarded by me</UButton
          >
        </div>
      </div>
      <div v-else-if="box.closure !== 'opened'" class="rule pt-3">
        <UButton v-if="undoable && onCrew" class="mb-2" :loading="busy" @click="run(() => giveSite({ type: 'undoClose', boxId: box!.id }))"
          >Not closed: that tap was a mistake</UButton
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
          @click="run(() => giveSite({ type: 'takeOverGuard', boxId: box!.id }))"
          >I have looked: I guard it now</UButton
        >
      </div>

      <CommonRefusal :refusal="refusal" />
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
        Last word at {{ clockTime(clock.now, zone) }}. This record supports your lock, tag and tester; it replaces none of them.
      </p>
    </section>
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
.side {
  background: var(--sheet);
  border-left: 1px solid var(--line);
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
    order: 4;
    width: calc(100% - 32px);
  }
  .picture > .fill {
    order: 5;
    margin-bottom: 100px;
  }
}
</style>
