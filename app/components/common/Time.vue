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
</script>

<template>
  <UInputTime
    :model-value="time"
    :locale="props.region.locale"
    :name="name"
    :aria-label="label"
    required
    class="w-full"
    @update:model-value="take"
  />
</template>
