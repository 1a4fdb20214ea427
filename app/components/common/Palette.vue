<script setup lang="ts">
import { jobStatusWords, type JobStatus } from '../../../core/job'
import type { JobLine } from '../../../core/protocol'

const open = defineModel<boolean>('open', { required: true })
const session = useSession()
const term = ref('')
const jobs = ref<JobLine[]>([])
const searched = ref('')

async function search() {
  const asked = term.value
  const answer = await api('GET /api/jobs', { query: { search: asked } })
  if (!answer.ok) return
  jobs.value = answer.value.jobs.slice(0, 12)
  searched.value = asked
}
watch(
  open,
  (isOpen) => {
    if (isOpen) {
      term.value = ''
      void search()
    }
  },
  { immediate: true },
)
watchDebounced(term, search, { debounce: 180 })

/** Until the server has answered for these words, only jobs that clearly fit them: Enter never opens another one. */
const fitting = computed(() => {
  const words = term.value.trim().toLowerCase()
  return searched.value === term.value
    ? jobs.value
    : jobs.value.filter((job) => `${job.number} ${job.siteName} ${job.title}`.toLowerCase().includes(words))
})
const go = (to: string) => () => {
  open.value = false
  void navigateTo(to)
}
const groups = computed(() => [
  {
    id: 'jobs',
    label: 'Jobs',
    ignoreFilter: true,
    items: fitting.value.map((job) => ({
      label: `${job.number} ${job.siteName}`,
      suffix: `${job.title} · ${jobStatusWords[job.status as JobStatus]}`,
      icon: 'i-lucide-house',
      onSelect: go(`/jobs/${job.id}`),
    })),
  },
  {
    id: 'pages',
    label: 'Go to',
    items: [
      ...(session.isOffice
        ? [
            { label: 'Day', icon: 'i-lucide-panel-top', onSelect: go('/day') },
            { label: 'Messages', icon: 'i-lucide-mail', onSelect: go('/messages') },
            { label: 'Insights', icon: 'i-lucide-chart-line', onSelect: go('/insights') },
            { label: 'New job', icon: 'i-lucide-plus', onSelect: go('/jobs/new') },
          ]
        : []),
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
