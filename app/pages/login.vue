<script setup lang="ts">
definePageMeta({ layout: 'plain' })
const session = useSession()
const route = useRoute()
const login = ref('')
const password = ref('')
const code = ref('')
const busy = ref(false)
const problem = ref<Problem | null>(null)
const setupNeeded = ref(false)
/** Entries of whoever worked here before, and could not send them. */
const waiting = ref(0)

onMounted(async () => {
  for (const count of (await waitingHere()).values()) waiting.value += count
  const answer = await api('GET /api/setup')
  setupNeeded.value = answer.ok && answer.value.needed
})

async function enter() {
  busy.value = true
  const answer = await session.logIn(login.value, password.value, code.value)
  busy.value = false
  if (!answer.ok) {
    problem.value = answer.problem
    return
  }
  const then = route.query.then
  await navigateTo(typeof then === 'string' && then.startsWith('/') && !then.startsWith('//') ? then : '/')
}
</script>

<template>
  <div>
    <CommonMark />
    <h1 class="sentence mb-5">{{ setupNeeded ? 'There is no company here yet.' : 'Log in to your company.' }}</h1>
    <div v-if="setupNeeded" class="stack">
      <p>Set up the company, its first branch and its lead. It takes a minute.</p>
      <UButton to="/setup" variant="solid" size="xl">Set up</UButton>
    </div>
    <form v-else class="stack" @submit.prevent="enter">
      <UFormField label="Login" name="login"
        ><UInput v-model="login" name="login" autocomplete="username" autocapitalize="none" autofocus required
      /></UFormField>
      <UFormField label="Password" name="password"
        ><UInput v-model="password" name="password" type="password" autocomplete="current-password" required
      /></UFormField>
      <CommonFactorCode v-model="code" :problem="problem" />
      <UButton type="submit" variant="solid" size="xl" block :loading="busy">Log in</UButton>
      <p v-if="waiting" class="note" data-testid="waits-here">
        {{
          `${counted(waiting, 'entry waits', 'entries wait')} on this device${canSeal() ? ', sealed' : ''}: sent when whoever recorded ${waiting === 1 ? 'it' : 'them'} logs in here.`
        }}
      </p>
      <p class="soft small">Forgotten? A lead of your company sets a new password.</p>
    </form>
  </div>
</template>
