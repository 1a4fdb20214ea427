<script setup lang="ts">
import { clockWords, minuteOfDay } from '../../../core/automation/describe'
import type { Moment } from '../../../core/automation/model.schema'
import type { Region } from '~/utils/time'

/** A moment of a day: by the clock, or by the sun and so many minutes from it. */
const props = defineProps<{ label: string; region: Region }>()
const model = defineModel<Moment>({ required: true })
const kinds = [
  { value: 'clock', label: 'by the clock' },
  { value: 'sunset', label: 'sunset' },
  { value: 'sunrise', label: 'sunrise' },
] as const
const clock = computed({
  get: () => (model.value.at === 'clock' ? clockWords(model.value.minute) : ''),
  set: (text) => {
    if (text) model.value = { at: 'clock', minute: minuteOfDay(text) }
  },
})
const offset = computed({
  get: () => (model.value.at === 'clock' ? 0 : model.value.offset),
  set: (minutes) => {
    if (model.value.at !== 'clock')
      model.value = { ...model.value, offset: Math.max(-180, Math.min(180, Math.round(Number(minutes) || 0))) }
  },
})
const choose = (at: (typeof kinds)[number]['value']) =>
  (model.value = at === 'clock' ? { at, minute: 18 * 60 } : { at, offset: model.value.at === 'clock' ? 0 : model.value.offset })
</script>

<template>
  <div class="row wrap">
    <USelect
      :model-value="model.at"
      :items="[...kinds]"
      :aria-label="`${props.label}: by what`"
      class="w-36"
      @update:model-value="choose($event as typeof model.at)"
    />
    <div v-if="model.at === 'clock'" class="w-36"><CommonTime v-model="clock" :label="label" :region="region" /></div>
    <label v-else class="row small"
      ><UInput v-model.number="offset" type="number" min="-180" max="180" :aria-label="`${label}: minutes after it`" class="w-24" /> min
      after it (less than 0: before)</label
    >
  </div>
</template>
