<script setup lang="ts">
/** What is watched before one leaves: models that fail in their first days, by the company’s own record. */
const { page } = injectJobRecord()
const { answer } = useList('GET /api/jobs/:id/soak', () => ({ params: { id: page.value!.job.id } }), [])
</script>

<template>
  <div v-for="one in answer?.models ?? []" :key="one.model" class="note amber" data-testid="soak">
    <b>Let it run for an hour before you leave, or call on the second day: {{ one.model }}.</b>
    {{ one.failed }} of your {{ one.of }} failed within two days; more than one in a hundred does,
    {{ Math.min(99, Math.floor(one.sure * 100)) }} of 100 sure.
  </div>
</template>
