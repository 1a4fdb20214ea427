<script setup lang="ts">
import { parseDate, type CalendarDate } from '@internationalized/date'
import type { Region } from '~/utils/time'

/** A date, entered in the order one writes it where the branch is, or picked; kept as YYYY-MM-DD, empty while it is not whole. */
const props = defineProps<{ region: Region; label: string; name?: string; required?: boolean }>()
const model = defineModel<string>({ required: true })
// Of this package's own class, as the field gives it back.
const date = computed(() => (model.value ? (parseDate(model.value) as CalendarDate) : undefined))
const open = ref(false)
/** A year of two digits is one that is still being typed. */
function take(value: unknown) {
  const whole = value ? String(value).slice(0, 10) : ''
  model.value = whole >= '1900' ? whole : ''
}
function pick(value: unknown) {
  take(value)
  open.value = false
}
</script>

<template>
  <UInputDate
    :model-value="date"
    :locale="props.region.locale"
    :name="name"
    :aria-label="label"
    :required="required"
    class="w-full"
    @update:model-value="take"
  >
    <template #trailing>
      <UPopover v-model:open="open">
        <UButton icon="i-lucide-calendar" variant="ghost" square aria-label="Pick a date" />
        <template #content>
          <UCalendar :model-value="date" :locale="props.region.locale" class="p-2" @update:model-value="pick" />
        </template>
      </UPopover>
    </template>
  </UInputDate>
</template>
