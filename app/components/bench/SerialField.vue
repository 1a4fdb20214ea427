<script setup lang="ts">
import type { DeviceModel } from '../../../core/fit'
import { scanWords } from '../../../core/stock/scan'

/** The serial of a device as its label says; a scanner that types works here, and a carton’s own number is told from it. */
const props = defineProps<{ jobId: string; model: DeviceModel | null; label?: string }>()
const serial = defineModel<string>({ required: true })
const good = defineModel<boolean>('good', { required: true })
const { t } = useTrade()
const carton = useCarton(
  props.jobId,
  () => serial.value,
  () => props.model,
)
watchEffect(() => (good.value = carton.value === null && serial.value.trim().length >= 3))
</script>

<template>
  <div class="stack">
    <UFormField :label="label ?? 'Serial'" name="serial"
      ><UInput v-model="serial" name="serial" autocomplete="off" autocapitalize="characters"
    /></UFormField>
    <p v-if="carton" class="note" :class="carton.is === 'right' ? 'petrol' : 'red'" role="alert" data-testid="carton">
      <b>{{ t(scanWords(carton)) }}</b>
      {{ carton.is === 'right' ? 'That is the number of the article; scan the serial now.' : '' }}
    </p>
  </div>
</template>
