<script setup lang="ts">
/** Where one is logged in, and one’s password. */
const open = defineModel<boolean>('open', { required: true })
const session = useSession()
const { answer, load } = useList('GET /api/sessions', () => ({}), ['sessions'])
const { busy, problem, give } = useGiving()
const others = computed(() => answer.value?.sessions.filter(({ here }) => !here) ?? [])
async function end(ask: () => Promise<Answer<unknown>>) {
  await give(ask)
  await load()
}
const password = ref('')
const next = ref('')
const changed = ref(false)
const { busy: changing, problem: refused, give: giveNew } = useGiving()
async function change() {
  changed.value =
    (await giveNew(() => api('POST /api/people/me/password', { body: { password: password.value, next: next.value } }))) !== null
  if (!changed.value) return
  password.value = next.value = ''
  await load()
}
</script>

<template>
  <UModal v-model:open="open" title="Logins and password" description="Where you are logged in now.">
    <template #body>
      <ul class="stack" aria-label="Logins">
        <li v-for="one in answer?.sessions ?? []" :key="one.id" class="row wrap">
          <span class="grow"
            ><b>{{ one.device }}</b
            ><span v-if="one.here" class="good"> · this device</span
            ><span class="small soft block"
              >since {{ dayAndTime(one.madeAt, session.region) }}, used last {{ dayAndTime(one.seenAt, session.region) }}</span
            ></span
          >
          <UButton
            v-if="!one.here"
            :loading="busy"
            :aria-label="`Log out ${one.device}, since ${dayAndTime(one.madeAt, session.region)}`"
            @click="end(() => api('POST /api/sessions/:id/end', { params: { id: one.id } }))"
            >Log out there</UButton
          >
        </li>
      </ul>
      <UButton v-if="others.length > 1" class="mt-3" :loading="busy" @click="end(() => api('POST /api/sessions/others/end'))"
        >Log out everywhere but here</UButton
      >
      <CommonProblem :problem="problem" />
      <CommonSecondFactor class="rule pt-3 mt-4" />
      <form class="stack rule pt-3 mt-4" @submit.prevent="change">
        <h3 class="kicker">Another password</h3>
        <UFormField label="Password now" name="now"
          ><UInput v-model="password" name="now" type="password" autocomplete="current-password" class="w-full"
        /></UFormField>
        <UFormField label="New password" name="next" help="Every other login of yours ends."
          ><UInput v-model="next" name="next" type="password" autocomplete="new-password" class="w-full"
        /></UFormField>
        <CommonProblem :problem="refused" />
        <p v-if="changed" class="good" role="status">Your password is changed.</p>
        <UButton type="submit" class="self-start" :loading="changing" :disabled="!password || !next">Change it</UButton>
      </form>
    </template>
  </UModal>
</template>
