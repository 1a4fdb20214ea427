<script setup lang="ts">
/** Codes of another device at each login: switched on with the password, and off with both. */
const session = useSession()
const isOn = computed(() => session.person(session.viewer?.personId ?? '')?.hasFactor ?? false)
const open = ref(false)
const password = ref('')
const code = ref('')
const made = ref<{ secret: string; uri: string } | null>(null)
const { busy, problem, give } = useGiving()
const grouped = computed(() => made.value?.secret.replace(/.{4}(?=.)/g, '$& ') ?? '')
async function done() {
  open.value = false
  made.value = null
  password.value = code.value = ''
  await session.load('people')
}
async function begin() {
  const answer = await give(() => api('POST /api/me/second-factor', { body: { password: password.value } }))
  if (answer) made.value = answer
}
async function confirm() {
  if (await give(() => api('POST /api/me/second-factor/confirm', { body: { code: code.value } }))) await done()
}
async function end() {
  if (await give(() => api('POST /api/me/second-factor/end', { body: { password: password.value, code: code.value } }))) await done()
}
</script>

<template>
  <section class="stack" aria-label="Second factor">
    <h3 class="kicker">Second factor</h3>
    <p v-if="isOn" class="good" role="status">On: each login asks for a code of your other device.</p>
    <p v-else class="small soft">
      A code of an app on another device, at each login: whoever has your password alone does not get in. The crew’s work without a network
      and your PIN stay as they are.
    </p>
    <UButton v-if="!open" class="self-start" @click="open = true">{{ isOn ? 'Switch it off' : 'Switch it on' }}</UButton>
    <form v-else-if="isOn" class="stack" @submit.prevent="end">
      <UFormField label="Password for it" name="factorPassword"
        ><UInput v-model="password" type="password" autocomplete="current-password" class="w-full"
      /></UFormField>
      <UFormField label="Code it shows now" name="factorCode"
        ><UInput v-model="code" inputmode="numeric" autocomplete="one-time-code" maxlength="7" class="w-full"
      /></UFormField>
      <CommonProblem :problem="problem" />
      <UButton type="submit" class="self-start" :loading="busy" :disabled="!password || !code">Switch it off</UButton>
    </form>
    <form v-else-if="!made" class="stack" @submit.prevent="begin">
      <UFormField label="Password for it" name="factorPassword"
        ><UInput v-model="password" type="password" autocomplete="current-password" class="w-full"
      /></UFormField>
      <CommonProblem :problem="problem" />
      <UButton type="submit" class="self-start" :loading="busy" :disabled="!password">Show the square</UButton>
    </form>
    <form v-else class="stack" @submit.prevent="confirm">
      <p>Scan this with an app for one-time codes, or type what stands below it. Then type the code it shows.</p>
      <PairingSquare :square="made.uri" :typed="grouped" label="Square code for an app for one-time codes" />
      <UFormField label="Code it shows now" name="factorCode"
        ><UInput v-model="code" inputmode="numeric" autocomplete="one-time-code" maxlength="7" class="w-full"
      /></UFormField>
      <CommonProblem :problem="problem" />
      <p class="small soft">Is that device lost one day: a lead lets you in without it, under Settings, People.</p>
      <UButton type="submit" class="self-start" :loading="busy" :disabled="!code">Switch it on</UButton>
    </form>
  </section>
</template>
