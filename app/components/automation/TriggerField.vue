<script setup lang="ts">
import type { AutomatedHome } from '../../../core/automation/home'
import type { Trigger } from '../../../core/automation/model.schema'
import { modeIds, modeWords } from '../../../core/automation/words'
import type { Region } from '~/utils/time'

/** One thing that sets a rule off. */
const props = defineProps<{ home: AutomatedHome; region: Region }>()
const model = defineModel<Trigger>({ required: true })
const { devices, of } = useAutomationItems(() => props.home)
const kinds = computed(() => [
  { value: 'time', label: 'at a time' },
  ...(props.home.devices.length ? [{ value: 'device', label: 'a device changes' }] : []),
  ...(of('motion').length ? [{ value: 'motion', label: 'movement' }] : []),
  ...(of('temperature').length ? [{ value: 'temperature', label: 'warmth' }] : []),
  ...(of('button').length ? [{ value: 'button', label: 'a button' }] : []),
  { value: 'presence', label: 'coming and going' },
  { value: 'household', label: 'bed and morning' },
  { value: 'weather', label: 'weather' },
  ...(props.home.devices.length ? [{ value: 'power', label: 'what a device takes' }] : []),
  { value: 'mode', label: 'the house’s mode' },
])
const first = (kind: 'motion' | 'temperature' | 'button') => of(kind)[0]?.value ?? ''
const deviceId = () => devices.value[0]?.value ?? ''
const fresh: Record<Trigger['is'], () => Trigger> = {
  time: () => ({ is: 'time', moment: { at: 'clock', minute: 18 * 60 }, days: [1, 2, 3, 4, 5, 6, 7], date: null }),
  device: () => ({ is: 'device', deviceId: deviceId(), on: true, forMinutes: 0 }),
  motion: () => ({ is: 'motion', sensorId: first('motion'), seen: true, forMinutes: 0 }),
  temperature: () => ({ is: 'temperature', sensorId: first('temperature'), over: true, degrees: 25 }),
  weather: () => ({ is: 'weather', turns: 'rain' }),
  presence: () => ({ is: 'presence', someone: true }),
  power: () => ({ is: 'power', deviceId: deviceId(), over: false, watts: 10, forMinutes: 5 }),
  button: () => ({ is: 'button', sensorId: first('button') }),
  household: () => ({ is: 'household', does: 'goesToBed' }),
  mode: () => ({ is: 'mode', mode: 'away' }),
}
const weather = [
  { value: 'rain', label: 'it begins to rain' },
  { value: 'dry', label: 'the rain ends' },
  { value: 'frost', label: 'it freezes' },
  { value: 'wind', label: 'it blows hard' },
]
const modes = modeIds.map((value) => ({ value, label: modeWords[value] }))
</script>

<template>
  <div class="row wrap">
    <USelect
      :model-value="model.is"
      :items="kinds"
      aria-label="What sets it off"
      class="w-44"
      @update:model-value="model = fresh[$event as Trigger['is']]()"
    />
    <template v-if="model.is === 'time'">
      <AutomationMomentField v-model="model.moment" label="Time" :region="region" />
      <AutomationDaysField v-model:days="model.days" v-model:date="model.date" :region="region" />
    </template>
    <AutomationSensedField
      v-else-if="model.is === 'device' || model.is === 'motion' || model.is === 'temperature'"
      v-model="model"
      :home="home"
      goes="It goes"
    />
    <USelect v-else-if="model.is === 'button'" v-model="model.sensorId" :items="of('button')" aria-label="Button" class="w-48" />
    <USelect v-else-if="model.is === 'weather'" v-model="model.turns" :items="weather" aria-label="Weather" class="w-48" />
    <AutomationOnOff
      v-else-if="model.is === 'presence'"
      v-model="model.someone"
      spoken="Who"
      :words="['the first comes', 'the last leaves']"
    />
    <CommonToggles
      v-else-if="model.is === 'household'"
      spoken="The house"
      :items="[
        { value: 'goesToBed', label: 'good night is said' },
        { value: 'getsUp', label: 'the first gets up' },
      ]"
      :chosen="model.does"
      @choose="model = { is: 'household', does: $event as 'goesToBed' }"
    />
    <template v-else-if="model.is === 'power'">
      <USelect v-model="model.deviceId" :items="devices" aria-label="Device" class="w-48" />
      <AutomationOnOff v-model="model.over" spoken="It takes" :words="['more than', 'less than']" />
      <AutomationMinutes v-model="model.watts" label="W" :most="20000" />
      <AutomationMinutes v-model="model.forMinutes" label="for minutes" :most="1440" />
    </template>
    <USelect v-else v-model="model.mode" :items="modes" aria-label="Mode" class="w-48" />
  </div>
</template>
