<script setup lang="ts">
import type { BodyOf } from '../../../core/protocol'
import { addBranch } from '../../../core/protocol/company'
import { supplySchemes, type SchemeId } from '../../../core/units'

const session = useSession()
const open = ref(false)
const form = ref({ name: '', schemeId: 'na120' as SchemeId, timezone: Intl.DateTimeFormat().resolvedOptions().timeZone })
const schemes = Object.values(supplySchemes).map((scheme) => ({ label: scheme.name, value: scheme.id }))
const send = (body: BodyOf<typeof addBranch>) => api('POST /api/branches', { body })
async function saved() {
  open.value = false
  await session.load('branches')
}
</script>

<template>
  <div>
    <UButton icon="i-lucide-plus" @click="open = !open">Branch</UButton>
    <CommonContractForm v-if="open" class="note mt-3" :schema="addBranch.body" :body="form" :send="send" @saved="saved">
      <UFormField label="Name of the new branch" name="name"><UInput v-model="form.name" name="name" /></UFormField>
      <UFormField label="Supply" name="schemeId"
        ><USelect v-model="form.schemeId" name="schemeId" :items="schemes" class="w-full"
      /></UFormField>
      <UFormField label="Time zone" name="timezone"><CommonTimeZone v-model="form.timezone" /></UFormField>
      <template #end="{ busy }"><UButton type="submit" variant="solid" :loading="busy">Open the branch</UButton></template>
    </CommonContractForm>
  </div>
</template>
