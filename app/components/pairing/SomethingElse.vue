<script setup lang="ts">
import { observationWords, type Observation } from '../../../core/commission/pairing/words'
import { radioOf, type Unit } from '../../../core/job'

/** What is seen instead: first what this model can show, as its maker says, then what the app says. */
const props = defineProps<{ unit: Unit; trying: boolean; busy: boolean }>()
const emit = defineEmits<{ seen: [what: Observation] }>()

const atDevice = computed((): { value: Observation; label: string }[] => {
  const signs = props.unit.model.signs.flatMap(({ sign, means }) =>
    means === 'joined' || (means === 'waiting' && !props.trying)
      ? []
      : [{ value: means as Observation, label: `${sign}: ${observationWords[means]}` }],
  )
  const known = new Set(signs.map(({ value }) => value))
  const plain: Observation[] = props.trying ? ['dark', 'idle', 'waiting', 'joining'] : ['dark', 'idle', 'bound', 'fault']
  return [...signs, ...plain.filter((one) => !known.has(one)).map((value) => ({ value, label: observationWords[value] }))]
})
const inApp = computed((): Observation[] => {
  const wifi = radioOf(props.unit) === 'wifi'
  return [
    ...(props.trying ? (['timeout'] as const) : []),
    'appFindsNothing',
    ...(wifi ? (['appPassword'] as const) : (['noHub', 'appHubFull'] as const)),
    'appOtherOwner',
    'appRegion',
  ]
})
</script>

<template>
  <div class="stack" data-testid="something-else">
    <p class="kicker">At the device</p>
    <div class="choices">
      <UButton v-for="one in atDevice" :key="one.label" :disabled="busy" @click="emit('seen', one.value)">{{ one.label }}</UButton>
    </div>
    <p class="kicker">In the app</p>
    <div class="choices">
      <UButton v-for="one in inApp" :key="one" :disabled="busy" @click="emit('seen', one)">{{ observationWords[one] }}</UButton>
    </div>
  </div>
</template>

<style scoped>
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.choices > * {
  text-align: start;
}
</style>
