<script setup lang="ts">
import { endsOf, lightWords, tripWords, type Diagnosis, type Observation, type Prediction } from '../../../core/wiring'

/** What each light should do in every position, what it did, and which fault explains the difference. */
const props = defineProps<{
  table: Prediction[]
  lights: { id: string; letter: string; motor?: boolean }[]
  observed: Observation[]
  /** Rows that come from the functional tests of the points. */
  tested: number
  diagnosis: Diagnosis | null
  circuits: string[]
  busy?: boolean
}>()
const emit = defineEmits<{ observe: [rows: Observation[]] }>()
const { t } = useTrade()
/** With one circuit a trip is said with the light; with several it is said which breaker it was. */
const several = computed(() => props.circuits.length > 1)
const words = computed(() => ['on', 'off', 'glow', ...(several.value ? [] : ['trips'])].map((value) => ({ value, label: value })))
const seen = ref<Record<string, string>>({})
const tripped = ref<Record<string, string[]>>({})
const keyOf = (row: { positions: Record<string, number> }, light: string) => `${JSON.stringify(row.positions)} ${light}`
watch(
  () => props.observed,
  (rows) => {
    for (const row of rows) {
      tripped.value[keyOf(row, '')] = row.trips
      for (const [light, word] of Object.entries(row.lights))
        seen.value[keyOf(row, light)] = row.trips.length && !several.value ? 'trips' : word
    }
  },
  { immediate: true },
)
const nameOf = (id: string) => {
  const light = props.lights.find((one) => one.id === id)
  return `${light?.motor ? 'motor' : 'light'} on ${light?.letter ?? id}`
}
function observe() {
  emit(
    'observe',
    props.table.flatMap((row): Observation[] => {
      const given = Object.keys(row.lights).map((light) => [light, seen.value[keyOf(row, light)]] as const)
      const looked = given.filter(([, word]) => word)
      const dark = given.some(([, word]) => word === 'trips')
      const trips = several.value ? (tripped.value[keyOf(row, '')] ?? []) : dark ? props.circuits : []
      if (!looked.length && !trips.length) return []
      return [
        {
          positions: row.positions,
          lights: Object.fromEntries(looked.map(([light, word]) => [light, dark ? 'off' : (word as 'on')])),
          trips,
        },
      ]
    }),
  )
}
function trip(row: Prediction, circuit: string) {
  const key = keyOf(row, '')
  const before = tripped.value[key] ?? []
  // In the order of the box, so that the same said twice is the same.
  tripped.value[key] = props.circuits.filter((one) => before.includes(one) !== (one === circuit))
}
const groups = computed(() => props.diagnosis?.groups.filter((group) => group.share > 0.02).slice(0, 3) ?? [])
</script>

<template>
  <div class="rule pt-3 stack" data-testid="functional">
    <h2 class="kicker">What should happen, and what did</h2>
    <p v-if="tested" class="soft small">{{ counted(tested, 'row') }} from the functional tests of the points.</p>
    <div v-for="row in table" :key="keyOf(row, '')" class="test-row">
      <span class="small"
        >{{ row.words
        }}<template v-if="several && row.trips.length"
          >: <b>{{ t(tripWords(endsOf(row))) }}</b></template
        ></span
      >
      <div v-for="(_, id) in row.lights" :key="id" class="row wrap">
        <span class="grow small"
          >{{ nameOf(String(id)) }}:
          <b>{{ row.trips.length && !several ? t('{breaker} trips') : lightWords(endsOf(row), String(id)) }}</b></span
        >
        <CommonToggles
          :spoken="`${nameOf(String(id))}, ${row.words}, seen`"
          :items="words"
          :chosen="seen[keyOf(row, String(id))]"
          @choose="seen[keyOf(row, String(id))] = $event"
        />
      </div>
      <div v-if="several" class="row wrap">
        <span class="grow small soft">{{ t('Did {a breaker} trip?') }}</span>
        <CommonToggles
          :spoken="t(`{Breakers} that tripped, ${row.words}`)"
          :items="circuits.map((value) => ({ value, label: `${value} trips` }))"
          :chosen="tripped[keyOf(row, '')]"
          @choose="trip(row, $event)"
        />
      </div>
      <p v-for="meter in row.metered" :key="meter.gang" class="small soft">
        The device’s meter shows about {{ meter.watts }} W{{ row.metered.length > 1 ? ` (gang ${meter.gang})` : '' }}.
      </p>
    </div>
    <slot />
    <UButton :loading="busy" @click="observe">Explain what was seen</UButton>
    <div v-if="diagnosis" class="stack note" data-testid="diagnosis">
      <b v-if="diagnosis.wiringIsRight">The wiring behaves as planned. If something is still wrong, check network, device or settings.</b>
      <template v-else>
        <div v-for="(group, index) in groups" :key="index" class="stack">
          <b>{{ index + 1 }}. {{ Math.round(group.share * 100) }} %: {{ group.suspects[0]!.words }}</b>
          <span v-if="group.suspects.length > 1" class="small"
            >or, with the same result in these tests:
            {{
              group.suspects
                .slice(1, 5)
                .map((suspect) => suspect.words)
                .join('; ')
            }}</span
          >
          <span v-if="group.check" class="small soft">{{ t(group.check) }}</span>
          <span v-if="group.within" class="small soft">To tell the first two of these apart: {{ t(group.within) }}</span>
        </div>
      </template>
    </div>
  </div>
</template>

<style scoped>
.test-row {
  border-bottom: 1px solid var(--line);
  padding: 4px 0;
}
</style>
