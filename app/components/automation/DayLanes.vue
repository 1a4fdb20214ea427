<script setup lang="ts">
import { CustomChart } from 'echarts/charts'
import { GridComponent, MarkAreaComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import type { AutomatedHome } from '../../../core/automation/home'
import { byHand, byItself, bySupply } from '../../../core/automation/play'
import { formatOf } from '../../../core/units/region'
import type { DayOfHome } from '~/workers/automation'
import type { Region } from '~/utils/time'

/** One day of the played year: each device a lane, each time it was on a bar; who switched it is said in words and by its shape. */
const props = defineProps<{ home: AutomatedHome; day: DayOfHome; region: Region }>()
use([CustomChart, GridComponent, TooltipComponent, MarkAreaComponent, CanvasRenderer])
const colours = useColorMode()
/** A few lanes are read, sixty are not: those that were on that day. */
const lanes = computed(() => props.day.lanes.filter(({ spans }) => spans.length).toReversed())
const nameOf = (id: string) => props.home.devices.find((one) => one.id === id)?.name ?? ''
const whoOf = (by: number | null): string =>
  by === null
    ? 'goes on'
    : by === byHand
      ? 'a hand'
      : by === bySupply
        ? 'the supply'
        : by === byItself
          ? 'by itself'
          : (props.home.routines[by]?.name ?? '')
const clock = (at: number) => formatOf(props.region.locale, { timeZone: props.region.zone, timeStyle: 'short' }).format(at * 1000)
const bars = computed(() =>
  lanes.value.flatMap(({ deviceId, spans }, lane) =>
    spans.map((span) => ({ deviceId, value: [lane, span.from, span.to, span.by, span.level], span })),
  ),
)
const option = computed(() => {
  const { ink, line, night, petrol, copper } = chartColours(colours.value === 'dark')
  const { midnight, length, sunrise, sunset } = props.day
  const shade = [
    [midnight, sunrise ?? midnight],
    [sunset ?? midnight + length, midnight + length],
  ]
  return {
    animation: false,
    textStyle: { fontFamily: chartFont },
    grid: { left: 128, right: 16, top: 8, bottom: 34 },
    xAxis: {
      type: 'value',
      min: midnight,
      max: midnight + length,
      interval: 4 * 3600,
      axisLabel: { color: ink, formatter: (at: number) => clock(at), hideOverlap: true },
      splitLine: { lineStyle: { color: line } },
    },
    yAxis: {
      type: 'category',
      data: lanes.value.map(({ deviceId }) => nameOf(deviceId)),
      axisLabel: { color: ink, width: 112, overflow: 'truncate' },
      axisTick: { show: false },
    },
    tooltip: {
      formatter: ({ data }: { data: (typeof bars.value)[number] }) =>
        `${nameOf(data.deviceId)}: ${clock(data.span.from)} to ${clock(data.span.to)}<br>on: ${whoOf(data.span.by)}<br>off: ${whoOf(data.span.endedBy)}`,
    },
    series: [
      {
        type: 'custom',
        data: bars.value,
        encode: { x: [1, 2], y: 0 },
        markArea: {
          silent: true,
          itemStyle: { color: night },
          data: shade.map(([from, to]) => [{ xAxis: from }, { xAxis: to }]),
        },
        renderItem(_: unknown, api: { value(index: number): number; coord(at: number[]): number[]; size(of: number[]): number[] }) {
          const [x, y] = api.coord([api.value(1), api.value(0)]) as [number, number]
          const [right] = api.coord([api.value(2), api.value(0)]) as [number]
          const height = Math.min(18, (api.size([0, 1])[1] ?? 18) * 0.6)
          const byRoutine = api.value(3) >= 0
          return {
            type: 'rect',
            shape: { x, y: y - height / 2, width: Math.max(2, right - x), height },
            // What a hand did is hollow.
            style: byRoutine ? { fill: petrol } : { fill: 'none', stroke: copper, lineWidth: 2 },
          }
        },
      },
    ],
  }
})
const spoken = computed(() => `${dayWord(props.day.date, props.region)}: ${counted(lanes.value.length, 'device was', 'devices were')} on`)
/** The same in words, for whoever sees no chart, and for a small screen. */
const lines = computed(() =>
  bars.value
    .map(({ deviceId, span }) => ({
      at: span.from,
      text: `${clock(span.from)} to ${clock(span.to)} ${nameOf(deviceId)}: on by ${whoOf(span.by)}, off by ${whoOf(span.endedBy)}`,
    }))
    .sort((a, b) => a.at - b.at),
)
</script>

<template>
  <figure>
    <figcaption class="kicker">{{ spoken }}</figcaption>
    <VChart
      v-if="lanes.length"
      :option="option"
      autoresize
      role="img"
      :aria-label="spoken"
      data-testid="day-lanes"
      :style="{ width: '100%', height: `${lanes.length * 30 + 50}px` }"
    />
    <p class="small soft">Filled: switched on by a schedule or rule. Hollow: by a hand, or the device itself. Shaded: dark outside.</p>
    <details>
      <summary class="small">In words</summary>
      <ul class="small">
        <li v-for="one in lines" :key="one.text">{{ one.text }}</li>
      </ul>
    </details>
  </figure>
</template>
