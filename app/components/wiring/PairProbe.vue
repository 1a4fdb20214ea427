<script setup lang="ts">
import { outcomeWords, type AsFoundBox, type WireTest } from '../../../core/wiring'

/** Two ends somebody points at: what the meter should show there, and a reading taken of one's own accord. */
const props = defineProps<{
  pair: [string, string]
  expected: { dead: string[]; live: string[] } | null
  found: AsFoundBox
  simulated: boolean
  deadNo: string[]
  liveNo: string[]
  busy?: boolean
}>()
/** The value is missing when the simulated meter is to read it. */
const emit = defineEmits<{ read: [test: WireTest, value: number | null] }>()
const { t } = useTrade()
const kind = ref<WireTest['kind']>('continuity')
const kinds: { value: WireTest['kind']; label: string }[] = [
  { value: 'continuity', label: 'continuity' },
  { value: 'voltage', label: 'volts, low Z' },
  { value: 'voltageHigh', label: 'volts, high Z' },
  { value: 'contactless', label: 'non-contact' },
]
const positions = (words: string[]) => words.map((label, value) => ({ value, label }))
const handles = positions(['up', 'down'])
/** The old switches may still be on their conductors: then it is said how they stand. */
const attached = ref(false)
const old = ref<number[]>(props.found.oldSwitches.map(() => 0))
const mayAttach = computed(() => props.found.oldSwitches.length > 0 && props.found.oldSwitches.every((one) => one.contacts !== 'other'))
const sides = (index: number) => (props.found.oldSwitches[index]?.contacts === 'single' ? positions(['off', 'on']) : handles)
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
    <b>{{ pair[0] }} to {{ t(endWord(pair[1])) }}</b>
    <p class="small">The meter should show, dead: {{ orNothing(expected?.dead) }}; live: {{ orNothing(expected?.live) }}.</p>
    <div class="row wrap">
      <CommonToggles spoken="Kind of test" :items="kinds" :chosen="kind" @choose="kind = $event" />
      <CommonToggles
        v-for="(_, index) in far"
        :key="index"
        :spoken="`Other switch ${index + 1}`"
        :items="handles"
        :chosen="far[index]"
        @choose="far[index] = $event"
      />
    </div>
    <div v-if="mayAttach" class="row wrap">
      <UCheckbox v-model="attached" label="Old switch still attached" />
      <template v-if="attached">
        <CommonToggles
          v-for="(_, index) in old"
          :key="`old ${index}`"
          :spoken="`Old switch ${index + 1}`"
          :items="sides(index)"
          :chosen="old[index]"
          @choose="old[index] = $event"
        />
      </template>
    </div>
    <p v-for="reason in no" :key="reason" class="small warn">{{ t(reason) }}</p>
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
