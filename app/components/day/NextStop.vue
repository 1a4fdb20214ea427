<script setup lang="ts">
import { runsLate } from '../../../core/dispatch/promise'
import type { DayVisit, Way } from '../../../core/protocol'
import type { Region } from '~/utils/time'

/** The way to the next home, whether its promise will hold, and the one thing a crew says on its way: that it leaves. */
const props = defineProps<{
  visit: DayVisit
  /** Where they are still at work. */
  at: DayVisit | null
  region: Region
  now: number
}>()
const emit = defineEmits<{ left: [] }>()
const { busy, refusal, run } = useAction()
const way = shallowRef<Way | null>(null)
/** Every few minutes is soon enough. */
const tick = computed(() => Math.floor(props.now / 180_000))
let asked: Promise<void> = Promise.resolve()
watch(
  [() => props.visit.id, () => props.visit.setOffAt, tick],
  () => {
    asked = (async () => {
      const { id } = props.visit
      const answer = await api('GET /api/visits/:id/way', { params: { id } })
      if (answer.ok && props.visit.id === id) way.value = answer.value
    })()
  },
  { immediate: true },
)
/** Said when they left; else as it is worked out now. */
const expectedAt = computed(() => props.visit.expectedAt ?? way.value?.arriveAt ?? null)
const late = computed(() =>
  expectedAt.value ? runsLate(props.visit.windowTo, expectedAt.value) : props.now > Date.parse(props.visit.windowTo),
)
const telling = ref(false)
const minutes = computed(() =>
  way.value?.arriveAt ? Math.max(1, Math.round((Date.parse(way.value.arriveAt) - Date.parse(way.value.leaveAt)) / 60_000)) : null,
)
const inHand = computed(() => way.value !== null && Date.parse(way.value.leaveAt) - props.now > 120_000)
async function leave() {
  const { id: visitId, jobId, startsAt } = props.visit
  const gone = await run(async () => {
    // Who leaves at once is expected at an hour all the same; without a network nobody waits for one.
    if (!way.value) await Promise.race([asked, new Promise((resolve) => setTimeout(resolve, 3_000))])
    return submitJobCommand(jobId, { type: 'setOff', visitId, startsAt, expectedAt: way.value?.arriveAt ?? null })
  })
  if (gone) emit('left')
}
</script>

<template>
  <section class="next" :aria-label="`The way to ${visit.siteName}`">
    <p v-if="visit.setOffAt">
      <b>On the way</b> since {{ clockTime(visit.setOffAt, region)
      }}<template v-if="expectedAt">, there about {{ clockTime(expectedAt, region) }}</template
      >.
    </p>
    <p v-else-if="way?.arriveAt">
      <template v-if="inHand">If you leave {{ way.from }} at {{ clockTime(way.leaveAt, region) }}, you are there about </template>
      <template v-else-if="minutes !== null && way.legs.length"
        >{{ minutes }} min from {{ way.from }}, {{ distanceWords(way.metres, region) }}: there about
      </template>
      <template v-else>There about </template><b>{{ clockTime(way.arriveAt, region) }}</b
      >.
    </p>
    <p v-else-if="way" class="soft">
      {{ way.from ? 'No road of the map leads there: look at the address.' : 'Nobody knows where you begin: the way is not worked out.' }}
    </p>
    <details v-if="way?.legs.length">
      <summary>The way</summary>
      <ol>
        <li v-for="(leg, index) in way.legs" :key="index">{{ legWords(leg, region) }}</li>
      </ol>
    </details>
    <p v-if="late" class="note amber">
      Promised until {{ clockTime(visit.windowTo, region) }}: {{ expectedAt ? 'that will hardly hold' : 'that is over' }}. Tell them before
      they ask.
    </p>
    <div class="row wrap">
      <UButton v-if="at" :to="`/jobs/${at.jobId}`">End the visit at {{ at.siteName }} first</UButton>
      <UButton v-else-if="!visit.setOffAt" variant="solid" size="xl" icon="i-lucide-navigation" :loading="busy" @click="leave"
        >I am leaving</UButton
      >
      <UButton v-if="late || visit.setOffAt" icon="i-lucide-message-square" @click="telling = !telling">Tell the customer</UButton>
      <UButton v-else :to="`/jobs/${visit.jobId}/parts`" icon="i-lucide-package">What to load</UButton>
    </div>
    <CommonRefusal :refusal="refusal" />
    <LazyDayLetter
      v-if="telling"
      :visit-id="visit.id"
      :purposes="late ? ['late', 'onTheWay'] : ['onTheWay', 'late']"
      :region="region"
      :expected-at="expectedAt"
      :four-at="visit.setOffAt ? null : way?.fourAt"
    />
  </section>
</template>

<style scoped>
.next {
  display: grid;
  gap: 10px;
  padding: 0 12px 16px;
  border-bottom: 1px solid var(--line);
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  cursor: pointer;
  text-decoration: underline;
}
ol {
  list-style: decimal;
  padding-left: 22px;
}
</style>
