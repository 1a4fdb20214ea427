<script setup lang="ts">
import type { Diagnosis, Observation, Prediction } from '../../../core/wiring'

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
const words = ['on', 'off', 'glow', 'trips'] as const
const seen = ref<Record<string, string>>({})
const keyOf = (row: { positions: Record<string, number> }, light: string) => `${JSON.stringify(row.positions)} ${light}`
watch(
  () => props.observed,
  (rows) => {
    for (const row of rows)
      for (const [light, word] of Object.entries(row.lights)) seen.value[keyOf(row, light)] = row.trips.length ? 'trips' : word
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
      if (!looked.length) return []
      const trips = given.some(([, word]) => word === 'trips')
      return [
        {
          positions: row.positions,
          lights: Object.fromEntries(looked.map(([light, word]) => [light, trips ? 'off' : (word as 'on')])),
          trips: trips ? [props.circuits[0]!] : [],
        },
      ]
    }),
  )
}
const groups = computed(() => props.diagnosis?.groups.filter((group) => group.share > 0.02).slice(0, 3) ?? [])
</script>

<template>
  <div class="rule pt-3 stack" data-testid="functional">
    <h2 class="kicker">What should happen, and what did</h2>
    <p v-if="tested" class="soft small">{{ tested }} row{{ tested === 1 ? '' : 's' }} from the functional tests of the points.</p>
    <div v-for="row in table" :key="keyOf(row, '')" class="test-row">
      <span class="small">{{ row.words }}</span>
      <div v-for="(light, id) in row.lights" :key="id" class="row wrap">
        <span class="grow small"
          >{{ nameOf(String(id)) }}: <b>{{ row.trips.length ? 'breaker trips' : light }}</b></span
        >
        <div class="choices" role="group" :aria-label="`${nameOf(String(id))}, ${row.words}, seen`">
          <button
            v-for="word in words"
            :key="word"
            type="button"
            :aria-pressed="seen[keyOf(row, String(id))] === word"
            @click="seen[keyOf(row, String(id))] = word"
          >
            {{ word }}
          </button>
        </div>
      </div>
      <p v-for="meter in row.metered" :key="meter.gang" class="small soft">
        The device’s meter shows about {{ meter.watts }} W{{ row.metered.length > 1 ? ` (gang ${meter.gang})` : '' }}.
      </p>
    </div>
    <slot />
    <UButton :loading="busy" @click="observe">Explain what was seen</UButton>
    <div v-if="diagnosis" class="stack note" data-testid="diagnosis">
      <b v-if="diagnosis.wiringIsRight">The wiring behaves as planned. If something is still wrong, look at network, device or settings.</b>
      <template v-else>
        <div v-for="(group, index) in groups" :key="index" class="stack">
          <b>{{ index + 1 }}. {{ Math.round(group.share * 100) }} %: {{ group.suspects[0]!.words }}</b>
          <span v-if="group.suspects.length > 1" class="small"
            >or, not to be told apart by these tests:
            {{
              group.suspects
                .slice(1, 5)
                .map((suspect) => suspect.words)
                .join('; ')
            }}</span
          >
          <span v-if="group.check" class="small soft">{{ group.check }}</span>
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
