<script setup lang="ts">
import { parseDate, type CalendarDate } from '@internationalized/date'
import type { Region } from '~/utils/time'

/** A date, entered in the order one writes it where the branch is, or picked; kept as YYYY-MM-DD, empty while it is not whole. */
const props = defineProps<{ region: Region; label: string; name?: string; required?: boolean }>()
const model = defineModel<string>({ required: true })
const dateOf = (text: string) => (text ? (parseDate(text) as CalendarDate) : undefined)
/** What stands in the field, also while its year is still being typed. */
const shown = shallowRef(dateOf(model.value))
const open = ref(false)
watch(model, (now) => {
  if (now && now !== String(shown.value ?? '')) shown.value = dateOf(now)
})
function take(value: unknown) {
  shown.value = (value ?? undefined) as CalendarDate | undefined
  const whole = value ? String(value).slice(0, 10) : ''
  // A year of two digits is one that is still being typed.
  model.value = whole >= '1900' ? whole : ''
}
function pick(value: unknown) {
  take(value)
  open.value = false
}
</script>

<template>
  <UInputDate
    :model-value="shown"
    :locale="props.region.locale"
    :name="name"
    :aria-label="label"
    :required="required"
    class="w-full whitespace-nowrap gap-0"
    @update:model-value="take"
  >
    <template #trailing>
      <UPopover v-model:open="open">
        <UButton icon="i-lucide-calendar" variant="ghost" square aria-label="Pick a date" />
        <template #content>
          <UCalendar :model-value="dateOf(model)" :locale="props.region.locale" class="p-2" @update:model-value="pick" />
        </template>
      </UPopover>
    </template>
  </UInputDate>
</template>
