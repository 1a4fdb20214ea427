<script setup lang="ts">
/** The session ended in the middle of work. Nothing is lost: the same person logs in and goes on. */
const session = useSession()
const feed = useFeed()
const outbox = useOutbox()
const password = ref('')
const problem = ref<Problem | null>(null)
const code = ref('')
const busy = ref(false)
const login = computed(() => session.people.find((person) => person.id === session.viewer?.personId)?.login ?? '')

async function goOn() {
  busy.value = true
  const answer = await session.logIn(login.value, password.value, code.value)
  busy.value = false
  if (!answer.ok) {
    problem.value = answer.problem
    return
  }
  password.value = code.value = ''
  session.expired = false
  feed.open()
  await outbox.load()
  await outbox.flush()
}
</script>

<template>
  <UModal
    :open="true"
    :dismissible="false"
    :close="false"
    title="Log in again"
    description="Your session ended. What you entered is still here."
  >
    <template #body>
      <form class="stack" @submit.prevent="goOn">
        <p>
          <b>{{ session.viewer?.name }}</b><span v-if="outbox.pending.length">
            · {{ outbox.pending.length === 1 ? '1 entry waits' : `${outbox.pending.length} entries wait` }} to be sent</span
          >
        </p>
        <UFormField label="Password"
          ><UInput v-model="password" type="password" autocomplete="current-password" autofocus class="w-full"
        /></UFormField>
        <CommonFactorCode v-model="code" :problem="problem" />
        <UButton type="submit" variant="solid" size="xl" block :loading="busy" :disabled="!password">Go on</UButton>
        <UButton variant="link" @click="session.logOut()">Somebody else uses this device</UButton>
      </form>
    </template>
  </UModal>
</template>
