<script setup lang="ts">
import { canClose, circuitTile, inPanelOrder, type CircuitTile } from '../../../../core/site'

/** For whoever stands at the panel: the breakers as they sit in it, big, and what the crew wants of them. */
const { page, job, site, asker, vantage, region, scheme, onCrew, submitSite } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const leave = () => run(() => submitSite({ type: 'leaveSite' }))
const openId = ref<string | null>(null)
const tileOf = (id: string) => circuitTile(site.value!, site.value!.breakers[id]!, asker.value, vantage.value)
const opened = computed(() => (openId.value && site.value?.breakers[openId.value] ? tileOf(openId.value) : null))

interface PanelView {
  id: string
  name: string
  place: string
  mains: CircuitTile[]
  /** Columns as they sit: two with odd and even numbers in the 120/240 V scheme, one rail otherwise. */
  columns: CircuitTile[][]
}
const panels = computed<PanelView[]>(() => {
  const state = site.value
  if (!state) return []
  return Object.values(state.panels).map((panel) => {
    const all = Object.values(state.breakers)
      .filter((breaker) => breaker.panelId === panel.id)
      .sort(inPanelOrder)
    const mains = all.filter((breaker) => breaker.role === 'main').map((breaker) => tileOf(breaker.id))
    const rest = all.filter((breaker) => breaker.role !== 'main').map((breaker) => tileOf(breaker.id))
    // Odd numbers left, even ones right. Common practice, no source.
    const twoColumns = scheme.value.id === 'na120' && rest.filter((tile) => /^\d+$/.test(tile.breaker.number)).length > 3
    const isEven = (tile: CircuitTile) => /^\d+$/.test(tile.breaker.number) && Number(tile.breaker.number) % 2 === 0
    return {
      id: panel.id,
      name: panel.name,
      place: panel.place,
      mains,
      columns: twoColumns ? [rest.filter((tile) => !isEven(tile)), rest.filter(isEven)] : [rest],
    }
  })
})
/** Open, nothing stands against closing, and the job had it opened: what the panel could do next. */
const mayClose = computed(() =>
  Object.values(site.value?.breakers ?? {})
    .filter((breaker) => breaker.state !== 'closed' && canClose(site.value!, breaker.id, asker.value).yes)
    .sort(inPanelOrder),
)
const asks = computed(() => Object.values(site.value?.asks ?? {}))
const sentence = computed(() => {
  const open = asks.value.filter((ask) => ask.kind === 'open').length
  const moments = asks.value.filter((ask) => ask.kind === 'energise')
  if (moments.some((ask) => ask.status !== 'asked')) return 'A circuit is live with boxes open. Open it again as soon as they are done.'
  if (open) return `${open === 1 ? t('One {breaker} is') : t(`${open} {breakers} are`)} to be opened.`
  if (moments.length) return 'Momentary power is requested. It waits until everyone is clear.'
  if (mayClose.value.length)
    return `${mayClose.value.map(({ id }) => markOf(site.value!, id)).join(', ')} may close: everyone is clear. Ask to close before you move the lever.`
  return t('Nothing to do at the {panel} now.')
})
useHead({ title: () => (page.value ? `${t('{Panel}')} · ${page.value.site.name}` : 'Panel') })
</script>

