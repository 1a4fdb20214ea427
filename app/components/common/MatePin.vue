<script setup lang="ts">
import { pinShape } from '../../../core/stream/pin'
import type { Submission } from '~/composables/useJobRecord'

/** A crew mate does one thing on this device, with their own PIN. */
const props = defineProps<{
  personId: string
  name: string
  what: string
  act: (onBehalf: { personId: string; pin: string }) => Promise<Submission>
}>()
const emit = defineEmits<{ done: [] }>()
const { busy, refusal, run } = useAction()
const pin = ref('')
async function go() {
  if (await run(() => props.act({ personId: props.personId, pin: pin.value }))) emit('done')
  pin.value = ''
}
</script>

<template>
  <form class="note stack" @submit.prevent="go">
    <p>
      <b>{{ name }}: {{ what }}.</b> Your own PIN, typed by you. Your own phone does not know of it until it has a connection. Do not rely
      on it before then.
    </p>
    <UFormField :label="`PIN of ${name}`"
      ><UInput v-model="pin" type="password" inputmode="numeric" autocomplete="off" maxlength="8" class="w-full"
    /></UFormField>
    <CommonRefusal :refusal="refusal" />
    <UButton type="submit" variant="solid" :loading="busy" :disabled="!pinShape.test(pin)">{{ what }}</UButton>
  </form>
</template>
