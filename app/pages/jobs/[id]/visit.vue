<script setup lang="ts">
import { visitOf, type Visit } from '../../../../core/job'

const { job, asker } = injectJobRecord()
/** One’s own, else the one that goes on or comes next. */
const visit = computed((): Visit | null => {
  if (!job.value) return null
  const open = Object.values(job.value.visits)
    .filter(({ status }) => status === 'onSite' || status === 'planned')
    .sort((a, b) => Number(b.status === 'onSite') - Number(a.status === 'onSite') || a.startsAt.localeCompare(b.startsAt))
  return visitOf(job.value, asker.value.personId) ?? open[0] ?? null
})
</script>

<template>
  <div class="page">
    <HomeVisitRun v-if="visit" :key="visit.id" :visit="visit" />
    <h1 v-else class="sentence">No visit of this job is planned.</h1>
  </div>
</template>
