<script setup lang="ts">
import { pinShape } from '../../../core/stream/pin'

const password = ref('')
const pin = ref('')
const again = ref('')
const problem = ref<Problem | null>(null)
const saved = ref(false)
const busy = ref(false)
const good = computed(() => pinShape.test(pin.value) && pin.value === again.value && password.value !== '')
async function save() {
  busy.value = true
  saved.value = false
  const answer = await api('POST /api/me/pin', { body: { password: password.value, pin: pin.value } })
  busy.value = false
  problem.value = answer.ok ? null : answer.problem
  saved.value = answer.ok
  if (!answer.ok) return
  password.value = pin.value = again.value = ''
  await useSession().load('people')
}
</script>

<template>
  <form class="stack max-w-sm" @submit.prevent="save">
    <p>
      Phones die. With your PIN you take your own tag off, say clear, witness or answer on any device of the crew. It never gives a permit
      to close.
    </p>
    <UFormField label="Your password"
      ><UInput v-model="password" type="password" autocomplete="current-password" class="w-full"
    /></UFormField>
    <UFormField label="New PIN" hint="4 to 8 digits"
      ><UInput v-model="pin" type="password" inputmode="numeric" autocomplete="off" maxlength="8" class="w-full"
    /></UFormField>
    <UFormField label="The same again"
      ><UInput v-model="again" type="password" inputmode="numeric" autocomplete="off" maxlength="8" class="w-full"
    /></UFormField>
    <CommonProblem :problem="problem" />
    <p v-if="saved" class="good" role="status"><b>Your PIN is set.</b></p>
    <UButton type="submit" variant="solid" :loading="busy" :disabled="!good">Set my PIN</UButton>
  </form>
</template>
