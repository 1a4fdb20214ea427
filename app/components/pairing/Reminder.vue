<script setup lang="ts">
import { burningWindows, pairingOf } from '../../../core/job'

/** On every page of a job: a window burns down, or the 5 GHz band is still off. */
const { jobId, job, site, now, onCrew } = injectJobRecord()
const route = useRoute()
const first = computed(() =>
  job.value && site.value && onCrew.value ? (burningWindows(job.value, site.value, now.value)[0] ?? null) : null,
)
const name = computed(() => (first.value ? nameOfUnit(job.value!, first.value.unit) : ''))
const over = computed(() => {
  const { band } = pairingOf(job.value!)
  return band !== null && now.value > Date.parse(band.at) + band.minutes * 60_000
})
const here = computed(() => route.path.endsWith('/windows'))
</script>

<template>
  <div v-if="onCrew && !here && (first || over)" class="reminder">
    <PairingBand v-if="over" :now="now" />
    <NuxtLink v-if="first" :to="`/jobs/${jobId}/windows`" data-testid="window-open"
      ><b>{{ Math.max(1, Math.floor((first.until - now) / 60_000)) }} min</b>&nbsp;left to pair {{ name }}</NuxtLink
    >
  </div>
</template>

<style scoped>
.reminder {
  padding: 4px 22px 0;
}
a {
  display: inline-flex;
  min-height: 44px;
  align-items: center;
  text-decoration: underline;
  text-decoration-color: var(--copper-bar);
  text-underline-offset: 4px;
}
</style>