<template>
  <div v-if="site && job" class="panel-page">
    <h1 class="sentence" data-testid="panel-sentence">{{ sentence }}</h1>
    <section v-for="panel in panels" :key="panel.id" :aria-label="panel.name">
      <h2 class="kicker">{{ panel.name }}{{ panel.place ? ` · ${panel.place}` : '' }}</h2>
      <div class="cabinet">
        <button
          v-for="tile in panel.mains"
          :key="tile.breaker.id"
          type="button"
          class="breaker main"
          :class="tile.shape"
          @click="openId = tile.breaker.id"
        >
          <PowerBlade :shape="tile.shape" /><span class="no">{{ tile.breaker.number }}</span
          ><span class="word">{{ tile.word }}</span
          ><span class="tags"><PowerTag v-for="tag in tile.tags" :key="tag.id" :initials="tag.initials" /></span>
        </button>
        <div class="columns" :class="{ two: panel.columns.length > 1 }">
          <div v-for="(column, index) in panel.columns" :key="index" class="column">
            <button
              v-for="tile in column"
              :key="tile.breaker.id"
              type="button"
              class="breaker"
              :class="[tile.shape, { wanted: asks.some((ask) => ask.breakerId === tile.breaker.id) }]"
              :data-testid="`panel-${tile.breaker.number}`"
              @click="openId = tile.breaker.id"
            >
              <PowerBlade :shape="tile.shape" /><span class="no">{{ tile.breaker.number }}</span>
              <span class="text"
                ><span class="word">{{ tile.word }}</span
                ><span class="label">{{ tile.breaker.offLimits ? 'do not open' : tile.breaker.labelAsFound || 'no label' }}</span></span
              >
              <span class="tags"><PowerTag v-for="tag in tile.tags" :key="tag.id" :initials="tag.initials" /></span>
            </button>
          </div>
        </div>
      </div>
    </section>
    <PowerSources />
    <div v-if="onCrew && site.onSite[asker.personId]" class="stack">
      <h2 class="kicker">Leave the site</h2>
      <UButton class="self-start" :loading="busy" @click="leave">I am leaving the site</UButton>
      <CommonRefusal :refusal="refusal" />
    </div>
    <div class="row wrap">
      <UButton :to="`/jobs/${job.jobId}/tracing`">Find what feeds what</UButton
      ><UButton :to="`/jobs/${job.jobId}/directory`" variant="link">{{ t('{Panel} directory') }}</UButton>
    </div>
    <p class="soft small">
      {{ t('The inside of {a panel} and the supply side of the {main} are always live. Nobody reaches in here. State at') }}
      {{ clockTime(vantage.now, region) }}.
    </p>
    <LazyPowerCircuitSheet v-if="opened" :tile="opened" @close="openId = null" />
  </div>
</template>

<style scoped>
.panel-page {
  max-width: 900px;
  margin: 0 auto;
  padding: 16px 22px 32px;
  display: grid;
  gap: 16px;
}
.cabinet {
  border: 1.5px solid var(--ink);
  border-radius: 6px;
  padding: 12px;
  display: grid;
  gap: 10px;
  margin-top: 6px;
  background: var(--paper);
}
.columns {
  display: grid;
  gap: 10px;
}
.columns.two {
  grid-template-columns: minmax(0, 1fr) 9px minmax(0, 1fr);
}
.columns.two::before {
  content: '';
  grid-column: 2;
  grid-row: 1;
  background: var(--copper-bar);
  border-radius: 2px;
}
.columns.two .column:first-of-type {
  grid-column: 1;
  grid-row: 1;
}
.columns.two .column:last-of-type {
  grid-column: 3;
  grid-row: 1;
}
.column {
  display: grid;
  gap: 8px;
  align-content: start;
}
.breaker {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 68px;
  padding: 6px 10px 6px 4px;
  border: 1.5px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  text-align: left;
  min-width: 0;
}
.breaker.main {
  min-height: 76px;
  border-width: 2.5px;
}
.no {
  font: 700 26px var(--font-mono);
  min-width: 2ch;
}
.text {
  display: grid;
  flex: 1;
  min-width: 0;
}
.word {
  font-weight: 680;
  font-size: 13.5px;
}
.label {
  font-size: 12.5px;
  color: var(--soft);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.tags {
  margin-left: auto;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
.live,
.unknown {
  border-color: var(--live);
}
.live .word,
.unknown .word {
  color: var(--live);
}
.open {
  border-style: dashed;
  border-color: var(--amber);
}
.open .word {
  color: var(--amber);
}
.dead {
  border-color: var(--petrol);
  border-bottom-width: 5px;
}
.dead .word {
  color: var(--petrol);
}
.wanted {
  outline: 3px solid var(--copper);
  outline-offset: 1px;
}
@media (max-width: 560px) {
  .panel-page {
    padding: 12px;
  }
  .columns.two .breaker {
    flex-wrap: wrap;
    min-height: 92px;
    align-content: center;
  }
  .columns.two .text {
    flex-basis: 100%;
    order: 4;
    padding-left: 6px;
  }
  .columns.two .word {
    font-size: 12.5px;
  }
}
</style>
