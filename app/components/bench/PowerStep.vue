<script setup lang="ts">
import { nextPowerStep, type BoxState } from '../../../core/site'

/** From closed and live to proven dead: one thing after the other. */
const props = defineProps<{ box: BoxState }>()
const { site, asker, vantage } = injectJobRecord()
const { t } = useTrade()
const step = computed(() => nextPowerStep(site.value!, props.box.id, asker.value, vantage.value))
const proving = computed(() => props.box.proofId !== null && site.value!.proofs[props.box.proofId]?.status === 'open')
const isolating = computed(() => ['open', 'tag', 'rehang', 'plate'].includes(step.value.kind))
// What is in the box is written down while somebody only looks, too.
const looking = computed(() => props.box.closure === 'looking')
</script>

<template>
  <LazyBenchConductors v-if="looking && !box.conductors.length" :box="box" />
  <BenchIsolate v-else-if="isolating" :box="box" />
  <LazyBenchCause v-else-if="step.kind === 'cause'" :box="box" />
  <LazyBenchConductors v-else-if="step.kind === 'conductors'" :box="box" />
  <LazyBenchProof v-else-if="step.kind === 'prove' || proving" :box="box" />
  <template v-else>
    <p class="next-title">{{ t(step.title) }}</p>
    <p>{{ t(step.why) }}</p>
  </template>
</template>
