<script setup lang="ts">
import { elsewhereOpen, groupOf, stepDone, stepsFor, stepsFromElsewhere, stepsToUndo } from '../../../core/record'
import { elsewhereWord } from '../../../core/wiring'
import type { BoxState } from '../../../core/safety'

/** What the plan of this box wants done at the other boxes of its group and at fixtures, and what of it is done. */
const props = defineProps<{ box: BoxState }>()
const { job, site, settings } = injectJobRecord()
const places = computed(() =>
  groupOf(job.value!, props.box.id).map((boxId) => {
    const box = site.value!.boxes[boxId]
    const rows = Array.from({ length: box?.gangs ?? 0 }, (_, index) => index + 1).flatMap((gang) => {
      const steps = stepsFor(job.value!, site.value!, boxId, gang, settings.value)
      const undo = stepsToUndo(job.value!, boxId, gang, steps).filter(({ id }) => id.includes(props.box.id.slice(-12)))
      const wanted = stepsFromElsewhere(job.value!, boxId, gang)
        .filter(({ fromBoxId }) => fromBoxId === props.box.id)
        .flatMap(({ id }) => {
          const step = steps.find((one) => one.id === id)
          const done = step && stepDone(job.value!, boxId, gang, step)
          return step ? [{ key: `${gang} ${id}`, text: step.text, word: done ? `done, ${done.by}` : 'not done', good: Boolean(done) }] : []
        })
      return [
        ...undo.map(({ id, text, by }) => ({ key: `${gang} undo ${id}`, text, word: `to be undone there, ${by} did it`, good: false })),
        ...wanted,
      ]
    })
    return { boxId, name: box?.name ?? 'another box', rows }
  }),
)
const fixtures = computed(() =>
  (job.value!.boxes[props.box.id]?.wiring?.planned?.elsewhere ?? [])
    .filter(({ far }) => far === null)
    .map((step) => elsewhereWord(step, (letter) => letter)),
)
const open = computed(() => elsewhereOpen(job.value!, props.box.id))
const shown = computed(() => places.value.filter(({ rows }) => rows.length))
</script>

<template>
  <div v-if="shown.length || fixtures.length || open" class="rule pt-3 stack" data-testid="elsewhere">
    <h2 class="kicker">This plan, at the other places</h2>
    <p v-if="open" class="note amber">
      The wiring that was laid here changes other places too. What is done there is not worked out yet: it comes with the network, or lay it
      once more.
    </p>
    <div v-for="place in shown" :key="place.boxId">
      <p>
        <NuxtLink class="underline" :to="`/jobs/${job!.jobId}/box/${place.boxId}`">{{ place.name }}</NuxtLink>
      </p>
      <ul class="small">
        <li v-for="row in place.rows" :key="row.key">
          {{ row.text }} <b :class="row.good ? 'good' : 'warn'">{{ row.word }}</b>
        </li>
      </ul>
    </div>
    <ul v-if="fixtures.length" class="small">
      <li v-for="text in fixtures" :key="text">At the fixture: {{ text }}</li>
    </ul>
  </div>
</template>

<style scoped>
li {
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
</style>
