<script setup lang="ts">
import type { BodyOf } from '../../core/protocol'
import { setUp } from '../../core/protocol/company'
import { supplySchemes } from '../../core/units'

definePageMeta({ layout: 'plain' })
const session = useSession()
const form = reactive({
  company: '',
  branch: '',
  schemeId: 'na120' as const,
  timezone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  person: { name: '', initials: '', login: '', password: '', licensed: false },
  code: '',
})
const asksCode = ref(false)
onMounted(async () => {
  form.code = decodeURIComponent(window.location.hash.slice(1))
  const answer = await api('GET /api/setup')
  // Nobody is stuck without the field because one answer was lost.
  asksCode.value = !answer.ok || answer.value.asksCode
})
const schemes = Object.values(supplySchemes).map((scheme) => ({ label: scheme.name, value: scheme.id }))

const send = (body: BodyOf<typeof setUp>) => api('POST /api/setup', { body })
async function saved() {
  await session.check()
  await navigateTo('/')
}
</script>

<template>
  <div>
    <CommonMark />
    <h1 class="sentence mb-5">Set up your company, its first branch and its lead.</h1>
    <CommonContractForm :schema="setUp.body" :body="form" :send="send" @saved="saved">
      <UFormField v-if="asksCode" label="Code of the start" name="code" help="It stands where the server was started, behind the address."
        ><UInput v-model="form.code" name="code" autocomplete="off" autocapitalize="none"
      /></UFormField>
      <UFormField label="Company" name="company"><UInput v-model="form.company" name="company" /></UFormField>
      <UFormField label="First branch" name="branch"><UInput v-model="form.branch" name="branch" /></UFormField>
      <UFormField label="Supply there" name="schemeId" help="Wording, limits and box rules follow it. Each branch has one."
        ><USelect v-model="form.schemeId" name="schemeId" :items="schemes" class="w-full"
      /></UFormField>
      <UFormField label="Time zone" name="timezone"><CommonTimeZone v-model="form.timezone" /></UFormField>
      <h2 class="kicker rule pt-4">You, the lead</h2>
      <UFormField label="Name" name="person.name"><UInput v-model="form.person.name" name="person.name" autocomplete="name" /></UFormField>
      <UFormField label="Initials on your tags" name="person.initials"
        ><UInput v-model="form.person.initials" name="person.initials" maxlength="3"
      /></UFormField>
      <UFormField label="Login" name="person.login"
        ><UInput v-model="form.person.login" name="person.login" autocomplete="username" autocapitalize="none"
      /></UFormField>
      <UFormField label="Password" name="person.password" help="At least 10 characters, and hard to guess: four words are best."
        ><UInput v-model="form.person.password" name="person.password" type="password" autocomplete="new-password"
      /></UFormField>
      <UCheckbox v-model="form.person.licensed" label="I hold the licence the local code asks for" />
      <template #end="{ busy }"><UButton type="submit" variant="solid" size="xl" block :loading="busy">Set up</UButton></template>
    </CommonContractForm>
  </div>
</template>
