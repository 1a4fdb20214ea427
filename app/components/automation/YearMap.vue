<script setup lang="ts">
import { HeatmapChart } from 'echarts/charts'
import { CalendarComponent, TooltipComponent, VisualMapComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { useMediaQuery } from '@vueuse/core'
import VChart from 'vue-echarts'
import type { Region } from '~/utils/time'

/** How long lights are on, day by day of a year: a gap, or a band that never ends, is seen at once. */
const props = defineProps<{ year: { date: string; hours: number }[]; of: string; region: Region }>()
const emit = defineEmits<{ day: [date: string] }>()
use([HeatmapChart, CalendarComponent, TooltipComponent, VisualMapComponent, CanvasRenderer])
const colours = useColorMode()
const narrow = useMediaQuery('(max-width: 700px)')
const most = computed(() => Math.max(1, ...props.year.map(({ hours }) => hours)))
const option = computed(() => {
  const dark = colours.value === 'dark'
  const { ink, line, paper } = chartColours(dark)
  return {
    animation: false,
    textStyle: { fontFamily: chartFont },
    tooltip: { formatter: ({ value }: { value: [string, number] }) => `${dayWord(value[0], props.region)}: ${value[1]} h` },
    visualMap: {
      min: 0,
      max: most.value,
      calculable: false,
      orient: 'horizontal',
      left: 'center',
      bottom: 0,
      text: [`${Math.round(most.value)} h a day`, '0'],
      textStyle: { color: ink },
      inRange: { color: dark ? ['#171c19', '#7d6a3a', '#e6915a', '#f6d9a8'] : ['#f4efe4', '#d9c38a', '#c9743f', '#6b2f16'] },
    },
    calendar: {
      orient: narrow.value ? 'vertical' : 'horizontal',
      ...(narrow.value ? { top: 30, bottom: 60, left: 60, right: 10 } : { top: 24, bottom: 60, left: 44, right: 10 }),
      cellSize: ['auto', 'auto'],
      range: [props.year[0]?.date, props.year.at(-1)?.date],
      itemStyle: { color: paper, borderColor: line, borderWidth: 0.5 },
      splitLine: { lineStyle: { color: ink, width: 1 } },
      dayLabel: { color: ink, firstDay: 1 },
      monthLabel: { color: ink },
      yearLabel: { show: false },
    },
    series: [{ type: 'heatmap', coordinateSystem: 'calendar', data: props.year.map(({ date, hours }) => [date, hours]) }],
  }
})
const spoken = computed(() => {
  const on = props.year.filter(({ hours }) => hours > 0).length
  return `${props.of}: on for some time on ${on} of ${props.year.length} days, ${Math.round(props.year.reduce((sum, { hours }) => sum + hours, 0))} h in all`
})
</script>

<template>
  <figure>
    <figcaption class="small soft">{{ spoken }}. Touch a day to look at it.</figcaption>
    <VChart
      :option="option"
      autoresize
      class="map"
      :class="{ narrow }"
      role="img"
      :aria-label="spoken"
      data-testid="year-map"
      @click="({ data }: any) => Array.isArray(data) && emit('day', data[0])"
    />
  </figure>
</template>

<style scoped>
.map {
  width: 100%;
  height: 230px;
}
.map.narrow {
  height: 760px;
}
</style>
