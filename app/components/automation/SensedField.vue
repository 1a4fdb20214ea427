<script setup lang="ts">
import type { AutomatedHome } from '../../../core/automation/home'

/** What a device or a sensor tells, and for how long: what sets a rule off, and what must be so for it, are said alike. */
type Sensed =
  | { is: 'device'; deviceId: string; on: boolean; forMinutes?: number }
  | { is: 'motion'; sensorId: string; seen: boolean; forMinutes: number }
  | { is: 'temperature'; sensorId: string; over: boolean; degrees: number }
const props = defineProps<{ home: AutomatedHome; goes: string }>()
const model = defineModel<Sensed>({ required: true })
const { devices, of } = useAutomationItems(() => props.home)
</script>

<template>
  <template v-if="model.is === 'device'">
    <USelect v-model="model.deviceId" :items="devices" aria-label="Device" class="w-48" />
    <AutomationOnOff v-model="model.on" spoken="It is" />
  </template>
  <template v-else-if="model.is === 'motion'">
    <USelect v-model="model.sensorId" :items="of('motion')" aria-label="Motion sensor" class="w-48" />
    <AutomationOnOff v-model="model.seen" spoken="It sees" :words="['somebody', 'nobody']" />
  </template>
  <template v-else>
    <USelect v-model="model.sensorId" :items="of('temperature')" aria-label="Thermometer" class="w-48" />
    <AutomationOnOff v-model="model.over" :spoken="goes" :words="['over', 'under']" />
    <AutomationDegrees v-model="model.degrees" />
  </template>
  <AutomationMinutes
    v-if="model.is !== 'temperature' && model.forMinutes !== undefined"
    v-model="model.forMinutes"
    label="for minutes"
    :most="1440"
  />
</template>
