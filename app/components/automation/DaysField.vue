<script setup lang="ts">
import type { Region } from '~/utils/time'

/** On which days; none: once, on a date. */
defineProps<{ region: Region }>()
const days = defineModel<number[]>('days', { required: true })
const date = defineModel<string | null>('date', { default: null })
const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'].map((label, index) => ({ value: index + 1, label }))
const flip = (day: number) => (days.value = toggled(days.value, day).sort())
const once = computed({ get: () => date.value ?? '', set: (text) => (date.value = text || null) })
</script>

<template>
  <div class="stack">
    <CommonToggles spoken="Days" :items="weekdays" :chosen="days" @choose="flip" />
    <UFormField v-if="!days.length" label="No day: once, on"><CommonDay v-model="once" label="Date" :region="region" /></UFormField>
  </div>
</template>
