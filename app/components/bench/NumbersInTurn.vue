<script setup lang="ts">
import { mostVolts } from '../../../core/site/most-volts'

/** Several numbers from the meter, one after the other on the same keys; then one button for all of them. */
const props = defineProps<{
  asks: { label: string; unit: 'V' | 'Ω' }[]
  button: string
  busy: boolean
  disabled?: boolean
  /** Stores them; false: refused, and the numbers stand again. */
  store: (values: number[]) => Promise<boolean>
}>()
/** Digits typed while an answer is on its way belong to what is asked next, wherever that stands. */
const typed = defineModel<string>({ required: true })
const values = ref<number[]>([])
const tooSoon = useReadingsTooSoon()
const number = computed(() => typedNumber(typed.value))
const tooHigh = ref<number | null>(null)
const index = computed(() => Math.min(values.value.length, props.asks.length - 1))
const last = computed(() => index.value === props.asks.length - 1)
// Another question: what was entered for the last one is not its answer.
watch(
  () => props.asks.map((ask) => ask.label).join(),
  () => {
    values.value = []
    typed.value = ''
  },
)
/** A meter that types: its reading is the number that is asked for. */
function take(text: string) {
  if (props.busy) return void tooSoon.value++
  tooSoon.value = 0
  void next(text)
}
async function next(asTyped = typed.value) {
  const value = typedNumber(asTyped)
  if (Number.isNaN(value) || props.busy || props.disabled) return
  // A point that was not hit: said at once, not when all are stored.
  tooHigh.value = props.asks[index.value]!.unit === 'V' && value > mostVolts ? value : null
  if (tooHigh.value !== null) return
  const all = [...values.value, value]
  typed.value = ''
  if (!last.value) return void (values.value = all)
  values.value = []
  if (await props.store(all)) return
  values.value = all.slice(0, -1)
  if (typed.value === '') typed.value = asTyped
}
</script>

<template>
  <div class="stack">
    <ol v-if="asks.length > 1" class="small entered" aria-label="Entered">
      <li v-for="(ask, at) in asks" :key="ask.label" :class="{ here: at === index }">
        {{ ask.label }}<b v-if="at < values.length" class="mono"> {{ values[at] }} {{ ask.unit }}</b>
      </li>
    </ol>
    <CommonNumberPad v-model="typed" :label="asks[index]!.label" :unit="asks[index]!.unit" @enter="next()" @reading="take" />
    <JobAct :loading="busy" :disabled="disabled || Number.isNaN(number)" @click="next()">{{ last ? button : 'Next' }}</JobAct>
    <p v-if="tooHigh !== null" class="warn small" role="alert">
      {{ tooHigh }} V? No reading here has more than {{ mostVolts }} V. Look at the point, and type it again.
    </p>
    <UButton v-if="values.length" variant="link" class="self-start" @click="values = []">start over</UButton>
  </div>
</template>

<style scoped>
.entered {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  color: var(--soft);
}
.here {
  color: var(--ink);
  font-weight: 640;
}
</style>
