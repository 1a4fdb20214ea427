<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import type { ModelInsightLine } from '../../../core/protocol'

/** How long the devices of a model live: the share that still works, day by day, and between what that lies. */
const props = defineProps<{ model: ModelInsightLine; branchId?: string }>()
use([LineChart, GridComponent, CanvasRenderer])
const colours = useColorMode()
const { answer, problem } = useList(
  'GET /api/insight/failures',
  () => ({ query: { model: props.model.model, ...(props.branchId ? { branchId: props.branchId } : {}) } }),
  ['job'],
)
const failures = computed(() => answer.value?.failures ?? [])
const percent = (share: number) => Math.round(share * 1000) / 10
/** Where fewer were watched the line says little, and falls to nothing with the last one. */
const fewest = 5
const known = computed(() => props.model.steps.filter(({ atRisk }) => atRisk >= fewest))
const option = computed(() => {
  const { ink, line, petrol } = chartColours(colours.value === 'dark')
  const steps = [{ day: 0, survival: 1, low: 1, high: 1 }, ...known.value]
  const of = (key: 'survival' | 'low' | 'high') => steps.map((step) => [step.day, percent(step[key])])
  const limit = {
    type: 'line',
    step: 'end',
    showSymbol: false,
    silent: true,
    lineStyle: { color: petrol, width: 1, type: 'dashed', opacity: 0.55 },
  }
  return {
    animation: false,
    textStyle: { fontFamily: chartFont },
    grid: { left: 48, right: 20, top: 14, bottom: 44 },
    xAxis: {
      type: 'value',
      name: 'days in the wall',
      nameLocation: 'middle',
      nameGap: 28,
      axisLabel: { color: ink },
      nameTextStyle: { color: ink },
    },
    yAxis: {
      type: 'value',
      max: 100,
      min: ({ min }: { min: number }) => Math.max(0, Math.floor(min / 10) * 10),
      axisLabel: { color: ink, formatter: '{value} %' },
      splitLine: { lineStyle: { color: line } },
    },
    series: [
      { ...limit, data: of('low') },
      { ...limit, data: of('high') },
      { type: 'line', step: 'end', showSymbol: false, lineStyle: { color: petrol, width: 2.4 }, data: of('survival') },
    ],
  }
})
const last = computed(() => known.value.at(-1))
const few = computed(() => props.model.steps.length - known.value.length)
const shownAtOnce = 6
const all = ref(false)
const shown = computed(() => (all.value ? failures.value : failures.value.slice(0, shownAtOnce)))
const spoken = computed(() =>
  last.value
    ? `${props.model.model}: ${percent(last.value.survival)} % work on after day ${last.value.day}; between ${percent(last.value.low)} and ${percent(last.value.high)} %`
    : '',
)
</script>

<template>
  <div class="stack">
    <figure v-if="last">
      <figcaption class="small soft">
        {{ spoken }}. Dashed: between what it lies, 95 of 100. Devices that are still in count as long as they were seen.
      </figcaption>
      <VChart :option="option" autoresize role="img" :aria-label="spoken" style="width: 100%; height: 240px" data-testid="lives" />
    </figure>
    <p v-else-if="!model.steps.length" class="soft small">None has failed yet.</p>
    <p v-if="few" class="small soft">
      {{ counted(few, 'failure') }} came when fewer than {{ fewest }} of them had been watched for so long: not in the line.
    </p>
    <CommonProblem :problem="problem" />
    <NuxtLink v-for="one in shown" :key="one.serial" :to="`/jobs/${one.jobId}/history`" class="list-row failure">
      <span
        ><b>{{ one.number }} · {{ one.siteName }}</b
        ><br /><span class="small soft">{{ one.place }}, {{ one.serial }}</span></span
      >
      <span class="small">{{ one.cause || 'what it was stands nowhere' }}</span>
      <span class="mono small">after {{ counted(one.days, 'day') }}</span>
    </NuxtLink>
    <UButton v-if="failures.length > shown.length" variant="link" class="self-start p-0" @click="all = true"
      >All {{ failures.length }}</UButton
    >
    <p v-if="answer?.more" class="small soft">And more: the newest {{ failures.length }} are shown.</p>
  </div>
</template>

<style scoped>
.failure {
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr) 120px;
}
@media (max-width: 700px) {
  .failure {
    grid-template-columns: 1fr;
  }
}
</style>
