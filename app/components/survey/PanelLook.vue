<script setup lang="ts">
import { inPanelOrder, protections, protectionWords, tagsOn, type Protection } from '../../../core/site'
import { loadOnBreaker } from '../../../core/job'
import { nextBreakerNumber } from '../../../core/survey'

/** A panel as it sits on the wall: its breakers laid one after the other, labels as found. */
const { site, job, asker, submitSite } = injectJobRecord()
const { t, number } = useTrade()
const { busy, refusal, run, inTurn } = useAction()
const panels = computed(() => Object.values(site.value!.panels))
/** Switching points that sit in no panel. */
const outside = 'outside'
const places = computed(() => [
  ...panels.value.map((one) => ({ value: one.id, label: one.name })),
  { value: outside, label: t('outside a {panel}') },
])
const panelId = ref(panels.value[0]?.id ?? '')
watch(panels, (all) => (panelId.value ||= all[0]?.id ?? ''))
const breakers = computed(() =>
  Object.values(site.value!.breakers)
    .filter((breaker) => breaker.panelId === (panelId.value === outside ? null : panelId.value))
    .sort(inPanelOrder),
)
const selected = ref<string | null>(null)
const breaker = computed(() => (selected.value ? (site.value!.breakers[selected.value] ?? null) : null))
const load = computed(() => (breaker.value ? loadOnBreaker(job.value!, site.value!, breaker.value.id) : null))
const label = ref('')
const mark = ref('')
watch(breaker, (one) => {
  label.value = one?.labelAsFound ?? ''
  mark.value = one?.number ?? ''
})
const ratings = computed(() =>
  (site.value!.schemeId === 'na120' ? [15, 20, 30, 50] : [6, 10, 16, 20, 32]).map((value) => ({ value, label: `${number(value)} A` })),
)
const usualAmps = computed(() => breakers.value.filter(({ role }) => role === 'branch').at(-1)?.amps ?? ratings.value[0]!.value)
const kinds = computed(() => t(protections.filter((one) => one !== 'unknown').map((value) => ({ value, label: protectionWords[value] }))))
/** D1, D2 …: as one writes them on a tag. */
const nextDisconnect = computed(() => {
  const taken = Object.values(site.value!.breakers).flatMap(({ panelId: at, number: one }) => (at === null ? [one.toUpperCase()] : []))
  return Array.from({ length: taken.length + 1 }, (_, index) => `D${index + 1}`).find((one) => !taken.includes(one))!
})
async function add() {
  const breakerId = newId()
  const facts = () => ({
    number: panelId.value === outside ? nextDisconnect.value : nextBreakerNumber(site.value!, panelId.value),
    poles: 1,
    amps: usualAmps.value,
    labelAsFound: '',
    protection: 'unknown' as const,
  })
  if (
    await inTurn(() =>
      submitSite({
        type: 'recordBreaker',
        breakerId,
        panelId: panelId.value === outside ? null : panelId.value,
        ...facts(),
        state: 'closed',
      }),
    )
  )
    selected.value = breakerId
}
const correct = (facts: object) => inTurn(() => submitSite({ type: 'correctBreaker', breakerId: breaker.value!.id, ...facts }))
const more = reactive({ open: false, name: '', place: '', fedBy: undefined as string | undefined })
const feeders = computed(() =>
  Object.values(site.value!.breakers)
    .filter((one) => one.role !== 'main' && one.suppliesPanelId === null)
    .sort(inPanelOrder)
    .map((one) => ({ value: one.id, label: markOf(site.value!, one.id) })),
)
async function addPanel() {
  const id = newId()
  const command = { type: 'recordPanel' as const, panelId: id, name: more.name.trim(), place: more.place.trim(), fedBy: more.fedBy ?? null }
  if (!(await run(() => submitSite(command)))) return
  Object.assign(more, { open: false, name: '', place: '', fedBy: undefined })
  panelId.value = id
}
const panelName = ref('')
const panelPlace = ref('')
watch(
  () => site.value!.panels[panelId.value],
  (one) => {
    panelName.value = one?.name ?? ''
    panelPlace.value = one?.place ?? ''
  },
  { immediate: true },
)
const correctPanel = () =>
  run(() =>
    submitSite({ type: 'recordPanel', panelId: panelId.value, name: panelName.value.trim(), place: panelPlace.value.trim(), fedBy: null }),
  )
async function retirePanel(reason: string) {
  const gone = panelId.value
  const ok = await run(() => submitSite({ type: 'retirePanel', panelId: gone, reason }))
  if (ok) panelId.value = panels.value[0]?.id ?? ''
  return ok
}
const unfeed = (reason: string) => run(() => submitSite({ type: 'unfeedPanel', breakerId: breaker.value!.id, reason }))
const fed = computed(() => site.value!.panels[breaker.value?.suppliesPanelId ?? '']?.name ?? null)
async function retire(reason: string) {
  const ok = await run(() => submitSite({ type: 'retireBreaker', breakerId: breaker.value!.id, reason }))
  if (ok) selected.value = null
  return ok
}
</script>

