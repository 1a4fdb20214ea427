<script setup lang="ts">
import { conductorRoleWord, connectionOrderWords, missingRoles } from '../../../core/connect'
import {
  openAtOtherBoxes,
  groupOf,
  needsPlan,
  planAtOtherBoxOf,
  planIsRed,
  pointsOfBox,
  rolesIn,
  stepDone,
  stepsFor,
  stepsToUndo,
  unitAt,
} from '../../../core/job'
import type { Answer as SafetyAnswer, BoxState } from '../../../core/site'

/** One gang: choose the device, connect it in the company's order, record its serial and setup code. */
const props = defineProps<{
  box: BoxState
  gang: number
  touch: SafetyAnswer
  /** The next step is at this gang and asks for it: its device, or its serial and code. */
  docked?: boolean
}>()
const { job, site, settings, submitJob } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run, inTurn } = useAction()

const points = computed(() => pointsOfBox(job.value!, props.box.id, props.gang))
const device = computed(() => job.value!.boxes[props.box.id]?.devices[props.gang] ?? null)
const unit = computed(() => unitAt(job.value!, props.box.id, props.gang))
const roles = computed(() => rolesIn(job.value!, props.box.id))
const steps = computed(() => stepsFor(job.value!, site.value!, props.box.id, props.gang, settings.value))
const toUndo = computed(() => stepsToUndo(job.value!, props.box.id, props.gang, steps.value))
const red = computed(() => planIsRed(job.value!, props.box.id))
const planFirst = computed(() => steps.value.length === 0 && (red.value || needsPlan(job.value!, site.value!, props.box.id)))
/** Where the wiring was planned at the bench it was proven there, with travelers that now carry something else. */
const laid = computed(() => job.value!.boxes[props.box.id]?.wiring?.plan?.devices.some((one) => one.gang === props.gang) ?? false)
const missing = computed(() => (device.value && !laid.value ? missingRoles(device.value.model, roles.value) : []))
/** Boxes of this gang's group whose plan changes this place, and the server has not said how. */
const untold = computed(() => groupOf(job.value!, props.box.id, props.gang).filter((id) => openAtOtherBoxes(job.value!, id)))
const planAt = computed(() => planAtOtherBoxOf(job.value!, props.box.id))
const nameOf = (boxId: string) => site.value!.boxes[boxId]?.name ?? 'the other box'
const stays = computed(() => job.value!.boxes[props.box.id]?.oldStays?.includes(props.gang) ?? false)
const choosing = ref(false)
const unchoose = () => run(() => submitJob({ type: 'unchooseDevice', boxId: props.box.id, gang: props.gang }))
// Ticking goes on while the last tick is being stored.
const mark = (stepId: string, done: boolean) =>
  inTurn(() => submitJob({ type: 'markStep', boxId: props.box.id, gang: props.gang, stepId, done }))

const correcting = ref(false)
const readCode = (reason?: string) =>
  api('GET /api/jobs/:id/units/:unitId/code', { params: { id: job.value!.jobId, unitId: unit.value!.id }, query: { reason } })
</script>

<template>
  <section class="stack">
    <h3>
      <b>Gang {{ gang }}</b> <span class="soft">{{ points.map((point) => point.name).join(', ') || 'no point of this job' }}</span>
    </h3>
    <p v-if="device">
      {{ device.model.maker }} <b>{{ device.model.name }}</b>
    </p>
    <p v-if="stays" class="row wrap">
      <span>The old switch stays.</span
      ><UButton variant="link" :loading="busy" @click="run(() => submitJob({ type: 'keepOldSwitch', boxId: box.id, gang, stays: false }))"
        >undo</UButton
      >
    </p>
    <div v-if="!unit && !docked" class="row wrap">
      <UButton :aria-expanded="choosing" @click="choosing = !choosing">{{
        device ? 'Choose another device' : 'Choose the device'
      }}</UButton>
      <UButton v-if="device" variant="link" :loading="busy" @click="unchoose">no device here</UButton>
    </div>
    <LazyBenchModels v-if="choosing" :box="box" :gang="gang" @done="choosing = false" />

    <template v-if="device || steps.length || toUndo.length || untold.length">
      <h4 class="kicker rule pt-3">Connect, in the company’s order: {{ t(connectionOrderWords[settings.connectionOrder]) }}</h4>
      <p v-if="!touch.yes" class="note amber" data-testid="steps-locked"><b>Locked.</b> {{ t(touch.reasons.join(' ')) }}</p>
      <p v-if="laid" class="soft small">As planned at the wiring bench.</p>
      <p v-if="planAt" class="soft small" data-testid="one-wiring">
        Wired together with <NuxtLink class="underline" :to="`/jobs/${job!.jobId}/wiring/${planAt}`">{{ nameOf(planAt) }}</NuxtLink>: its
        plan says what is done here.
      </p>
      <p v-for="id in untold" :key="id" class="note amber">
        The wiring plan of {{ nameOf(id) }} changes this location. Its steps here are not worked out yet: they arrive with the network, or
        place that wiring again.
      </p>
      <p v-if="missing.length" class="note amber">Not established yet: {{ t(missing.map(conductorRoleWord).join(', ')) }}.</p>
      <p v-if="device && planFirst" class="note amber" data-testid="plan-first">
        <b>First the wiring bench.</b>
        {{
          red
            ? 'There is a problem with the wiring plan there. Do not connect by it; change the plan first.'
            : 'This box has several gangs, feeds or control locations: identify the conductors, and place the wiring there. The steps follow from that.'
        }}
        <NuxtLink class="underline" :to="`/jobs/${job!.jobId}/wiring/${box.id}`">To the wiring bench</NuxtLink>
      </p>
      <ul v-if="toUndo.length" class="note red stack" data-testid="to-undo">
        <li v-for="one in toUndo" :key="one.id" class="row wrap">
          <span class="grow"
            ><b>Undo:</b> {{ t(one.text) }} <span class="soft">({{ one.by }})</span></span
          >
          <UButton :disabled="!touch.yes" @click="mark(one.id, false)">Undone</UButton>
        </li>
      </ul>
      <ol class="steps">
        <li v-for="step in steps" :key="step.id">
          <UCheckbox
            :model-value="Boolean(stepDone(job!, box.id, gang, step))"
            :disabled="!touch.yes"
            :label="t(step.text)"
            :description="t(step.why)"
            @update:model-value="(value) => mark(step.id, value === true)"
          />
        </li>
      </ol>
    </template>
    <template v-if="device">
      <h4 class="kicker rule pt-3">Serial and setup code, before the box is closed</h4>
      <div v-if="unit && !correcting" class="row wrap">
        <span class="mono">{{ unit.serial }}</span><span v-if="unit.code.kind !== 'none'" class="good small"
          >code …{{ unit.code.ending }} {{ unit.code.checked === 'typedTwice' ? 'typed twice' : 'verified' }}</span
        ><CommonSecret v-if="unit.code.kind !== 'none'" :key="unit.id" label="show code" :read="readCode" /><UButton
          variant="link"
          @click="correcting = true"
          >correct</UButton
        >
      </div>
      <BenchSerial v-else-if="!docked || correcting" :box="box" :gang="gang" @done="correcting = false" />
    </template>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.steps li {
  border-bottom: 1px solid var(--line);
  padding: 4px 0;
}
</style>
