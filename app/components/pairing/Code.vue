<script setup lang="ts">
import type { Unit } from '../../../core/job'

/** The code of a device whose own is behind the plate by now: shown for the household’s app. Every reading is logged. */
const props = defineProps<{ unit: Unit }>()
const { jobId } = injectJobRecord()
const shown = ref<string | null>(null)
const problem = ref<Problem | null>(null)
async function show() {
  const answer = await api('GET /api/jobs/:id/units/:unitId/code', { params: { id: jobId, unitId: props.unit.id } })
  problem.value = answer.ok ? null : answer.problem
  if (!answer.ok) return
  shown.value = answer.value.code
}
watch(
  () => props.unit.id,
  () => (shown.value = null),
)
</script>

<template>
  <div v-if="unit.code.kind !== 'none'" class="stack">
    <p class="row wrap small">
      <span>Setup code …{{ unit.code.ending }}, as it was recorded.</span>
      <UButton v-if="!shown" variant="link" class="p-0" @click="show">Show it</UButton>
      <UButton v-else variant="link" class="p-0" @click="shown = null">Hide it</UButton>
    </p>
    <PairingSquare v-if="shown" :square="shown.startsWith('MT:') ? shown : null" :typed="shown" />
    <CommonProblem v-if="problem" :problem="problem" />
  </div>
</template>
