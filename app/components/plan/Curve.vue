<script setup lang="ts">
import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import { moneyIn, type CurrencyId } from '../../../core/money'
import type { CurveSpot } from '~/composables/usePlanner'

/** What money buys: each spot is a plan of its own, and the ones in the columns stand beside them. */
const props = defineProps<{
  curve: CurveSpot[]
  named: { name: string; moneyCents: number; comfort: number }[]
  currency: CurrencyId
  locale: string
}>()
const emit = defineEmits<{ pick: [spot: CurveSpot] }>()
use([LineChart, ScatterChart, GridComponent, TooltipComponent, CanvasRenderer])
const colours = useColorMode()
const money = (cents: number) => moneyIn(Math.round(cents / 100) * 100, props.currency, props.locale).replace(/[.,]00(?=\D*$)/, '')
const option = computed(() => {
  const dark = colours.value === 'dark'
  const ink = dark ? '#f0ebdf' : '#1d2421'
  const line = dark ? '#3a423c' : '#d9d2c2'
  const copper = dark ? '#e6915a' : '#c9743f'
  return {
    animation: false,
    textStyle: { fontFamily: 'Atkinson Hyperlegible Next Variable, sans-serif' },
    grid: { left: 46, right: 24, top: 26, bottom: 44 },
    tooltip: {
      formatter: ({ data }: { data: { value: [number, number]; name?: string } }) =>
        `${data.name ? `${data.name}: ` : ''}${money(data.value[0])}, comfort ${Math.round(data.value[1])}`,
    },
    xAxis: {
      type: 'value',
      name: 'parts and labour, net',
      nameLocation: 'middle',
      nameGap: 28,
      nameTextStyle: { color: ink },
      axisLabel: { color: ink, formatter: money },
      splitLine: { lineStyle: { color: line } },
    },
    yAxis: {
      type: 'value',
      name: 'comfort',
      min: 0,
      max: 100,
      nameTextStyle: { color: ink },
      axisLabel: { color: ink },
      splitLine: { lineStyle: { color: line } },
    },
    series: [
      {
        type: 'line',
        step: 'end',
        symbol: 'rect',
        symbolSize: 9,
        itemStyle: { color: ink },
        lineStyle: { color: ink, width: 1.5 },
        data: props.curve.map(({ moneyCents, comfort }) => ({ value: [moneyCents, comfort] })),
      },
      {
        type: 'scatter',
        symbol: 'diamond',
        symbolSize: 17,
        itemStyle: { color: copper, borderColor: ink, borderWidth: 1.5 },
        label: { show: true, position: 'bottom', color: ink, formatter: '{b}' },
        data: props.named.map(({ name, moneyCents, comfort }) => ({ name, value: [moneyCents, comfort] })),
      },
    ],
  }
})
function picked({ seriesIndex, dataIndex }: { seriesIndex?: number; dataIndex?: number }) {
  const spot = seriesIndex === 0 && dataIndex !== undefined ? props.curve[dataIndex] : undefined
  if (spot) emit('pick', spot)
}
</script>

<template>
  <figure>
    <VChart :option="option" autoresize class="chart" @click="picked" />
    <figcaption class="soft small">
      Cost against comfort: {{ counted(curve.length, 'plan') }} that nothing beats at their price.
      <details>
        <summary class="opens">As numbers</summary>
        <table class="plain">
          <tbody>
            <tr v-for="spot in curve" :key="spot.moneyCents">
              <td class="mono">{{ money(spot.moneyCents) }}</td>
              <td>comfort {{ Math.round(spot.comfort) }}</td>
              <td><UButton variant="link" class="p-0" @click="emit('pick', spot)">Look at it</UButton></td>
            </tr>
          </tbody>
        </table>
      </details>
    </figcaption>
  </figure>
</template>

<style scoped>
.chart {
  height: 260px;
  width: 100%;
}
</style>
