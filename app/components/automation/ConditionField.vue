<script setup lang="ts">
import type { AutomatedHome } from '../../../core/automation/home'
import type { Condition } from '../../../core/automation/model.schema'
import { modeIds, modeWords, type Mode } from '../../../core/automation/words'
import type { Region } from '~/utils/time'

/** One thing that must be so for a rule to act. */
const props = defineProps<{ home: AutomatedHome; region: Region }>()
const model = defineModel<Condition>({ required: true })
const { devices, of } = useAutomationItems(() => props.home)
const kinds = computed(() => [
  { value: 'between', label: 'between two times' },
  { value: 'days', label: 'on these days' },
  { value: 'dark', label: 'dark or light' },
  ...(props.home.devices.length ? [{ value: 'device', label: 'how a device is' }] : []),
  { value: 'mode', label: 'the house’s mode' },
  { value: 'presence', label: 'whether somebody is home' },
  ...(of('motion').length ? [{ value: 'motion', label: 'movement' }] : []),
  ...(of('temperature').length ? [{ value: 'temperature', label: 'warmth' }] : []),
])
const fresh: Record<Condition['is'], () => Condition> = {
  between: () => ({ is: 'between', from: { at: 'clock', minute: 6 * 60 }, to: { at: 'clock', minute: 22 * 60 } }),
  days: () => ({ is: 'days', days: [1, 2, 3, 4, 5] }),
  dark: () => ({ is: 'dark', dark: true }),
  device: () => ({ is: 'device', deviceId: devices.value[0]?.value ?? '', on: true }),
  mode: () => ({ is: 'mode', modes: ['home'] }),
  presence: () => ({ is: 'presence', someone: true }),
  motion: () => ({ is: 'motion', sensorId: of('motion')[0]?.value ?? '', seen: false, forMinutes: 20 }),
  temperature: () => ({ is: 'temperature', sensorId: of('temperature')[0]?.value ?? '', over: true, degrees: 22 }),
}
const modes = modeIds.map((value) => ({ value, label: modeWords[value] }))
function flip(mode: Mode) {
  if (model.value.is !== 'mode') return
  const next = toggled(model.value.modes, mode)
  if (next.length) model.value = { is: 'mode', modes: next }
}
</script>

<template>
  <div class="row wrap">
    <USelect
      :model-value="model.is"
      :items="kinds"
      aria-label="What must be so"
      class="w-48"
      @update:model-value="model = fresh[$event as Condition['is']]()"
    />
    <template v-if="model.is === 'between'">
      <AutomationMomentField v-model="model.from" label="From" :region="region" />
      <AutomationMomentField v-model="model.to" label="To" :region="region" />
    </template>
    <AutomationDaysField v-else-if="model.is === 'days'" v-model:days="model.days" :region="region" />
    <AutomationOnOff v-else-if="model.is === 'dark'" v-model="model.dark" spoken="Outside it is" :words="['dark', 'light']" />
    <CommonToggles v-else-if="model.is === 'mode'" spoken="Modes" :items="modes" :chosen="model.modes" @choose="flip" />
    <AutomationOnOff v-else-if="model.is === 'presence'" v-model="model.someone" spoken="Home is" :words="['somebody', 'nobody']" />
    <AutomationSensedField v-else v-model="model" :home="home" goes="It is" />
  </div>
</template>