<template>
  <section class="stack" :aria-label="t('{Panels}')">
    <div class="row wrap">
      <CommonToggles v-if="panels.length" :spoken="t('{Panel}')" :items="places" :chosen="panelId" @choose="panelId = $event" />
      <UButton variant="link" @click="more.open = !more.open">{{ t('There is another {panel}') }}</UButton>
    </div>
    <form v-if="more.open" class="note stack" @submit.prevent="addPanel">
      <UFormField label="Called"><UInput v-model="more.name" placeholder="behind the dryer" maxlength="80" /></UFormField>
      <UFormField label="Where"><UInput v-model="more.place" placeholder="mud room" maxlength="80" /></UFormField>
      <UFormField :label="t('The {breaker} that feeds it')" help="Left empty: nobody knows yet. Nothing above it counts as cutting it off.">
        <USelect v-model="more.fedBy" :items="feeders" class="w-full" placeholder="not known" />
      </UFormField>
      <UButton type="submit" :loading="busy" :disabled="!more.name.trim()">{{ t('Record the {panel}') }}</UButton>
    </form>
    <div v-if="panelId" class="slots" role="group" :aria-label="t('{Breakers} as they sit')">
      <button
        v-for="one in breakers"
        :key="one.id"
        type="button"
        class="slot"
        :class="{ main: one.role === 'main' }"
        :aria-pressed="selected === one.id"
        @click="selected = selected === one.id ? null : one.id"
      >
        <b class="mono">{{ one.number }}</b><span>{{ one.amps ? `${number(one.amps)} A` : '' }}</span
        ><span class="as-found">{{ one.labelAsFound || (one.role === 'main' ? '' : 'no label') }}</span>
      </button>
      <button type="button" class="slot next" @click="add">
        + {{ panelId === outside ? nextDisconnect : nextBreakerNumber(site!, panelId) }}
      </button>
    </div>
    <p v-if="panelId" class="soft small">
      {{ t('A {breaker} you add counts as switched on, which is the safe way to be wrong. Found off? Say so on the {panel} page.') }}
    </p>
    <details v-if="panelId && panelId !== outside">
      <summary class="opens">{{ t('Put the {panel} right') }}</summary>
      <form class="row wrap" @submit.prevent="correctPanel">
        <UInput v-model="panelName" :aria-label="t('Name of the {panel}')" maxlength="80" class="grow" />
        <UInput v-model="panelPlace" :aria-label="t('Where the {panel} is')" placeholder="where it is" maxlength="80" class="grow" />
        <UButton type="submit" :loading="busy" :disabled="!panelName.trim()">Store</UButton>
      </form>
      <SurveyTakeOff
        v-if="asker.licensed && !breakers.length"
        class="mt-2"
        :asks="t('Why the {panel} comes off the record')"
        placeholder="it is a meter …"
        :busy="busy"
        :act="retirePanel"
      />
    </details>
    <section v-if="breaker" class="stack one" :aria-label="`${t('{Breaker}')} ${breaker.number}`">
      <p v-if="load && load.amps > 0" class="small" :class="load.fits ? 'soft' : 'bad'">
        {{ number(load.amps, 1) }} A by the points of this job, {{ number(load.counted, 1) }} A counted of {{ number(load.rating) }} A ({{
          site!.schemeId === 'na120' ? 'continuous loads at 125 %, NEC 210.20(A)' : 'Ib ≤ In, IEC 60364-4-43'
        }}){{ load.fits ? '' : ': too much' }}. What else hangs on it is not in this sum.
      </p>
      <div class="row wrap">
        <CommonToggles spoken="Its rating" :items="ratings" :chosen="breaker.amps ?? undefined" @choose="correct({ amps: $event })" />
        <CommonToggles
          spoken="Its poles"
          :items="[1, 2, 3].map((value) => ({ value, label: `${value}-pole` }))"
          :chosen="breaker.poles"
          @choose="correct({ poles: $event })"
        />
        <CommonToggles
          spoken="Its protection"
          :items="kinds"
          :chosen="breaker.protection"
          @choose="correct({ protection: $event as Protection })"
        />
      </div>
      <div class="row wrap">
        <form class="row" @submit.prevent="correct({ number: mark.trim() })">
          <UInput
            v-model="mark"
            class="mark"
            :aria-label="t('Number of the {breaker}')"
            maxlength="12"
            :disabled="tagsOn(site!, breaker.id).length > 0"
          />
          <UButton type="submit" :disabled="!mark.trim() || mark.trim() === breaker.number">Renumber</UButton>
        </form>
        <UInput
          v-model="label"
          class="grow"
          aria-label="Label as found"
          placeholder="label as found, empty if none"
          maxlength="120"
          @change="correct({ labelAsFound: label.trim() })"
        />
      </div>
      <div v-if="fed && breaker.role !== 'main'">
        <p class="soft small">Feeds {{ fed }} on record.</p>
        <SurveyTakeOff
          v-if="asker.licensed"
          :asks="`How you know that it does not feed ${fed}`"
          placeholder="it feeds the oven"
          :busy="busy"
          :act="unfeed"
          >It does not feed {{ fed }}</SurveyTakeOff
        >
      </div>
      <SurveyTakeOff
        v-if="asker.licensed && breaker.role === 'branch'"
        asks="Why it comes off the record"
        placeholder="the slot is empty …"
        :busy="busy"
        :act="retire"
      />
    </section>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.slots {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
  max-width: 520px;
}
.slot {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  padding: 4px 10px;
  border: 1.5px solid var(--soft);
  border-radius: 3px;
  background: var(--sheet);
  text-align: left;
}
.slot.main {
  grid-column: 1 / -1;
  border-width: 3px;
}
.slot.next {
  border-style: dashed;
  color: var(--copper);
  font-weight: 640;
}
.slot[aria-pressed='true'] {
  outline: 2px solid var(--copper);
  outline-offset: 1px;
}
.as-found {
  color: var(--soft);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.one {
  border-left: 3px solid var(--line);
  padding-left: 12px;
}
.mark {
  width: 96px;
}
</style>
