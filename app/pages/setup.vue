<script setup lang="ts">
import { supplySchemes } from '../../core/units'

definePageMeta({ layout: 'plain' })
const session = useSession()
const form = reactive({
  company: '',
  branch: '',
  schemeId: 'na120' as const,
  timezone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  person: { name: '', initials: '', login: '', password: '', licensed: false },
})
const busy = ref(false)
const problem = ref<Problem | null>(null)
const schemes = Object.values(supplySchemes).map((scheme) => ({ label: scheme.name, value: scheme.id }))

async function save() {
  busy.value = true
  const answer = await api('POST /api/setup', { body: form })
  busy.value = false
  if (!answer.ok) {
    problem.value = answer.problem
    return
  }
  await session.check()
  await navigateTo('/')
}
</script>

<template>
  <div>
    <CommonMark />
    <h1 class="sentence mb-5">Set up your company, its first branch and its lead.</h1>
    <form class="stack" @submit.prevent="save">
      <UFormField label="Company" name="company" :error="faultAt(problem, 'company')"
        ><UInput v-model="form.company" name="company" required
      /></UFormField>
      <UFormField label="First branch" name="branch" :error="faultAt(problem, 'branch')"
        ><UInput v-model="form.branch" name="branch" required
      /></UFormField>
      <UFormField label="Supply there" name="schemeId" help="Wording, limits and box rules follow it. Each branch has one."
        ><USelect v-model="form.schemeId" :items="schemes" class="w-full"
      /></UFormField>
      <UFormField label="Time zone" name="timezone" :error="faultAt(problem, 'timezone')"
        ><CommonTimeZone v-model="form.timezone"
      /></UFormField>
      <h2 class="kicker rule pt-4">You, the lead</h2>
      <UFormField label="Name" name="name" :error="faultAt(problem, 'person.name')"
        ><UInput v-model="form.person.name" name="name" autocomplete="name" required
      /></UFormField>
      <UFormField label="Initials on your tags" name="initials" :error="faultAt(problem, 'person.initials')"
        ><UInput v-model="form.person.initials" name="initials" maxlength="3" required
      /></UFormField>
      <UFormField label="Login" name="login" :error="faultAt(problem, 'person.login')"
        ><UInput v-model="form.person.login" name="login" autocomplete="username" autocapitalize="none" required
      /></UFormField>
      <UFormField label="Password" name="password" help="At least 10 characters." :error="faultAt(problem, 'person.password')"
        ><UInput v-model="form.person.password" name="password" type="password" autocomplete="new-password" minlength="10" required
      /></UFormField>
      <UCheckbox v-model="form.person.licensed" label="I hold the licence the local code asks for" />
      <CommonProblem
        :problem="problem"
        :placed="['company', 'branch', 'timezone', 'person.name', 'person.initials', 'person.login', 'person.password']"
      />
      <UButton type="submit" variant="solid" size="xl" block :loading="busy">Set up</UButton>
    </form>
  </div>
</template>
