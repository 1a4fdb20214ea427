<script setup lang="ts">
import type { WorkStep } from '../../../core/job'
import type { BoxState } from '../../../core/site'

/** In a box that may be touched: the next piece of work, and the button that says it is done. */
const props = defineProps<{ box: BoxState; step: WorkStep }>()
defineEmits<{ later: [gang: number] }>()
const { job, submitJob } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const ofGang = (gang: number) => (props.box.gangs > 1 ? `Gang ${gang}: ` : '')
// The next one is shown once this one is stored: a second tap never counts for a step nobody has read.
const mark = (gang: number, stepId: string, done: boolean) =>
  run(() => submitJob({ type: 'markStep', boxId: props.box.id, gang, stepId, done }))
</script>

<template>
  <template v-if="step.kind === 'doubt'">
    <p class="next-title">Check what is in doubt</p>
    <p>It was done under a proof that had already ended. Check each item and correct what is wrong.</p>
    <JobAct :loading="busy" @click="run(() => submitJob({ type: 'clearDoubt', boxId: box.id }))">Checked: it is right</JobAct>
  </template>
  <template v-else-if="step.kind === 'undo'">
    <p class="next-title">Undo: {{ t(step.step.text) }}</p>
    <p>{{ step.step.by }} did it under another plan.</p>
    <JobAct :loading="busy" @click="mark(step.gang, step.step.id, false)">Undone</JobAct>
  </template>
  <template v-else-if="step.kind === 'device'">
    <p class="next-title">{{ ofGang(step.gang) }}what goes in here?</p>
    <LazyBenchModels :box="box" :gang="step.gang" />
  </template>
  <template v-else-if="step.kind === 'bench'">
    <p class="next-title">{{ t(step.title) }}</p>
    <p>{{ t(step.why) }}</p>
    <JobAct :to="`/jobs/${job!.jobId}/wiring/${box.id}`">To the wiring bench</JobAct>
  </template>
  <template v-else-if="step.kind === 'connect'">
    <p class="kicker">{{ ofGang(step.gang) }}connect, {{ step.done + 1 }} of {{ step.of }}</p>
    <p class="next-title">{{ t(step.step.text) }}</p>
    <p class="soft small">{{ t(step.step.why) }}</p>
    <JobAct :loading="busy" @click="mark(step.gang, step.step.id, true)">Done</JobAct>
  </template>
  <template v-else-if="step.kind === 'unit'">
    <p class="next-title">{{ ofGang(step.gang) }}serial and setup code, before it is folded in</p>
    <BenchSerial :box="box" :gang="step.gang" />
    <UButton variant="link" class="self-start" @click="$emit('later', step.gang)">not now</UButton>
  </template>
  <template v-else>
    <p class="next-title">Close the box up</p>
    <BenchCloseUp v-slot="{ pictured }" :box="box" may-touch>
      <BenchPhotos v-if="!pictured" :box-id="box.id" only="beforeClosing" />
    </BenchCloseUp>
  </template>
  <CommonRefusal :refusal="refusal" />
</template>
