<script setup lang="ts">
import { wiringOf, type JobState } from '../../../core/job'
import type { SiteState } from '../../../core/site'
import { symptoms as known } from '../../../core/triage'
import type { ToldWiringTalk } from '~/workers/told-wiring'

/** What is told of a light, held against the wiring of its box as it was laid. Nothing where no wiring is on record. */
const props = defineProps<{
  job: JobState
  site: SiteState
  unitId: string
  /** As they were pressed; what is no symptom any more is left out. */
  symptoms: readonly string[]
  /** Whoever is there is told what tells the likeliest from the next. */
  there: boolean
}>()
const { answer, put } = useNewestAnswer<ToldWiringTalk>(
  () => new Worker(new URL('../../workers/told-wiring.ts', import.meta.url), { type: 'module' }),
  { cancels: true },
)
const laid = computed(() => {
  const unit = props.job.units[props.unitId]
  return unit !== undefined && wiringOf(props.job, unit.boxId).plan !== null
})
const asked = computed(() => (laid.value ? known.filter((symptom) => props.symptoms.includes(symptom)) : []))
watch(
  () => asked.value.join(),
  (now) => {
    if (now) void put(plain({ job: props.job, site: props.site, unitId: props.unitId, symptoms: asked.value }))
  },
  { immediate: true },
)
const told = computed(() => (asked.value.length ? (answer.value?.told ?? null) : null))
const shownAtOnce = 4
</script>

<template>
  <section v-if="told" class="stack" aria-label="Against its wiring">
    <h3 class="kicker">By the wiring of {{ told.name }}</h3>
    <p class="soft small">If it is in the wiring, the lamp or the device, one of these looks as it is told:</p>
    <ul class="small list-disc ps-5">
      <li v-for="words in told.faults.slice(0, shownAtOnce)" :key="words">{{ words }}</li>
      <li v-if="told.faults.length > shownAtOnce" class="soft">or {{ told.faults.length - shownAtOnce }} more</li>
    </ul>
    <p v-if="there && told.check" class="small"><b>What tells the first two apart:</b> {{ told.check }}</p>
    <p v-else class="soft small">Which one it is, a check at the box says.</p>
  </section>
</template>
