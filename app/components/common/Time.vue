<script setup lang="ts">
import { Time } from '@internationalized/date'
import type { Region } from '~/utils/time'

/** A time of day, entered as one writes it where the branch is; kept as HH:mm, empty while it is not whole. */
const props = defineProps<{ region: Region; label: string; name?: string }>()
const model = defineModel<string>({ required: true })
const emit = defineEmits<{ entered: [] }>()
const time = computed(() => {
  const [hour, minute] = model.value.split(':').map(Number)
  return model.value ? new Time(hour, minute) : undefined
})
function take(value: unknown) {
  model.value = value instanceof Time ? value.toString().slice(0, 5) : ''
  emit('entered')
}

let typed = ''
let typedAt = 0
const pauseMs = 1500
/** Whoever types 13 or 08 as the hour means the clock of 24 hours, also where it is shown with twelve; and 12 is noon. */
function hourTyped(event: KeyboardEvent) {
  const isHour = (event.target as HTMLElement).dataset.segment === 'hour'
  if (!isHour || !/^\d$/.test(event.key)) return void (typed = '')
  typed = (event.timeStamp - typedAt < pauseMs ? typed : '') + event.key
  typedAt = event.timeStamp
  const hour = /^(0\d|1[2-9]|2[0-3])$/.test(typed) ? Number(typed) : null
  if (hour === null || !time.value) return
  // The field has made of the digits what it makes of them.
  take(new Time(hour, time.value.minute))
}
</script>

<template>
  <div @keydown="hourTyped">
    <UInputTime
      :model-value="time"
      :locale="props.region.locale"
      :name="name"
      :aria-label="label"
      required
      class="w-full"
      @update:model-value="take"
    />
  </div>
</template>
