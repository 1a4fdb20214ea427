<script setup lang="ts">
import { boxesOfJob } from '../../../../core/job'
import { canClose, feedIsUnknown, inPanelOrder, sameFeeds, type Belief } from '../../../../core/site'

/** One at the panel, one in the rooms: which breaker feeds what, in as few rounds as can be. */
// A tab that was open under the page's former name goes on.
definePageMeta({ alias: '/jobs/:id()/hunt' })
const { page, job, site, asker, onCrew, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const unsure = computed(() => {
  const state = site.value
  if (!state || !job.value) return []
  return boxesOfJob(job.value, state)
    .filter(feedIsUnknown)
    .map(({ id }) => id)
})
const own = computed(() => (job.value && site.value ? boxesOfJob(job.value, site.value).map(({ id }) => id) : []))
/** The same boxes on every phone: else two people would be given two rounds. */
const all = computed(() => site.value?.huntScope !== undefined)
const boxIds = computed(() => (all.value ? site.value!.huntScope! : unsure.value.length === 0 ? own.value : unsure.value))
const setScope = () => run(() => submitSite({ type: 'scopeTracing', boxIds: all.value ? [] : own.value }))
const takeBack = () => run(() => submitSite({ type: 'takeBackRound', round: site.value!.huntRounds.length }))
const { tracing, thinking, failed, again: computeAgain } = useTracing(site, boxIds)

const next = computed(() => tracing.value?.next ?? null)
const movable = computed(() => tracing.value?.breakers.filter((one) => one.stays === null).map((one) => one.breaker) ?? [])
const staying = computed(() => tracing.value?.breakers.filter((one) => one.stays !== null && one.breaker.role === 'branch') ?? [])
const stateOf = (id: string) => site.value!.breakers[id]!
const numbers = (ids: string[]) =>
  ids
    .map(stateOf)
    .sort(inPanelOrder)
    .map(({ id }) => markOf(site.value!, id))
    .join(', ')
const toOpen = computed(() => (next.value?.open ?? []).filter((id) => stateOf(id).state === 'closed'))
const toClose = computed(() =>
  movable.value.filter((breaker) => stateOf(breaker.id).state !== 'closed' && !next.value?.open.includes(breaker.id)).map(({ id }) => id),
)
const granted = computed(() =>
  Object.values(site.value?.grants ?? {}).filter((permit) => permit.personId === session.viewer?.personId && permit.clearanceId === null),
)
const elsewhere = computed(() =>
  Object.values(site.value?.grants ?? {}).filter((permit) => !granted.value.some((own) => own.id === permit.id)),
)
const set = computed(
  () =>
    next.value !== null && toOpen.value.length === 0 && toClose.value.length === 0 && granted.value.length + elsewhere.value.length === 0,
)
const warnings = computed(() => [
  ...new Set((tracing.value?.breakers ?? []).filter((one) => toOpen.value.includes(one.breaker.id)).flatMap((one) => one.warnings)),
])
const round = computed(() => (site.value?.huntRounds.length ?? 0) + 1)
const beliefs = computed(() => new Map((tracing.value?.beliefs ?? []).map((belief) => [belief.boxId, belief])))
const sentence = computed(() => {
  if (!tracing.value) return t('Looking at the {panel} …')
  if (tracing.value.obstacles.length) return 'Not now.'
  if (!next.value) return site.value!.huntRounds.length ? 'Every feed that can be seen is known.' : 'Nothing to trace here.'
  const what = { find: '', check: ' To make sure.', repeat: ' The same again: what was seen fits nothing.' }[next.value.purpose]
  return `Round ${round.value}: ${numbers(next.value.open)} open, all others closed.${what}`
})

/** Every step of a batch as a command of its own; the first refusal stops it and is shown. */
async function each(ids: string[], command: (id: string) => Parameters<typeof submitSite>[0]) {
  await run(async () => {
    for (const id of ids) {
      const given = await submitSite(command(id))
      if (!given.ok) return given
    }
    return { ok: true, refusal: null }
  })
}
const opened = () => each(toOpen.value, (breakerId) => ({ type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' }))
const askLeave = () => each(toClose.value, (breakerId) => ({ type: 'requestClose', grantId: newId(), breakerId, clearanceId: null }))
const answer = (given: 'closed' | 'givenUp') =>
  each(
    granted.value.map((permit) => permit.id),
    (grantId) => ({ type: 'answerPermit', grantId, answer: given }),
  )

const seen = ref<Record<string, 'on' | 'off' | 'part'>>({})
watch(round, () => (seen.value = {}))
const see = (boxId: string, what: 'on' | 'off' | 'part') => (seen.value = { ...seen.value, [boxId]: what })
const store = () => run(() => submitSite({ type: 'observeRound', seen: seen.value }))
const rooms = computed(() => {
  const state = site.value
  if (!state) return []
  return state.roomOrder
    .map((id) => ({ room: state.rooms[id]!, boxes: boxIds.value.map((box) => state.boxes[box]!).filter((box) => box.roomId === id) }))
    .filter(({ boxes }) => boxes.length)
})
const feedWords = (belief: Belief) =>
  belief.breakerIds.length ? numbers(belief.breakerIds).replace(', ', ' and ') : t('none of these {breakers}')
function words(belief: Belief | undefined): string {
  if (!belief) return 'nothing seen yet'
  if (belief.status === 'odd') return 'what was seen fits nothing: look again'
  if (belief.status === 'open') {
    const fits = belief.candidates.map((one) => (one.breakerIds.length ? numbers(one.breakerIds).replace(', ', ' and ') : 'none of them'))
    const some = fits.slice(0, 4)
    const rest = fits.length - some.length
    return `${t('{breaker}')} ${some.slice(0, -1).join(', ')}${some.length > 1 ? `${rest ? ',' : ' or'} ` : ''}${some.at(-1)}${rest ? ` or one of ${rest} more` : ''}`
  }
  return `${belief.status === 'confirmed' ? 'confirmed' : 'seen once'}: ${feedWords(belief)}`
}
const differs = (belief: Belief | undefined) => {
  if (!belief || (belief.status !== 'found' && belief.status !== 'confirmed')) return false
  const box = site.value!.boxes[belief.boxId]!
  return box.unknownFeed !== (belief.breakerIds.length === 0) || !sameFeeds(box.breakerIds, belief.breakerIds)
}
const write = (belief: Belief) =>
  run(() =>
    submitSite({
      type: 'setFeeds',
      boxId: belief.boxId,
      breakerIds: belief.breakerIds,
      unknownFeed: belief.breakerIds.length === 0,
      basis: `seen in ${site.value!.huntRounds.length} rounds of openings, ${belief.status}`,
    }),
  )
const mayCloseAll = computed(() => toClose.value.every((id) => canClose(site.value!, id, asker.value).yes))
useHead({ title: () => (page.value ? `What feeds what · ${page.value.site.name}` : 'What feeds what') })
</script>

<template>
  <div v-if="site && job" class="whole">
    <div class="tracing">
      <header>
        <h1 class="sentence mb-1" data-testid="tracing-sentence">{{ sentence }}</h1>
        <p class="soft small">
          {{
            t(
              'One stands at the {panel}, one in the rooms with every lamp on. Nobody on a ladder, nobody at a saw: call out each round before it begins. A lamp tells which {breaker}; it never tells that a box is dead.',
            )
          }}
        </p>
      </header>
      <CommonFailed v-if="failed" :busy="thinking" @again="computeAgain" />
      <ul v-if="tracing?.obstacles.length" class="note amber" data-testid="obstacles">
        <li v-for="obstacle in tracing.obstacles" :key="obstacle">{{ t(obstacle) }}</li>
      </ul>
      <div class="row wrap">
        <UButton
          v-if="onCrew && unsure.length && unsure.length < job.boxIds.length"
          :aria-pressed="all"
          :loading="busy"
          @click="setScope"
          >{{ all ? `Only the ${unsure.length} without a known feed` : 'All boxes of the job' }}</UButton
        >
        <UButton :to="`/jobs/${job.jobId}/directory`" variant="link">{{ t('{Panel} directory') }}</UButton>
      </div>

      <section class="stack" aria-label="In the rooms">
        <h2 class="kicker">In the rooms</h2>
        <div v-for="{ room, boxes } in rooms" :key="room.id">
          <h3 class="room">{{ room.name }}</h3>
          <div v-for="box in boxes" :key="box.id" class="box" :data-testid="`tracing-${box.name}`">
            <p>
              <b>{{ box.name }}</b><br /><span class="small" :class="beliefs.get(box.id)?.status === 'odd' ? 'bad' : 'soft'">{{
                words(beliefs.get(box.id))
              }}</span>
            </p>
            <div v-if="set && !tracing?.obstacles.length" class="row" role="group" :aria-label="`Lamp of ${box.name}`">
              <UButton
                v-for="what in box.gangs > 1 ? (['on', 'off', 'part'] as const) : (['on', 'off'] as const)"
                :key="what"
                size="xl"
                :variant="seen[box.id] === what ? 'solid' : 'outline'"
                :aria-pressed="seen[box.id] === what"
                @click="see(box.id, what)"
                >{{ what === 'part' ? 'some off' : what }}</UButton
              >
            </div>
            <UButton v-else-if="differs(beliefs.get(box.id))" :loading="busy" @click="write(beliefs.get(box.id)!)"
              >Record: {{ feedWords(beliefs.get(box.id)!) }}</UButton
            >
          </div>
        </div>
        <UButton v-if="onCrew && site.huntRounds.length" variant="link" class="self-start" :loading="busy" @click="takeBack"
          >Round {{ site.huntRounds.length }} was seen wrong: undo it</UButton
        >
      </section>
    </div>
    <JobDock wide>
      <PowerAsks answers-itself />
      <section
        v-if="tracing && !tracing.obstacles.length && (next || toClose.length || granted.length) && onCrew"
        class="stack"
        :aria-label="t('At the {panel}')"
      >
        <h2 class="kicker">{{ t('At the {panel}') }}</h2>
        <p v-if="offline" class="note amber">{{ t('Circuit tracing needs a connection: {breakers} close again only with a permit.') }}</p>
        <template v-else>
          <p v-if="warnings.length" class="note hot">
            <b>Before {{ numbers(toOpen) }}:</b> {{ t(warnings.join('; ')) }}.
          </p>
          <UButton v-if="toOpen.length" variant="solid" size="xl" block :loading="busy" @click="opened"
            >I opened {{ numbers(toOpen) }}</UButton
          >
          <UButton v-if="toClose.length && !granted.length" size="xl" block :loading="busy" :disabled="!mayCloseAll" @click="askLeave"
            >Ask to close {{ numbers(toClose) }}</UButton
          >
          <template v-if="granted.length">
            <p class="note red">
              <b>{{ numbers(granted.map((permit) => permit.breakerId)) }} may be closed now and count as live.</b>
            </p>
            <div class="row wrap">
              <UButton variant="solid" size="xl" :loading="busy" @click="answer('closed')">They are closed</UButton
              ><UButton :loading="busy" @click="answer('givenUp')">Not closed, still open</UButton>
            </div>
          </template>
          <p v-for="permit in elsewhere" :key="permit.id" class="note amber">
            {{ permit.name }} may be closing {{ numbers([permit.breakerId]) }} right now.
          </p>
          <p v-if="set" class="good">
            <b>{{ t('The {panel} is as this round wants it.') }}</b> Now look at the lamps.
          </p>
        </template>
        <CommonRefusal :refusal="refusal" />
        <p v-if="staying.length" class="soft small">
          These stay as they are: {{ staying.map((one) => `${markOf(site!, one.breaker.id)} (${t(one.stays)})`).join(', ') }}.
        </p>
      </section>

      <JobAct v-if="set && !tracing?.obstacles.length" :loading="busy" :disabled="Object.keys(seen).length === 0" @click="store"
        >Store what I see ({{ Object.keys(seen).length }} of {{ boxIds.length }})</JobAct
      >
    </JobDock>
  </div>
</template>

<style scoped>
.whole {
  display: flex;
  flex-direction: column;
  flex: 1;
}
.tracing {
  max-width: 760px;
  width: 100%;
  margin: 0 auto;
  padding: 16px 22px 24px;
  display: grid;
  gap: 18px;
}
.room {
  font-weight: 680;
  padding-top: 10px;
}
.box {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  padding: 9px 0;
  border-bottom: 1px solid var(--line);
}
@media (max-width: 560px) {
  .tracing {
    padding: 12px 14px 16px;
  }
}
</style>
