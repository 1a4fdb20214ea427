<script setup lang="ts">
const { region, page } = injectJobRecord()
const { lines, problem } = useHistory()
const search = ref('')
const shown = computed(() => {
  const term = search.value.trim().toLowerCase()
  return term ? lines.value.filter((line) => `${line.who} ${line.what}`.toLowerCase().includes(term)) : lines.value
})
</script>

<template>
  <div class="page">
    <div class="row wrap mb-3">
      <h1 class="sentence grow">
        {{ counted(lines.length, 'entry', 'entries') }};
        {{ page?.erasedAt ? 'words of the customer were erased' : 'none is ever taken out' }}.
      </h1>
      <UButton :to="`/api/jobs/${page?.job.id}/export`" external icon="i-lucide-download">Record as JSON</UButton>
    </div>
    <UInput v-model="search" icon="i-lucide-search" placeholder="Who or what" aria-label="Find in the history" class="mb-4 max-w-sm" />
    <CommonProblem :problem="problem" />
    <CommonHistoryLines :lines="shown" :region="region" dates :fold="!search" />
    <p v-if="search && !shown.length" class="soft">Nothing found.</p>
  </div>
</template>
