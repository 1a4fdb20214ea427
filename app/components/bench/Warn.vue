<script setup lang="ts">
import { sentence, loneWorkOf } from '../../../core/site'

/** A mate is told before somebody works on live parts, or the contact of whoever works alone. With one mate it is one tap. */
const props = defineProps<{ act: string; busy: boolean }>()
const emit = defineEmits<{ go: [warnedIds: string[]] }>()
const { job, site, asker, vantage } = injectJobRecord()
const session = useSession()
const alone = computed(() => loneWorkOf(site.value!, asker.value.personId, vantage.value))
const mates = computed(() => {
  const onVisit = Object.values(job.value?.visits ?? {})
    .filter((visit) => visit.status === 'planned' || visit.status === 'onSite')
    .flatMap((visit) => visit.personIds)
  const ids = new Set([...Object.keys(site.value!.onSite), ...onVisit])
  return [...ids].filter((id) => id !== asker.value.personId).flatMap((id) => session.person(id) ?? [])
})
const told = ref<string[]>([])
const tell = (id: string) => (told.value = toggled(told.value, id))
</script>

<template>
  <JobAct v-if="mates.length === 1" :loading="busy" @click="emit('go', [mates[0]!.id])"
    >{{ mates[0]!.name }} is told: {{ props.act }}</JobAct
  >
  <template v-else>
    <UCheckbox
      v-for="mate in mates"
      :key="mate.id"
      :model-value="told.includes(mate.id)"
      :label="`${mate.name} is told`"
      @update:model-value="tell(mate.id)"
    />
    <template v-if="alone.working || !mates.length"
      ><p v-if="!alone.working">Nobody else is on this visit. Somebody must wait for your check-in.</p>
      <PowerLoneWorker
    /></template>
    <JobAct :loading="busy" :disabled="!told.length && !alone.working" @click="emit('go', told)">{{ sentence(props.act) }}</JobAct>
  </template>
</template>
