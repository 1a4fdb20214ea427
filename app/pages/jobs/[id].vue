<script setup lang="ts">
const route = useRoute()
const record = provideJobRecord(String(route.params.id))
const { page, job, problem } = record
const base = computed(() => `/jobs/${route.params.id}`)
const callback = computed(() => Object.values(job.value?.callbacks ?? {}).findLast((candidate) => candidate.status !== 'closed') ?? null)
const tabs = computed(() => [
  { to: base.value, label: 'Walk', exact: true },
  { to: `${base.value}/tests`, label: 'Tests' },
  { to: `${base.value}/handover`, label: 'Handover' },
  ...(callback.value ? [{ to: `${base.value}/callback/${callback.value.id}`, label: 'Callback' }] : []),
  { to: `${base.value}/history`, label: 'History' },
])
const isHere = (tab: { to: string; exact?: boolean }) =>
  tab.exact ? route.path === tab.to || route.path.startsWith(`${tab.to}/box`) : route.path.startsWith(tab.to)
// Once the page stands, the parts that open later: a cellar without signal must find them here already.
const partsForLater = () => [
  import('~/components/power/CircuitSheet.vue'),
  import('~/components/bench/Proof.vue'),
  import('~/components/bench/Conductors.vue'),
  import('~/components/bench/Device.vue'),
  import('./[id]/box/[boxId].vue'),
  import('./[id]/tests.vue'),
]
const later = setTimeout(() => void Promise.allSettled(partsForLater()), 1500)
onBeforeUnmount(() => clearTimeout(later))
useHead({ title: () => (page.value ? `${page.value.site.name} · Circuitry` : 'Circuitry') })
</script>

<template>
  <div v-if="problem && !page" class="page">
    <h1 class="sentence mb-3">This job cannot be shown.</h1>
    <CommonProblem :problem="problem" />
    <div class="row mt-4"><UButton @click="record.load()">Try again</UButton><UButton to="/jobs" variant="link">All jobs</UButton></div>
  </div>
  <p v-else-if="!page || !job" class="page soft" aria-busy="true">Opening the job …</p>
  <div v-else>
    <div class="bar">
      <b>{{ page.site.name }}</b><span class="soft grow truncate">{{ page.job.number }} · {{ page.job.title }}</span>
      <nav aria-label="Job" class="tabs">
        <NuxtLink
          v-for="tab in tabs"
          :key="tab.to"
          :to="tab.to"
          :class="{ here: isHere(tab) }"
          :aria-current="isHere(tab) ? 'page' : undefined"
          >{{ tab.label }}</NuxtLink
        >
      </nav>
      <PowerStopCard />
    </div>
    <PowerStrip v-if="!route.path.includes('/box/')" />
    <NuxtPage />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: center;
  padding: 0 22px;
  min-height: 44px;
  border-bottom: 1px solid var(--line);
}
.tabs {
  display: flex;
}
.tabs a {
  padding: 10px 11px;
  min-height: 44px;
  color: var(--soft);
}
.tabs a.here {
  color: var(--ink);
  font-weight: 640;
  text-decoration: underline;
  text-decoration-thickness: 3px;
  text-underline-offset: 8px;
  text-decoration-color: var(--copper-bar);
}
@media (max-width: 760px) {
  .bar {
    padding: 8px 16px 0;
    display: grid;
    grid-template-columns: auto 1fr auto;
  }
  .tabs {
    grid-column: 1 / -1;
    grid-row: 2;
  }
  .tabs {
    width: calc(100% + 20px);
    margin-left: -10px;
    justify-content: space-between;
  }
  .tabs a {
    padding: 10px;
  }
}
</style>
