<script setup lang="ts">
import type { Unit } from '../../../core/job'

/** The code of a device whose own is behind the plate by now: shown for the household’s app. Every reading is logged. */
const props = defineProps<{ unit: Unit }>()
const { jobId } = injectJobRecord()
const shown = ref<string | null>(null)
const square = useTemplateRef<HTMLElement>('square')
const problem = ref<Problem | null>(null)
const sidePx = 220
async function show() {
  const answer = await api('GET /api/jobs/:id/units/:unitId/code', { params: { id: jobId, unitId: props.unit.id } })
  problem.value = answer.ok ? null : answer.problem
  if (!answer.ok) return
  const { code } = answer.value
  shown.value = code
  if (!code.startsWith('MT:')) return
  const { BrowserQRCodeSvgWriter } = await import('@zxing/browser')
  await nextTick()
  square.value?.replaceChildren(new BrowserQRCodeSvgWriter().write(code, sidePx, sidePx))
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
    <template v-if="shown">
      <div v-if="shown.startsWith('MT:')" ref="square" class="square" role="img" aria-label="Square code for the household’s app" />
      <p class="mono code">{{ shown }}</p>
    </template>
    <CommonProblem v-if="problem" :problem="problem" />
  </div>
</template>

<style scoped>
.square {
  width: max-content;
  padding: 8px;
  background: #fff;
}
.code {
  font-size: 20px;
  overflow-wrap: anywhere;
}
</style>
