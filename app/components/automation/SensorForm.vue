<script setup lang="ts">
import type { AutomatedHome } from '../../../core/automation/home'
import type { Sensor } from '../../../core/automation/model.schema'
import { sensorKinds, sensorWords } from '../../../core/automation/words'

/** A thing that only tells: of movement, of warmth, of a finger. */
const props = defineProps<{ home: AutomatedHome; sensor: Sensor }>()
const emit = defineEmits<{ done: [] }>()
const { submitJob } = injectJobRecord()
const form = ref({ ...props.sensor })
const kinds = sensorKinds.map((value) => ({ value, label: sensorWords[value] }))
const nowhere = 'nowhere'
const rooms = computed(() => [
  { value: nowhere, label: 'outside, or no room' },
  ...props.home.rooms.map(({ id, name }) => ({ value: id, label: name })),
])
const { busy, refusal, run } = useAction()
const give = () => submitJob({ type: 'setSensor', sensor: { ...form.value } })
const known = computed(() => props.home.sensors.some(({ id }) => id === props.sensor.id))
async function drop() {
  if (await run(() => submitJob({ type: 'dropSensor', sensorId: props.sensor.id }))) emit('done')
}
</script>

<template>
  <AutomationKeep :wrong="form.name.trim() ? undefined : ''" :give="give" @done="emit('done')">
    <UFormField label="Name"><UInput v-model="form.name" maxlength="60" class="w-full" /></UFormField>
    <UFormField label="It tells of"
      ><CommonToggles spoken="It tells of" :items="kinds" :chosen="form.kind" @choose="form.kind = $event"
    /></UFormField>
    <UFormField label="Where"
      ><USelect
        :model-value="form.roomId ?? nowhere"
        :items="rooms"
        aria-label="Where"
        class="w-full"
        @update:model-value="form.roomId = $event === nowhere ? null : String($event)"
    /></UFormField>
    <template #after>
      <CommonRefusal :refusal="refusal" />
      <UButton v-if="known" :loading="busy" @click="drop">Take it away</UButton>
    </template>
  </AutomationKeep>
</template>
