<script setup lang="ts">
import type { Findings, AsFoundBox, WireReading, WiringPlan } from '../../../core/wiring'
import { schemeOf } from '../../../core/units'
import { labelSheet, type ConductorLabel } from '../../../core/wiring/label-sheet'

/** What is taken along from a box: the drawing, labels for its conductors, the wiring as data. */
const props = defineProps<{
  name: string
  drawing: SVGSVGElement | null
  labels: ConductorLabel[]
  found: AsFoundBox
  readings: WireReading[]
  plan: WiringPlan | null
  findings: Findings | null
}>()
const problem = ref<Problem | null>(null)
const saveDrawing = () => props.drawing && saveText(`${props.name}.svg`, 'image/svg+xml', standaloneSvg(props.drawing))
const saveLabels = () => saveText(`${props.name} labels.svg`, 'image/svg+xml', labelSheet(props.name, props.labels))
/** The sheet for the printer; the paper's size is that of the supply's part of the world. */
async function printLabels() {
  const schemeId = schemeOf(props.found.nominalVolts)
  const answer = await api('POST /api/labels', { body: { box: props.name, schemeId, labels: props.labels } })
  problem.value = answer.ok ? null : answer.problem
  if (answer.ok) saveBlob(`${props.name} labels.pdf`, answer.value)
}
function saveData() {
  const { name, found, readings, plan, findings } = props
  const data = { format: 'circuitry-wiring', version: 1, name, found, readings, plan, findings }
  saveText(`${name}.json`, 'application/json', JSON.stringify(data, null, 2))
}
</script>

<template>
  <div class="row wrap">
    <UButton variant="ghost" icon="i-lucide-image-down" @click="saveDrawing">Drawing (SVG)</UButton>
    <UButton variant="ghost" icon="i-lucide-tags" @click="printLabels">Label sheet (PDF)</UButton>
    <UButton variant="ghost" icon="i-lucide-tags" @click="saveLabels">Label sheet (SVG)</UButton>
    <UButton variant="ghost" icon="i-lucide-braces" @click="saveData">Wiring (JSON)</UButton>
  </div>
  <CommonProblem :problem="problem" />
</template>
