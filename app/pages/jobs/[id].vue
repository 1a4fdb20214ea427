<script setup lang="ts">
import { stopWords } from '../../../core/site'

const route = useRoute()
const record = provideJobRecord(String(route.params.id))
const { page, job, site, problem, offline, savedAt, region } = record
const session = useSession()
const { t } = providePlace(() => ({ schemeId: record.scheme.value.id, region: region.value }))
const siteId = computed(() => page.value?.job.siteId ?? null)
const place = computed(() => {
  const box = /\/box\/([0-9a-f-]{36})/.exec(route.path)?.[1]
  return box ? `box:${box}` : /\/(panel|tracing)$/.test(route.path) ? 'panel' : 'walk'
})
const { present } = usePresence(siteId, place)
// Opened while the server was away: shown by itself once it answers again.
const feed = useFeed()
watch(
  () => feed.status,
  (status) => {
    if (status === 'live' && !page.value && problem.value?.status === 0) void record.load()
  },
)
// A request for this site arrives: heard once, by those on its crew who did not make it.
const heard = new Set<string>()
watch(
  () => Object.values(site.value?.asks ?? {}).map((ask) => ask.id),
  (ids, before) => {
    const fresh = ids.filter((id) => !heard.has(id))
    for (const id of fresh) heard.add(id)
    if (before && record.onCrew.value && fresh.some((id) => site.value?.asks[id]?.personId !== session.viewer?.personId)) soundRequest()
  },
)
const base = computed(() => `/jobs/${route.params.id}`)
/** A box, its wiring and the tracing of circuits say themselves what is next. */
const ownDock = computed(() => /\/(box|wiring)\/|\/tracing$/.test(route.path))
const isWalk = computed(() => route.path === base.value)
const callback = computed(() => Object.values(job.value?.callbacks ?? {}).findLast((candidate) => candidate.status !== 'closed') ?? null)
/** Something was agreed, or is chosen and waits for its bag. */
const hasParts = computed(
  () => Boolean(job.value?.sales?.length) || Object.values(job.value?.boxes ?? {}).some(({ devices }) => Object.keys(devices).length > 0),
)
const tabs = computed((): { to: string; label: string; spoken?: string; exact?: boolean; also?: string[] }[] => [
  { to: base.value, label: 'Walk', exact: true },
  { to: `${base.value}/panel`, label: t('{panel-tab}'), spoken: t('{Panel}'), also: [`${base.value}/tracing`, `${base.value}/directory`] },
  { to: `${base.value}/plan`, label: 'Plan' },
  ...(hasParts.value ? [{ to: `${base.value}/parts`, label: 'Parts' }] : []),
  { to: `${base.value}/tests`, label: 'Tests', also: [`${base.value}/windows`, `${base.value}/names`, `${base.value}/schedules`] },
  { to: `${base.value}/handover`, label: 'Handover' },
  ...(callback.value ? [{ to: `${base.value}/callback/${callback.value.id}`, label: 'Callback' }] : []),
  { to: `${base.value}/history`, label: 'History' },
])
const isHere = (tab: { to: string; exact?: boolean; also?: string[] }) =>
  tab.also?.includes(route.path) ||
  (tab.exact
    ? route.path === tab.to || route.path.startsWith(`${tab.to}/box`) || route.path === `${tab.to}/survey`
    : route.path.startsWith(tab.to))
// Once the page stands, the parts that open later: a cellar without signal must find them here already.
const partsForLater = () => [
  import('~/components/power/CircuitSheet.vue'),
  import('~/components/bench/Proof.vue'),
  import('~/components/bench/Conductors.vue'),
  import('~/components/bench/Device.vue'),
  import('~/components/bench/WorkStep.vue'),
  import('~/components/bench/Photos.vue'),
  import('~/components/bench/CloseUp.vue'),
  import('~/components/bench/Live.vue'),
  import('~/components/bench/Roles.vue'),
  import('~/components/common/Outbox.vue'),
  import('~/components/common/LoginAgain.vue'),
  import('./[id]/panel.vue'),
  import('./[id]/survey.vue'),
  localStore(),
  import('./[id]/box/[boxId].vue'),
  import('./[id]/tests.vue'),
  import('~/components/home/UnitPairing.vue'),
  import('./[id]/windows.vue'),
  import('./[id]/names.vue'),
  import('./[id]/parts.vue'),
]
const later = setTimeout(() => void Promise.allSettled(partsForLater()), 1500)
onBeforeUnmount(() => clearTimeout(later))
/** The newer program may already wait behind the old one. */
async function reload() {
  await (await navigator.serviceWorker?.getRegistration())?.update().catch(() => undefined)
  window.location.reload()
}
useHead({ title: () => (page.value ? `${page.value.site.name} · Circuitry` : 'Circuitry') })
</script>

