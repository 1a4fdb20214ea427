<script setup lang="ts">
import { celsiusOf, fahrenheit } from '../../../core/automation/describe'

/** Degrees, as one reads them where the home is; kept in Celsius. */
const model = defineModel<number>({ required: true })
const { place } = useTrade()
const american = computed(() => place.value.schemeId === 'na120')
const tenth = (degrees: number) => Math.round(degrees * 10) / 10
const shown = computed({
  get: () => tenth(american.value ? fahrenheit(model.value) : model.value),
  set: (degrees: number) => (model.value = tenth(american.value ? celsiusOf(degrees) : degrees)),
})
</script>

<template>
  <AutomationMinutes v-model="shown" :label="american ? '°F' : '°C'" :least="-40" :most="american ? 176 : 80" parts />
</template>
