<script setup lang="ts">
import { CustomChart, ScatterChart } from 'echarts/charts'
import { GridComponent, TooltipComponent, VisualMapComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import { middleOf, radioPlanOf, type RadioGrid } from '../../../core/radio'

/** One floor as the fit sees it: what a phone would show, over the rough plan; what was read stands in it as marks. */
const props = defineProps<{ grid: RadioGrid }>()
use([CustomChart, ScatterChart, GridComponent, TooltipComponent, VisualMapComponent, CanvasRenderer])
const { site } = injectJobRecord()
const { number } = useTrade()
const plan = computed(() => radioPlanOf(site.value!))
const rooms = computed(() => plan.value.rooms.filter(({ floor }) => floor === props.grid.floor))
const cells = computed(() => {
  const { columns, step, x, y, dbm } = props.grid
  const found: [number, number, number][] = []
  dbm.forEach((value, index) => {
    if (!Number.isNaN(value))
      found.push([x + ((index % columns) + 0.5) * step, y + (Math.floor(index / columns) + 0.5) * step, Math.round(value)])
  })
  return found
})
const read = computed(() =>
  site.value!.signals.flatMap((one) => {
    const roomId = one.boxId ? site.value!.boxes[one.boxId]?.roomId : one.roomId
    const room = rooms.value.find(({ id }) => id === roomId)
    if (!room || one.band !== '2.4') return []
    const { x, y } = middleOf(room)
    return [{ value: [x, y], said: one.dbm !== null ? `${one.dbm} dBm` : `${one.bars} of 4 bars` }]
  }),
)
const colours = useColorMode()
const option = computed(() => {
  const dark = colours.value === 'dark'
  const { ink, paper } = chartColours(dark)
  const { x, y, columns, rows, step } = props.grid
  return {
    animation: false,
    textStyle: { fontFamily: chartFont },
    grid: { left: 34, right: 12, top: 10, bottom: 58 },
    xAxis: {
      type: 'value',
      min: x,
      max: x + columns * step,
      axisLabel: { color: ink, formatter: '{value} m' },
      splitLine: { show: false },
    },
    yAxis: { type: 'value', min: y, max: y + rows * step, inverse: true, axisLabel: { color: ink }, splitLine: { show: false } },
    visualMap: {
      type: 'piecewise',
      dimension: 2,
      seriesIndex: 0,
      orient: 'horizontal',
      left: 'center',
      bottom: 0,
      textStyle: { color: ink, fontSize: 11 },
      itemGap: 5,
      itemWidth: 12,
      textGap: 4,
      pieces: [
        { gte: -50, label: '−50 dBm', color: dark ? '#16403f' : '#14595d' },
        { gte: -60, lt: -50, label: '−60', color: dark ? '#2f6f6c' : '#5d9a98' },
        { gte: -70, lt: -60, label: '−70', color: dark ? '#7d6a3a' : '#d9c38a' },
        { gte: -76, lt: -70, label: '−76', color: dark ? '#a05f2c' : '#c9743f' },
        { lt: -76, label: 'less', color: dark ? '#6d2a24' : '#8f3b30' },
      ],
    },
    tooltip: { formatter: ({ value }: { value: number[] }) => (value[2] === undefined ? '' : `${number(value[2])} dBm`) },
    series: [
      {
        type: 'custom',
        data: cells.value,
        encode: { x: 0, y: 1 },
        progressive: 0,
        renderItem(
          _: unknown,
          api: { value(index: number): number; coord(at: number[]): number[]; size(of: number[]): number[]; visual(name: string): string },
        ) {
          const [px, py] = api.coord([api.value(0), api.value(1)]) as [number, number]
          const [width, height] = api.size([step, step]) as [number, number]
          return {
            type: 'rect',
            shape: {
              x: Math.floor(px - width / 2),
              y: Math.floor(py - height / 2),
              width: Math.ceil(width) + 1,
              height: Math.ceil(height) + 1,
            },
            style: { fill: api.visual('color') },
          }
        },
      },
      {
        type: 'custom',
        silent: true,
        data: rooms.value.map((room) => [room.x, room.y, room.width, room.depth]),
        renderItem({ dataIndex }: { dataIndex: number }, api: { coord(at: number[]): number[]; size(of: number[]): number[] }) {
          const room = rooms.value[dataIndex]!
          const [px, py] = api.coord([room.x, room.y]) as [number, number]
          const [width, height] = api.size([room.width, room.depth]) as [number, number]
          return {
            type: 'group',
            children: [
              { type: 'rect', shape: { x: px, y: py, width, height }, style: { fill: 'none', stroke: ink, lineWidth: 1.5 } },
              {
                type: 'text',
                style: {
                  text: site.value!.rooms[room.id]?.name ?? '',
                  x: px + 6,
                  y: py + 6,
                  fill: ink,
                  stroke: paper,
                  lineWidth: 3,
                  font: `13px ${chartFont}`,
                },
              },
            ],
          }
        },
      },
      {
        type: 'scatter',
        symbol: 'circle',
        symbolSize: 13,
        silent: true,
        data: read.value,
        itemStyle: { color: paper, borderColor: ink, borderWidth: 2 },
        label: {
          show: true,
          position: 'bottom',
          formatter: ({ data }: { data: { said: string } }) => data.said,
          color: ink,
          textBorderColor: paper,
          textBorderWidth: 3,
        },
      },
    ],
  }
})
const spoken = computed(() => {
  const strong = cells.value.filter(([, , dbm]) => dbm >= -70).length
  return `Signal on floor ${props.grid.floor}: enough in ${Math.round((100 * strong) / Math.max(1, cells.value.length))} % of its area`
})
</script>

<template>
  <figure>
    <figcaption class="kicker">{{ spoken }}</figcaption>
    <VChart :option="option" autoresize class="map" role="img" :aria-label="spoken" data-testid="heat-map" />
  </figure>
</template>

<style scoped>
.map {
  width: 100%;
  max-width: 760px;
  height: 420px;
}
</style>
