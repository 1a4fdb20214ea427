<script setup lang="ts">
import { BarChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import { formatOf } from '../../../core/units/region'
import type { Insight } from '../../../core/protocol'

/** Homes that were handed over and callbacks that came, month by month. */
const props = defineProps<{ months: Insight['months']; since: string | null }>()
use([BarChart, GridComponent, CanvasRenderer])
const colours = useColorMode()
const fewestShown = 6
const session = useSession()
const monthWords = (month: string) =>
  formatOf(session.region.locale, { timeZone: 'UTC', month: 'short', year: 'numeric' }).format(Date.parse(`${month}-01T00:00:00Z`))
const option = computed(() => {
  const { ink, line, petrol, copper } = chartColours(colours.value === 'dark')
  const first = props.months.findIndex(({ handedOver, callbacks }) => handedOver + callbacks > 0)
  // A young company begins with its first home.
  const shown = props.months.slice(Math.max(0, Math.min(first, props.months.length - fewestShown)))
  return {
    animation: false,
    textStyle: { fontFamily: chartFont },
    grid: { left: 34, right: 10, top: 14, bottom: 30 },
    xAxis: { type: 'category', data: shown.map(({ month }) => monthWords(month)), axisLabel: { color: ink, hideOverlap: true } },
    yAxis: { type: 'value', minInterval: 1, axisLabel: { color: ink }, splitLine: { lineStyle: { color: line } } },
    series: [
      {
        type: 'bar',
        barGap: 0,
        itemStyle: { color: 'transparent', borderColor: petrol, borderWidth: 1.4 },
        data: shown.map(({ handedOver }) => handedOver),
      },
      {
        type: 'bar',
        data: shown.map(({ month, callbacks }) => ({
          value: callbacks,
          itemStyle: { color: props.since && month >= props.since ? copper : ink },
        })),
      },
    ],
  }
})
const spoken = computed(() => {
  const sum = (key: 'handedOver' | 'callbacks') => props.months.reduce((all, month) => all + month[key], 0)
  return `${counted(sum('handedOver'), 'home')} handed over, ${counted(sum('callbacks'), 'callback')} in ${props.months.length} months`
})
</script>

<template>
  <figure>
    <figcaption class="small soft">{{ spoken }}. Hollow: handed over. Full: callbacks.</figcaption>
    <VChart :option="option" autoresize role="img" :aria-label="spoken" style="width: 100%; height: 200px" data-testid="months" />
  </figure>
</template>
