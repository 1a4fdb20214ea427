<script setup lang="ts">
import { visitWords } from '../../core/job'
import type { DayVisit } from '../../core/protocol'

const session = useSession()
const { now } = useNow()
const region = computed(() => regionOf(session.branchOf(session.viewer?.branchId ?? '')))
/** Today and the week after; another day begins while the page stands. */
const days = computed(() => daysFromToday(8, region.value, now.value))

const { answer, loaded, problem, load } = useList(
  'GET /api/visits',
  () => ({ query: { mine: 'yes' as const, ...days.value } }),
  ['job', 'site'],
  { keptAs: () => `${session.viewer?.personId} my visits` },
)
const visits = computed(() => answer.value?.visits ?? [])
const isToday = (visit: DayVisit) => onSameDay(visit.startsAt, new Date(now.value).toISOString(), region.value)
const today = computed(() => visits.value.filter((visit) => isToday(visit) || visit.status === 'onSite'))
/** The jobs of the day are put on this device, so that they open where there is no signal. */
async function keepForTheDay() {
  for (const jobId of new Set(today.value.map((visit) => visit.jobId))) {
    const page = await api('GET /api/jobs/:id', { params: { id: jobId } })
    if (page.ok) await keepJob({ personId: session.viewer?.personId ?? '', jobId, page: page.value })
  }
}
watch(answer, (known) => known && void keepForTheDay(), { immediate: true })
const later = computed(() => visits.value.filter((visit) => !isToday(visit) && visit.status === 'planned'))
const current = computed(
  () => today.value.find((visit) => visit.status === 'onSite') ?? today.value.find((visit) => visit.status === 'planned') ?? null,
)
const working = computed(() => today.value.find((visit) => visit.status === 'onSite') ?? null)
/** Where one goes next: from here, or once the work here is done. */
const next = computed(() => today.value.find((visit) => visit.status === 'planned') ?? null)
const sentence = computed(() => {
  if (!loaded.value) return 'Looking at your day …'
  if (!current.value) return today.value.length ? 'You are done for today.' : 'No visit for you today.'
  if (current.value.status === 'onSite')
    return `You are at ${current.value.siteName}. ${current.value.passed} of ${current.value.points} points pass.`
  if (current.value.setOffAt) return `On the way to ${current.value.siteName}.`
  return `Next: ${current.value.siteName} at ${clockTime(current.value.startsAt, region.value)}.`
})
const inVan = ({ personIds }: DayVisit) => {
  const van = session.vanNameOf(personIds)
  return van ? ` · in ${van}` : ''
}
const words = { planned: 'planned', onSite: 'on site', done: 'done', cancelled: 'cancelled' } as Record<string, string>
</script>

<template>
  <div class="page">
    <h1 class="sentence mb-4">{{ sentence }}</h1>
    <CommonProblem :problem="problem" />
    <template
      v-for="group in [
        { title: 'Today', list: today },
        { title: 'This week', list: later },
      ]"
      :key="group.title"
    >
      <h2 v-if="group.list.length" class="kicker mt-5">{{ group.title }}</h2>
      <template v-for="visit in group.list" :key="visit.id">
        <NuxtLink :to="`/jobs/${visit.jobId}`" class="stop" :class="{ current: visit.id === current?.id, next: visit.id === next?.id }">
          <span class="when mono"
            ><b>{{ clockTime(visit.startsAt, region) }}</b
            ><span v-if="group.list === later" class="soft">{{ dayWord(visit.startsAt, region) }}</span
            ><span v-else class="soft">{{ clockTime(visit.endsAt, region) }}</span></span
          >
          <span class="grow">
            <b class="text-lg">{{ visit.siteName }}</b><br />{{ visit.address }}<br />
            <span class="soft small"
              >{{ visit.kind === 'install' ? visit.jobTitle : `${visitWords[visit.kind as 'survey']}: ${visit.jobTitle}` }} · promised
              {{ clockTime(visit.windowFrom, region) }}–{{ clockTime(visit.windowTo, region) }}{{ inVan(visit) }}</span
            >
          </span>
          <span class="state"
            ><span :class="visit.status === 'onSite' ? 'hot' : 'soft'">{{
              visit.status === 'planned' && visit.setOffAt ? 'on the way' : words[visit.status]
            }}</span
            ><span class="row"><CommonWho v-for="id in visit.personIds" :key="id" :person-id="id" /></span
            ><PowerTag v-for="tag in visit.tags" :key="tag" :initials="tag" title="tag hanging"
          /></span>
        </NuxtLink>
        <DayNextStop v-if="visit.id === next?.id" :visit="visit" :at="working" :region="region" :now="now" @left="load" />
      </template>
    </template>
    <p v-if="loaded && !visits.length" class="note mt-4">When the dispatcher puts you on a visit it appears here by itself.</p>
    <UButton
      v-if="today.length && session.viewer"
      class="mt-4"
      :to="`/api/dispatch/sheet?branchId=${session.viewer.branchId}&date=${todayIn(region)}`"
      external
      data-paper
      target="_blank"
      icon="i-lucide-printer"
      >My day on paper (PDF)</UButton
    >
    <LazyDayAsk v-if="loaded" :visits="visits" :region="region" />
    <LazyDayOwnNumbers v-if="loaded" />
  </div>
</template>

<style scoped>
.stop {
  display: flex;
  gap: 14px;
  padding: 14px 4px;
  border-bottom: 1px solid var(--line);
  color: inherit;
  min-height: 72px;
}
.stop.next:not(.current) {
  border-bottom: 0;
}
.stop.current {
  border: 1.5px solid var(--ink);
  border-left: 8px solid var(--copper-bar);
  border-radius: 4px;
  background: var(--sheet);
  padding: 14px 12px;
  margin: 8px 0;
}
.when {
  display: flex;
  flex-direction: column;
  min-width: 56px;
}
.when b {
  font-size: 18px;
}
.state {
  display: flex;
  flex-direction: column;
  gap: 6px;
  align-items: flex-end;
  font-size: 13px;
}
</style>
