<script setup lang="ts">
import { openAtOtherBoxes, stepsAtOtherBoxes } from '../../../core/job'
import { otherLocationWord } from '../../../core/wiring'
import type { BoxState } from '../../../core/site'

/** What the plan of this box wants done at the other boxes of its group and at fixtures, and what of it is done. */
const props = defineProps<{ box: BoxState }>()
const { job, site, settings } = injectJobRecord()
const { t } = useTrade()
const shown = computed(() => stepsAtOtherBoxes(job.value!, site.value!, props.box.id, settings.value).filter(({ steps }) => steps.length))
const stateWords = {
  open: () => 'not done',
  done: (by: string | null) => `done, ${by}`,
  undo: (by: string | null) => `to be undone there, ${by} did it`,
}
const fixtures = computed(() =>
  (job.value!.boxes[props.box.id]?.wiring?.planned?.elsewhere ?? [])
    .filter(({ far }) => far === null)
    .map((step) => otherLocationWord(step, (letter) => letter)),
)
const open = computed(() => openAtOtherBoxes(job.value!, props.box.id))
</script>

<template>
  <div v-if="shown.length || fixtures.length || open" class="rule pt-3 stack" data-testid="elsewhere">
    <h2 class="kicker">This plan, at the other locations</h2>
    <p v-if="open" class="note amber">
      The wiring plan here changes other locations too. Their steps are not worked out yet: they arrive with the network, or place the
      wiring again.
    </p>
    <div v-for="place in shown" :key="place.boxId">
      <p>
        <NuxtLink class="underline" :to="`/jobs/${job!.jobId}/box/${place.boxId}`">{{ site!.boxes[place.boxId]?.name }}</NuxtLink>
      </p>
      <ul class="small">
        <li v-for="(step, index) in place.steps" :key="index">
          {{ t(step.text) }} <b :class="step.state === 'done' ? 'good' : 'warn'">{{ stateWords[step.state](step.by) }}</b>
        </li>
      </ul>
    </div>
    <ul v-if="fixtures.length" class="small">
      <li v-for="text in fixtures" :key="text">At the fixture: {{ t(text) }}</li>
    </ul>
  </div>
</template>

<style scoped>
li {
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
</style>
