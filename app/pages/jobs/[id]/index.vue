<script setup lang="ts">
import { jobSentence, mayResume, pointsInOrder, pointStatus, visitWords, type Visit } from '../../../../core/job'
import { nextPowerStep } from '../../../../core/site'

const record = injectJobRecord()
const { t } = useTrade()
const { page, job, site, asker, vantage, region, onCrew, submitJob } = record
const session = useSession()
const selected = ref<string | null>(null)
const { lines } = useHistory()
const { busy, refusal, run } = useAction()
const scheduling = ref(false)

const sentence = computed(() =>
  job.value && site.value ? jobSentence(job.value, site.value, asker.value, vantage.value, onCrew.value) : '',
)
const box = computed(() => (selected.value ? (site.value?.boxes[selected.value] ?? null) : null))
const step = computed(() => (box.value && site.value ? nextPowerStep(site.value, box.value.id, asker.value, vantage.value) : null))
const points = computed(() =>
  box.value && job.value
    ? pointsInOrder(job.value).filter((point) => point.controls.some((control) => control.boxId === box.value!.id))
    : [],
)
/** Its gangs were corrected, and a point was left behind. */
const beyond = computed(() =>
  points.value.filter((point) => point.controls.some(({ boxId, gang }) => boxId === box.value!.id && gang > box.value!.gangs)),
)
const visits = computed(() =>
  Object.values(job.value?.visits ?? {})
    .filter((visit) => visit.status !== 'cancelled')
    .sort((a, b) => a.startsAt.localeCompare(b.startsAt)),
)
const current = computed(
  () => visits.value.find((visit) => visit.status === 'onSite') ?? visits.value.find((visit) => visit.status === 'planned') ?? null,
)
const isOwn = (visit: Visit) => visit.personIds.includes(session.viewer?.personId ?? '') || session.viewer?.role === 'lead'
const mine = computed(() => current.value && isOwn(current.value))
/** Ended by mistake, or somebody came back: gone on with by its people. */
const ended = computed(() => {
  const last = visits.value.filter(({ status }) => status === 'done').at(-1)
  return last && current.value?.status !== 'onSite' && isOwn(last) && mayResume(last, vantage.value.now) ? last : null
})
const statusWords = { passed: 'passes', failed: 'fails', partial: 'partly tested', untested: 'not tested' }

watch(
  () => job.value?.boxIds,
  (ids) => {
    selected.value ??= ids?.find((id) => site.value?.boxes[id]?.closure === 'opened') ?? null
  },
  { immediate: true },
)

const readDoorCode = (reason?: string) => api('GET /api/sites/:id/door-code', { params: { id: page.value!.site.id }, query: { reason } })
</script>

