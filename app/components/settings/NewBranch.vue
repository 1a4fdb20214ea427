<script setup lang="ts">
import { supplySchemes, type SchemeId } from '../../../core/units'

const session = useSession()
const open = ref(false)
const form = ref({ name: '', schemeId: 'na120' as SchemeId, timezone: Intl.DateTimeFormat().resolvedOptions().timeZone })
const problem = ref<Problem | null>(null)
const schemes = Object.values(supplySchemes).map((scheme) => ({ label: scheme.name, value: scheme.id }))
async function save() {
  const answer = await api('POST /api/branches', { body: form.value })
  problem.value = answer.ok ? null : answer.problem
  if (answer.ok) {
    open.value = false
    await session.load('branches')
  }
}
</script>

<template>
  <div class="max-w-xl">
    <UButton icon="i-lucide-plus" @click="open = !open">Branch</UButton>
    <form v-if="open" class="stack note mt-3" @submit.prevent="save">
      <UFormField label="Name of the new branch" name="branch"><UInput v-model="form.name" name="branch" /></UFormField
      ><UFormField label="Supply"><USelect v-model="form.schemeId" :items="schemes" class="w-full" /></UFormField
      ><UFormField label="Time zone"><CommonTimeZone v-model="form.timezone" /></UFormField><CommonProblem :problem="problem" /><UButton
        type="submit"
        variant="solid"
        :disabled="!form.name.trim()"
        >Open the branch</UButton
      >
    </form>
  </div>
</template>
