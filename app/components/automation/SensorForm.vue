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
async function save() {
  if (form.value.name.trim() && (await run(() => submitJob({ type: 'setSensor', sensor: { ...form.value } })))) emit('done')
}
const known = computed(() => props.home.sensors.some(({ id }) => id === props.sensor.id))
async function drop() {
  if (await run(() => submitJob({ type: 'dropSensor', sensorId: props.sensor.id }))) emit('done')
}
</script>

<template>
  <form class="stack" @submit.prevent="save">
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
    <CommonRefusal :refusal="refusal" />
    <UButton type="submit" variant="solid" :loading="busy" :disabled="!form.name.trim()">Save it</UButton>
    <UButton v-if="known" :loading="busy" @click="drop">Take it away</UButton>
  </form>
</template>
