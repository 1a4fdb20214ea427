<script setup lang="ts">
import { moneyIn, type CurrencyId } from '../../../core/money'
import type { CurveSpot } from '~/composables/usePlanner'
import type { CurveQuestion } from '~/workers/curve'

/** What money buys: each spot is a plan of its own, and the ones in the columns stand beside them. */
const props = defineProps<{
  curve: CurveSpot[]
  named: { name: string; moneyCents: number; comfort: number }[]
  currency: CurrencyId
  locale: string
}>()
const emit = defineEmits<{ pick: [spot: CurveSpot] }>()
const colours = useColorMode()
const money = (cents: number) => moneyIn(Math.round(cents / 100) * 100, props.currency, props.locale).replace(/[.,]00(?=\D*$)/, '')
const place = useTemplateRef<HTMLElement>('place')
const { width } = useElementSize(place)
const height = 260
// Drawn away from the page: loading a chart and drawing it would keep the page from answering for a third of a second.
const { put, answer: svg } = useNewestAnswer<{ question: CurveQuestion; answer: string }>(
  () => new Worker(new URL('../../workers/curve.ts', import.meta.url), { type: 'module' }),
)
const question = computed<CurveQuestion | null>(() =>
  width.value < 80
    ? null
    : {
        spots: props.curve.map(({ moneyCents, comfort }) => ({ moneyCents, comfort })),
        named: props.named.map((one) => ({ ...one })),
        currency: props.currency,
        locale: props.locale,
        dark: colours.value === 'dark',
        width: Math.round(width.value),
        height,
      },
)
watchDebounced(question, (now) => now && void put(now), { debounce: 200, immediate: true })
/** What was drawn says which of its series and data an element is. */
function picked(event: MouseEvent) {
  const drawn = (event.target as Element).closest('[ecmeta_data_index]')
  if (drawn?.getAttribute('ecmeta_series_index') !== '0') return
  const spot = props.curve[Number(drawn.getAttribute('ecmeta_data_index'))]
  if (spot) emit('pick', spot)
}
</script>

<template>
  <figure>
    <!-- eslint-disable-next-line vue/no-v-html -- drawn by our own worker, from numbers and names that the chart escapes -->
    <div ref="place" class="chart" aria-hidden="true" @click="picked" v-html="svg ?? ''" />
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
