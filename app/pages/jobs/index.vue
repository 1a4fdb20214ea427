<script setup lang="ts">
import { jobStatuses, jobStatusWords, type JobStatus } from '../../../core/job'

const session = useSession()
const route = useRoute()
const search = ref(String(route.query.search ?? ''))
const status = ref<JobStatus | 'all'>('all')
const statusItems = [{ label: 'every status', value: 'all' }, ...jobStatuses.map((value) => ({ label: jobStatusWords[value], value }))]

const asked = refDebounced(
  computed(() => ({ search: search.value.trim(), status: status.value === 'all' ? undefined : status.value })),
  200,
)
const { answer, loaded, problem } = useList('GET /api/jobs', () => ({ query: asked.value }), ['job', 'jobs'], { stands: true })
const jobs = computed(() => answer.value?.jobs ?? [])

const filtered = computed(() => search.value.trim() !== '' || status.value !== 'all')
const sentence = computed(() => {
  if (!loaded.value) return 'Looking for jobs …'
  if (!jobs.value.length) return filtered.value ? 'No job fits. Try fewer letters, or every status.' : 'No job yet.'
  const open = jobs.value.filter((job) => job.status !== 'handedOver').length
  const failing = jobs.value.filter((job) => job.failed > 0)
  return `${counted(jobs.value.length, 'job')}, ${open} open.${failing.length ? ` A point fails at ${failing.map((job) => job.siteName).join(', ')}.` : ''}`
})
</script>

<template>
  <div class="page">
    <div class="row wrap mb-4">
      <h1 class="sentence grow">{{ sentence }}</h1>
      <UButton v-if="session.isOffice" to="/jobs/new" icon="i-lucide-plus" variant="solid">New job</UButton>
    </div>
    <div class="row wrap mb-3">
      <UInput
        v-model="search"
        icon="i-lucide-search"
        placeholder="Number, home, street, customer"
        aria-label="Find a job"
        class="grow min-w-52"
      />
      <USelect v-model="status" :items="statusItems" aria-label="Status" class="w-48" />
    </div>
    <CommonProblem :problem="problem" />
    <NuxtLink v-for="job in jobs" :key="job.id" :to="`/jobs/${job.id}`" class="list-row line">
      <span class="mono">{{ job.number }}</span>
      <span
        ><b>{{ job.siteName }}</b> <span class="soft">{{ job.title }}</span><br /><span class="soft small"
          >{{ job.address }} · {{ job.customer
          }}<template v-if="session.branches.length > 1"> · {{ session.branchOf(job.branchId)?.name }}</template></span
        ></span
      >
      <span :class="{ hot: job.status === 'onSite', bad: job.status === 'callback' }"
        >{{ jobStatusWords[job.status as JobStatus] }}<br /><span class="soft small">{{
          job.nextVisit ? dayAndTime(job.nextVisit, session.regionAt(job.branchId)) : ''
        }}</span></span
      >
      <span class="count"
        ><span class="bar" role="img" :aria-label="`${job.passed} of ${job.points} points pass`"
          ><i :style="{ width: `${job.points ? (job.passed / job.points) * 100 : 0}%` }" /><i
            class="f"
            :style="{ width: `${job.points ? (job.failed / job.points) * 100 : 0}%` }" /></span
        ><span class="mono small"
          >{{ job.passed }}/{{ job.points }}<span v-if="job.failed" class="bad ms-2">{{ counted(job.failed, 'fails', 'fail') }}</span></span
        ></span
      >
    </NuxtLink>
    <p v-if="loaded && !jobs.length && !filtered" class="note">
      A job comes in as a file, or by hand. {{ session.isOffice ? 'Start with “New job”.' : 'The dispatcher takes it in.' }}
    </p>
  </div>
</template>

<style scoped>
.line {
  grid-template-columns: 56px minmax(0, 1fr) 150px 130px;
}
.bar {
  display: flex;
  height: 8px;
  background: var(--mute);
  border: 1px solid var(--soft);
}
.bar i {
  background: var(--petrol);
}
.bar i.f {
  background: repeating-linear-gradient(135deg, var(--live) 0 3px, var(--sheet) 3px 5px);
}
@media (max-width: 760px) {
  .line {
    grid-template-columns: 50px minmax(0, 1fr) auto;
  }
  .line .count {
    grid-column: 2 / -1;
  }
}
</style>