<template>
  <div class="job-page">
    <aside class="rail"><PowerRail :box-ids="job?.boxIds ?? []" title="Power at this site" :compact="false" /></aside>
    <section class="middle" aria-label="The home">
      <h1 class="sentence">{{ t(sentence) }}</h1>
      <p class="soft mt-1">
        {{ page?.site.address
        }}<template v-if="current">
          · {{ visitWords[current.kind] }} {{ dayAndTime(current.startsAt, region) }}, promised
          {{ clockTime(current.windowFrom, region) }}–{{ clockTime(current.windowTo, region) }}</template
        >
      </p>
      <p v-if="page" class="mt-1" data-testid="customer">
        {{ page.customer.name
        }}<template v-if="page.customer.phone"
          >,
          <a class="call" :href="`tel:${page.customer.phone.replace(/[^+\d]/g, '')}`"
            ><UIcon name="i-lucide-phone" /> {{ page.customer.phone }}</a
          ></template
        >
      </p>
      <p v-if="job?.note" class="note mt-2">{{ job.note }}</p>
      <div class="row wrap mt-3">
        <template v-if="current && mine">
          <!-- Whoever is on it says so where the next step stands. -->
          <UButton
            v-if="current.status === 'planned' && !current.personIds.includes(asker.personId)"
            :loading="busy"
            @click="run(() => submitJob({ type: 'arrive', visitId: current!.id }))"
            >They have arrived</UButton
          >
          <HomeEndVisit v-else-if="current.status === 'onSite'" :visit-id="current.id" />
        </template>
        <template v-if="ended">
          <span class="soft">The visit ended at {{ clockTime(ended.finishedAt!, region) }}.</span>
          <UButton :loading="busy" @click="run(() => submitJob({ type: 'resumeVisit', visitId: ended!.id }))">Go on with it</UButton>
        </template>
        <UButton v-if="!current && session.isOffice && !page?.erasedAt" @click="scheduling = !scheduling">Schedule a visit</UButton>
        <UButton v-if="current" :to="`/jobs/${page?.job.id}/visit`" icon="i-lucide-door-open">The visit</UButton>
        <UButton :to="`/jobs/${page?.job.id}/survey`" icon="i-lucide-clipboard-list">Survey</UButton>
        <CommonSecret v-if="page?.site.hasDoorCode" label="Door code" variant="ghost" icon="i-lucide-key-round" :read="readDoorCode" />
        <span v-if="current" class="row"><CommonWho v-for="id in current.personIds" :key="id" :person-id="id" /></span>
      </div>
      <CommonRefusal :refusal="refusal" class="mt-2" />
      <div v-if="scheduling && page" class="max-w-md mt-3">
        <LazyDayVisitForm :job-id="page.job.id" :branch-id="page.job.branchId" @done="scheduling = false" />
      </div>
      <PowerLoneWorker class="mt-2" />
      <HomeWalk v-model="selected" />
    </section>
    <section class="next" aria-label="Next">
      <template v-if="box && step">
        <h2 class="kicker">
          {{ box.name }} · {{ box.gangs }}-gang ·
          {{
            box.breakerIds.length && !box.unknownFeed
              ? `${box.breakerIds.length === 1 ? 'circuit' : 'circuits'} ${box.breakerIds.map((id) => markOf(site!, id)).join(' and ')}`
              : 'feed not known'
          }}
        </h2>
        <p class="next-title my-2">{{ onCrew ? t(step.title) : 'Look, do not touch' }}</p>
        <p v-if="onCrew">{{ t(step.why) }}</p>
        <p v-else>You are not on a visit of this job. You can look and report facts.</p>
        <UButton :to="`/jobs/${page?.job.id}/box/${box.id}`" variant="solid" size="xl" block class="mt-3">Open the bench</UButton>
        <UButton :to="`/jobs/${page?.job.id}/survey?box=${box.id}`" variant="link" class="mt-1">Survey it, or put it right</UButton>
        <p v-for="one in beyond" :key="one.id" class="warn small mt-2">
          {{ one.name }} is switched from a gang that {{ box.name }} does not have. Put it right in the survey.
        </p>
        <ul class="mt-3">
          <li v-for="point in points" :key="point.id" class="row">
            <span class="grow">{{ point.name }}</span><span
              class="small"
              :class="{ good: pointStatus(job!, site!, point) === 'passed', bad: pointStatus(job!, site!, point) === 'failed', soft: true }"
              >{{ statusWords[pointStatus(job!, site!, point)] }}</span
            >
          </li>
        </ul>
      </template>
      <p v-else-if="!job?.boxIds.length" class="soft">No box is on the list yet. The survey records rooms, boxes and what they feed.</p>
      <p v-else class="soft">Pick a box on the wall: its next step and why appear here.</p>
      <div class="rule mt-4 pt-3">
        <h2 class="kicker mb-2">Just now</h2>
        <CommonHistoryLines :lines="lines.slice(0, 7)" :region="region" />
        <UButton :to="`/jobs/${page?.job.id}/history`" variant="link" class="mt-2">The whole history</UButton>
      </div>
    </section>
  </div>
</template>

<style scoped>
.call {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-height: 44px;
  font-weight: 640;
  text-decoration: underline;
}
.job-page {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr) 304px;
  min-height: calc(100dvh - 97px);
}
.rail {
  padding: 18px 14px 24px 16px;
  border-right: 1px solid var(--line);
}
.middle {
  padding: 20px 22px 32px;
}
.next {
  padding: 20px 18px 40px;
  background: var(--sheet);
  border-left: 1px solid var(--line);
}
@media (max-width: 1000px) {
  .job-page {
    grid-template-columns: 1fr;
  }
  .rail {
    display: none;
  }
  .middle {
    order: 1;
    padding: 14px 16px;
  }
  .next {
    order: 3;
    border-left: 0;
    border-top: 1.5px solid var(--line);
    padding: 16px;
  }
}
</style>
