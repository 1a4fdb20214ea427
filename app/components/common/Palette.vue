<script setup lang="ts">
import { jobStatusWords, type JobStatus } from '../../../core/record'
import type { JobLine } from '../../../server/services/jobs'

const open = defineModel<boolean>('open', { required: true })
const session = useSession()
const term = ref('')
const jobs = ref<JobLine[]>([])

async function search() {
  const answer = await api<{ jobs: JobLine[] }>(`/api/jobs?search=${encodeURIComponent(term.value)}`)
  if (answer.ok) jobs.value = answer.value.jobs.slice(0, 12)
}
watch(open, (isOpen) => { if (isOpen) { term.value = ''; void search() } })
watchDebounced(term, search, { debounce: 180 })

const go = (to: string) => () => {
  open.value = false
  void navigateTo(to)
}
const groups = computed(() => [
  { id: 'jobs', label: 'Jobs', ignoreFilter: true, items: jobs.value.map((job) => ({ label: `${job.number} ${job.siteName}`, suffix: `${job.title} · ${jobStatusWords[job.status as JobStatus]}`, icon: 'i-lucide-house', onSelect: go(`/jobs/${job.id}`) })) },
  {
    id: 'pages', label: 'Go to',
    items: [
      ...(session.isOffice ? [{ label: 'Day', icon: 'i-lucide-panel-top', onSelect: go('/day') }, { label: 'New job', icon: 'i-lucide-plus', onSelect: go('/jobs/new') }] : []),
      { label: 'My day', icon: 'i-lucide-list-checks', onSelect: go('/my-day') },
      { label: 'Jobs', icon: 'i-lucide-house', onSelect: go('/jobs') },
      { label: 'Callbacks', icon: 'i-lucide-undo-2', onSelect: go('/callbacks') },
      { label: 'Settings', icon: 'i-lucide-sliders-horizontal', onSelect: go('/settings') },
    ],
  },
])
</script>

<template>
  <UModal v-model:open="open" title="Find or do" description="Jobs by number, home, street or customer; pages by name.">
    <template #body>
      <UCommandPalette v-model:search-term="term" :groups="groups" placeholder="Number, home, street, customer …" class="h-80" />
    </template>
  </UModal>
</template>
