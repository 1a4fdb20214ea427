import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import { init, use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { chartColours, chartFont } from '../utils/chart'
import { moneyIn, type CurrencyId } from '../../core/money'

/** What money buys, to be drawn: each spot is a plan of its own. */
export interface CurveQuestion {
  spots: { moneyCents: number; comfort: number }[]
  named: { name: string; moneyCents: number; comfort: number }[]
  currency: CurrencyId
  locale: string
  dark: boolean
  width: number
  height: number
}

use([LineChart, ScatterChart, GridComponent, SVGRenderer])

/** The chart as SVG: drawn here, the page has nothing to do but to show it. */
function draw({ spots, named, currency, locale, dark, width, height }: CurveQuestion): string {
  const money = (cents: number) => moneyIn(Math.round(cents / 100) * 100, currency, locale).replace(/[.,]00(?=\D*$)/, '')
  const { ink, line, copper } = chartColours(dark)
  const chart = init(null, null, { renderer: 'svg', ssr: true, width, height })
  chart.setOption({
    animation: false,
    textStyle: { fontFamily: chartFont },
    grid: { left: 46, right: 24, top: 26, bottom: 44 },
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
        data: spots.map(({ moneyCents, comfort }) => ({ value: [moneyCents, comfort] })),
      },
      {
        type: 'scatter',
        symbol: 'diamond',
        symbolSize: 17,
        itemStyle: { color: copper, borderColor: ink, borderWidth: 1.5 },
        label: { show: true, position: 'bottom', color: ink, formatter: '{b}' },
        data: named.map(({ name, moneyCents, comfort }) => ({ name, value: [moneyCents, comfort] })),
      },
    ],
  })
  const svg = chart.renderToSVGString()
  chart.dispose()
  return svg
}

self.onmessage = ({ data: { id, question } }: MessageEvent<{ id: number; question: CurveQuestion }>) =>
  self.postMessage({ id, answer: draw(question) })
