<script setup lang="ts">
import type { Unit } from '../../../core/job'

/** The code of a device whose own is behind the plate by now: shown for the household’s app. Every reading is logged. */
const props = defineProps<{ unit: Unit }>()
const { jobId } = injectJobRecord()
const shown = ref<string | null>(null)
watch(
  () => props.unit.id,
  () => (shown.value = null),
)
</script>

<template>
  <div v-if="unit.code.kind !== 'none'" class="stack">
    <p class="row wrap small">
      <span>Setup code …{{ unit.code.ending }}, as it was recorded.</span>
      <CommonSecret
        v-model="shown"
        label="Show it"
        :read="(reason) => api('GET /api/jobs/:id/units/:unitId/code', { params: { id: jobId, unitId: unit.id }, query: { reason } })"
        ><UButton variant="link" class="p-0" @click="shown = null">Hide it</UButton></CommonSecret
      >
    </p>
    <PairingSquare v-if="shown" :square="shown.startsWith('MT:') ? shown : null" :typed="shown" />
  </div>
</template>
