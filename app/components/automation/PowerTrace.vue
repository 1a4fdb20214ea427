<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent, MarkPointComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import type { Alert, Monitor, PowerTrace } from '../../../core/automation/monitor'
import { formatOf } from '../../../core/units/region'
import type { Region } from '~/utils/time'

/** What a motor took, with the lines at which somebody is told, and where that would have been. */
const props = defineProps<{ trace: PowerTrace; monitor: Monitor; alerts: Alert[]; region: Region }>()
use([LineChart, GridComponent, MarkLineComponent, MarkPointComponent, CanvasRenderer])
const colours = useColorMode()
const clock = (at: number) =>
  formatOf(props.region.locale, { timeZone: props.region.zone, dateStyle: 'short', timeStyle: 'short' }).format(at * 1000)
const wattsAt = (at: number) => props.trace.watts[props.trace.at.indexOf(at)] ?? 0
const option = computed(() => {
  const { ink, line, petrol, live } = chartColours(colours.value === 'dark')
  return {
    animation: false,
    textStyle: { fontFamily: chartFont },
    grid: { left: 48, right: 70, top: 14, bottom: 30 },
    xAxis: {
      type: 'value',
      min: 'dataMin',
      max: 'dataMax',
      axisLabel: { color: ink, formatter: clock, hideOverlap: true },
      splitNumber: 3,
    },
    yAxis: { type: 'value', name: 'W', axisLabel: { color: ink }, splitLine: { lineStyle: { color: line } } },
    series: [
      {
        type: 'line',
        showSymbol: false,
        sampling: 'lttb',
        lineStyle: { color: petrol, width: 1.5 },
        data: props.trace.at.map((at, index) => [at, props.trace.watts[index]]),
        markLine: {
          silent: true,
          symbol: 'none',
          lineStyle: { color: live, type: 'dashed' },
          label: { color: ink, formatter: ({ value }: { value: number }) => `${Math.round(value)} W` },
          data: [{ yAxis: props.monitor.low }, { yAxis: props.monitor.high }],
        },
        markPoint: {
          silent: true,
          symbol: 'triangle',
          symbolSize: 12,
          itemStyle: { color: live },
          data: props.alerts.filter(({ is }) => is !== 'over').map(({ at }) => ({ coord: [at, wattsAt(at)] })),
        },
      },
    ],
  }
})
const spoken = computed(() => `${props.trace.at.length} readings, from ${clock(props.trace.at[0]!)} to ${clock(props.trace.at.at(-1)!)}`)
</script>

<template>
  <figure>
    <figcaption class="small soft">{{ spoken }}. Dashed: the lines. Triangles: where somebody would have been told.</figcaption>
    <VChart :option="option" autoresize role="img" :aria-label="spoken" style="width: 100%; height: 240px" data-testid="power-trace" />
  </figure>
</template>
