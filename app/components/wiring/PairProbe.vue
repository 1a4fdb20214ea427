<script setup lang="ts">
import { outcomeWords, type FoundBox, type WireTest } from '../../../core/wiring'

/** Two ends somebody points at: what the meter should show there, and a reading taken of one's own accord. */
const props = defineProps<{
  pair: [string, string]
  expected: { dead: string[]; live: string[] } | null
  found: FoundBox
  simulated: boolean
  deadNo: string[]
  liveNo: string[]
  busy?: boolean
}>()
/** The value is missing when the simulated meter is to read it. */
const emit = defineEmits<{ read: [test: WireTest, value: number | null] }>()
const kind = ref<WireTest['kind']>('continuity')
const kinds = { continuity: 'continuity', voltage: 'volts, low Z', voltageHigh: 'volts, high Z', contactless: 'non-contact' } as const
/** The old switches may still be on their conductors: then it is said how they stand. */
const attached = ref(false)
const old = ref<number[]>(props.found.oldSwitches.map(() => 0))
const mayAttach = computed(() => props.found.oldSwitches.length > 0 && props.found.oldSwitches.every((one) => one.contacts !== 'other'))
const sides = (index: number) => (props.found.oldSwitches[index]?.contacts === 'single' ? ['off', 'on'] : ['up', 'down'])
const far = ref<number[]>(Array.from({ length: props.found.farSwitches }, () => 0))
const value = ref('')
const no = computed(() => (kind.value === 'continuity' ? props.deadNo : props.liveNo))
const number = computed(() => decimal(value.value))
const orNothing = (words: string[] | undefined) => words?.join(' or ') || 'nothing that fits'
const give = (given: number | null) => {
  const [a, b] = props.pair
  emit(
    'read',
    {
      kind: kind.value,
      a,
      b: kind.value === 'contactless' ? 'REF' : b,
      closed: kind.value === 'continuity' ? [] : props.found.circuits,
      far: [...far.value],
      ...(attached.value ? { old: [...old.value] } : {}),
    },
    given,
  )
  value.value = ''
}
</script>

<template>
  <div class="stack note" data-testid="pair">
    <b>{{ pair[0] }} to {{ endWord(pair[1]) }}</b>
    <p class="small">The meter should show, dead: {{ orNothing(expected?.dead) }}; live: {{ orNothing(expected?.live) }}.</p>
    <div class="row wrap">
      <div class="choices" role="group" aria-label="Kind of test">
        <button v-for="(word, one) in kinds" :key="one" type="button" :aria-pressed="kind === one" @click="kind = one">{{ word }}</button>
      </div>
      <div v-for="(_, index) in far" :key="index" class="choices" role="group" :aria-label="`Other switch ${index + 1}`">
        <button type="button" :aria-pressed="far[index] === 0" @click="far[index] = 0">up</button>
        <button type="button" :aria-pressed="far[index] === 1" @click="far[index] = 1">down</button>
      </div>
    </div>
    <div v-if="mayAttach" class="row wrap">
      <UCheckbox v-model="attached" label="Old switch still attached" />
      <template v-if="attached">
        <div v-for="(_, index) in old" :key="`old ${index}`" class="choices" role="group" :aria-label="`Old switch ${index + 1}`">
          <button
            v-for="(side, position) in sides(index)"
            :key="side"
            type="button"
            :aria-pressed="old[index] === position"
            @click="old[index] = position"
          >
            {{ side }}
          </button>
        </div>
      </template>
    </div>
    <p v-for="reason in no" :key="reason" class="small warn">{{ reason }}</p>
    <UButton v-if="simulated" class="self-start" :disabled="no.length > 0" @click="give(null)">Read it</UButton>
    <div v-else-if="kind === 'contactless'" class="row">
      <UButton
        v-for="(word, bit) in outcomeWords.contactless"
        :key="bit"
        :disabled="no.length > 0"
        :loading="busy"
        @click="give(Number(bit) - 1)"
        >{{ word }}</UButton
      >
    </div>
    <div v-else class="row wrap">
      <UInput
        v-model="value"
        inputmode="decimal"
        :placeholder="kind === 'continuity' ? 'ohms' : 'volts'"
        aria-label="Reading"
        class="w-28"
      />
      <UButton :disabled="no.length > 0 || number === null" :loading="busy" @click="give(number)">Store it</UButton>
      <UButton v-if="kind === 'continuity'" variant="ghost" :disabled="no.length > 0" :loading="busy" @click="give(1e9)"
        >It is open</UButton
      >
    </div>
  </div>
</template>