<template>
  <div v-if="problem && !page" class="page">
    <h1 class="sentence mb-3">This job cannot be shown.</h1>
    <CommonProblem :problem="problem" />
    <div class="row mt-4"><UButton @click="record.load()">Try again</UButton><UButton to="/jobs" variant="link">All jobs</UButton></div>
  </div>
  <p v-else-if="!page || !job" class="page soft" aria-busy="true">Opening the job …</p>
  <div v-else class="job">
    <div class="bar">
      <b>{{ page.site.name }}</b><span class="soft grow truncate">{{ page.job.number }} · {{ page.job.title }}</span>
      <nav aria-label="Job" class="tabs">
        <NuxtLink
          v-for="tab in tabs"
          :key="tab.to"
          :to="tab.to"
          :class="{ here: isHere(tab) }"
          :aria-current="isHere(tab) ? 'page' : undefined"
          :aria-label="tab.spoken"
          ><template v-if="tab.spoken"
            ><span class="long">{{ tab.spoken }}</span
            ><span class="short">{{ tab.label }}</span></template
          ><template v-else>{{ tab.label }}</template></NuxtLink
        >
      </nav>
      <span class="bar-stop"><PowerStopCard /></span>
    </div>
    <!-- On a phone the feeds and Stop stay in sight, whatever is scrolled. -->
    <div class="held"><PowerStrip v-if="!route.path.endsWith('/panel')" /><span class="grow" /><PowerStopCard /></div>
    <p v-if="offline && savedAt" class="note amber mx-4">
      This is how it was at {{ dayAndTime(savedAt, region) }}, the last update of this device.
    </p>
    <p v-if="site?.unknownEvent" class="note red mx-4" role="alert">
      <b>The power at this site is unknown: an update is needed.</b> The record has an entry this program does not understand. Nothing
      counts as safe and nobody gets a permit here. What you see and report is still stored.
      <UButton size="sm" class="ml-2" @click="reload">Update now</UButton>
    </p>
    <p v-if="site?.stop" class="note red mx-4 mt-2" role="alert" data-testid="stopped">
      <b>Work is stopped.</b> {{ site.stop.name }}, {{ clockTime(site.stop.at, region)
      }}{{ site.stop.what ? `: ${stopWords[site.stop.what]}` : '' }}. Hands off until {{ site.stop.name }} or a lead restarts work.
    </p>
    <p v-if="page.erasedAt" class="note mx-4 mt-2" data-testid="erased">
      <b>This customer was erased ({{ dayAndTime(page.erasedAt, region) }}).</b> Names, address, notes of the job, codes, signatures and
      pictures are gone. What was wired, tagged and measured stays, with who did it.
    </p>
    <HomeOtherRecords v-if="isWalk || route.path.endsWith('/panel')" :page="page" :record="record" />
    <PowerShout />
    <PowerCrew :present="present" class="crew-line" />
    <PairingReminder />
    <NuxtPage />
    <JobDock v-if="!ownDock" wide><PowerAsks /><HomeGuide /></JobDock>
  </div>
</template>

<style scoped>
.crew-line {
  padding: 6px 22px 0;
}
/* The program's own bar, and the job's: both stay. */
.job {
  --bars: 97px;
  display: flex;
  flex-direction: column;
  min-height: calc(100dvh - 52px);
}
/* Centred pages keep their width in the column. */
.job > :deep(.page),
.job > :deep(.panel-page),
.job > :deep(.directory) {
  width: 100%;
}
.bar,
.held {
  position: sticky;
  top: 52px;
  z-index: 15;
  background: var(--paper);
}
.held {
  display: none;
}
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
@media (max-width: 1000px) {
  .bar {
    position: static;
  }
  .bar-stop {
    display: none;
  }
  .held {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 6px 16px;
    border-bottom: 1.5px solid var(--ink);
  }
}
.short {
  display: none;
}
@media (max-width: 760px) {
  .long {
    display: none;
  }
  .short {
    display: inline;
  }
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
    overflow-x: auto;
    scrollbar-width: none;
    width: calc(100% + 20px);
    margin-left: -10px;
    justify-content: space-between;
  }
  .tabs a {
    padding: 10px;
  }
}
</style>
