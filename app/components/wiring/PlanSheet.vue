<script setup lang="ts">
import { terminalWords } from '../../../core/connect'
import type { BranchSettings } from '../../../core/units'
import {
  keepOldSwitch,
  knownCables,
  otherLocations,
  otherLocationWords,
  namedRules,
  placeOf,
  wholeChain,
  type Findings,
  type AsFoundBox,
  type PlannedDevice,
  type Verification,
  type WiringPlan,
} from '../../../core/wiring'

/** What the wiring will do as it is drawn, what else belongs to it outside of the drawing, and how it is connected. */
const props = defineProps<{
  verification: Verification
  plan: WiringPlan
  gangs: number
  found: AsFoundBox
  findings: Findings
  devices: PlannedDevice[]
  lights: { id: string; letter: string; motor?: boolean }[]
  points: { id: string; name: string }[]
  /** The branch's connectors, and the gauge here. */
  connectors: BranchSettings['connectors']
  gauge: string
  /** How much of the sheet may be shown by now: verdicts, around, connections. */
  stage: number
}>()
const emit = defineEmits<{
  reset: []
  connect: [index: number, splice: { holds: number | null; connector?: string }]
  change: [plan: WiringPlan]
}>()
const { t } = useTrade()
const marks = { good: '✓', warn: '!', block: '✕' }
const listings = computed(() => [
  { label: 'listing not looked up', value: '-' },
  ...props.connectors.map(({ name, holds }) => ({
    label: holds[props.gauge] ? `${name}, holds ${holds[props.gauge]}` : `${name}: not listed for ${props.gauge}`,
    value: `its ${name}`,
    disabled: !holds[props.gauge],
  })),
  ...[2, 3, 4, 5, 6, 8].map((count) => ({ label: `listed for ${count}`, value: String(count) })),
])
const listingOf = (splice: WiringPlan['splices'][number]) =>
  splice.connector ? `its ${splice.connector}` : splice.holds === null ? '-' : String(splice.holds)
function connect(index: number, choice: string) {
  const connector = props.connectors.find(({ name }) => choice === `its ${name}`)
  emit(
    'connect',
    index,
    connector ? { holds: connector.holds[props.gauge]!, connector: connector.name } : { holds: Number(choice) || null },
  )
}

const oldSwitches = computed(() => props.found.oldSwitches.flatMap((old, index) => (old.contacts === 'other' ? [] : [index + 1])))
const listens = computed(() => props.devices.some((device) => device.model.inputs.length > 0))
/** Other locations that the cables of this box lead to. */
const places = computed(() =>
  props.plan.devices.length ? (knownCables(props.found, props.findings) ?? []).flatMap((cable) => placeOf(cable) ?? []) : [],
)
const nameOfPlace = (far: number) => (far === wholeChain ? 'Last location of the chain' : `Other location ${far + 1}`)
const stateOf = (far: number) => props.plan.elsewhere.find((other) => other.far === far)
const becomesItems = otherLocations.map((value) => ({ value, label: t(otherLocationWords[value]) }))
function setOtherLocation(place: (typeof places.value)[number], change: Partial<WiringPlan['elsewhere'][number]>) {
  const { far, through, sense, neutral } = place
  const before = stateOf(far) ?? { far, becomes: 'asItWas' as const, through, sense, neutral }
  const next = { ...before, ...change }
  emit('change', {
    ...props.plan,
    elsewhere: [...props.plan.elsewhere.filter((other) => other.far !== place.far), next].sort((a, b) => a.far - b.far),
  })
}
const orNone = (letter: string) => (letter === '-' ? null : letter)
const letterItems = (letters: string[]) => [{ value: '-', label: 'none' }, ...letters.map((letter) => ({ value: letter, label: letter }))]

const senders = computed(() =>
  props.devices
    .filter((device) => device.model.signals === 'relays')
    .flatMap((device) => device.model.inputs.map((input) => ({ gang: device.gang, input: input.terminal }))),
)
const relayItems = computed(() => [
  { value: '-', label: 'switched from this box' },
  ...senders.value.map(({ gang, input }) => ({
    value: `${gang} ${input}`,
    label: `relay at the fixture, answers to ${t(terminalWords[input])}`,
  })),
])
function setRelay(letter: string, choice: string) {
  const sender = senders.value.find(({ gang, input }) => `${gang} ${input}` === choice)
  const others = props.plan.fixtureRelays.filter((relay) => relay.letter !== letter)
  emit('change', { ...props.plan, fixtureRelays: sender ? [...others, { letter, ...sender }] : others })
}
const relayOf = (letter: string) => {
  const relay = props.plan.fixtureRelays.find((one) => one.letter === letter)
  return relay ? `${relay.gang} ${relay.input}` : '-'
}
const pointItems = computed(() => [{ value: '-', label: 'not said' }, ...props.points.map(({ id, name }) => ({ value: id, label: name }))])
function setFeed(letter: string, pointId: string) {
  const others = props.plan.feeds.filter((feed) => feed.letter !== letter && feed.pointId !== pointId)
  emit('change', { ...props.plan, feeds: pointId === '-' ? others : [...others, { letter, pointId }] })
}
const rest = computed(() => listens.value || places.value.length || senders.value.length || props.points.length)
</script>

<template>
  <div class="rule pt-3 stack" data-testid="verdicts">
    <h2 class="kicker">If wired as drawn</h2>
    <p v-for="verdict in verification.verdicts" :key="verdict.text" class="verdict" :class="verdict.severity">
      <span aria-hidden="true">{{ marks[verdict.severity] }}</span> {{ t(verdict.text) }}
      <span v-if="verdict.rule" class="soft small" :title="t(namedRules[verdict.rule])">{{ verdict.rule }}</span>
    </p>
    <p class="soft small">{{ counted(verification.states, 'combination') }} solved. Local code and the maker’s diagram decide.</p>
    <slot name="together" />
    <UButton variant="ghost" class="self-start" @click="emit('reset')">Start again from the proposal</UButton>
  </div>
  <div v-if="rest && stage > 1" class="rule pt-3 stack" data-testid="around">
    <h2 class="kicker">Around this box</h2>
    <template v-if="listens">
      <!-- Its name said outright: else the box reads it off the page, which lays all of it out anew. -->
      <UCheckbox
        v-for="old in oldSwitches"
        :key="old"
        :aria-label="`Old switch ${old} stays and signals a device`"
        :model-value="plan.kept.some((one) => one.old === old)"
        :label="`Old switch ${old} stays and signals a device`"
        @update:model-value="(stays: boolean | 'indeterminate') => emit('change', keepOldSwitch(plan, old, stays === true))"
      />
    </template>
    <template v-for="place in places" :key="place.far">
      <WiringChoice
        :value="stateOf(place.far)?.becomes ?? 'asItWas'"
        :items="becomesItems"
        :spoken="nameOfPlace(place.far)"
        @choose="setOtherLocation(place, { becomes: $event })"
        >{{ places.length > 1 || place.far === wholeChain ? nameOfPlace(place.far) : 'Other location' }}</WiringChoice
      >
      <template v-if="(stateOf(place.far)?.becomes ?? 'asItWas') !== 'asItWas'">
        <WiringChoice
          :value="stateOf(place.far)!.through ?? '-'"
          :items="letterItems(place.letters)"
          :spoken="`Spliced to the common of ${nameOfPlace(place.far).toLowerCase()}`"
          @choose="setOtherLocation(place, { through: orNone($event) })"
          >common with</WiringChoice
        >
        <WiringChoice
          :value="stateOf(place.far)!.sense ?? '-'"
          :items="letterItems(place.letters)"
          :spoken="`Signal conductor of ${nameOfPlace(place.far).toLowerCase()}`"
          @choose="setOtherLocation(place, { sense: orNone($event) })"
          >signal on</WiringChoice
        >
      </template>
    </template>
    <template v-if="senders.length">
      <WiringChoice
        v-for="light in lights"
        :key="light.id"
        :value="relayOf(light.letter)"
        :items="relayItems"
        :spoken="`How the light on ${light.letter} is switched`"
        @choose="setRelay(light.letter, $event)"
        >Light on {{ light.letter }}</WiringChoice
      >
    </template>
    <template v-if="points.length">
      <WiringChoice
        v-for="light in lights"
        :key="`feeds ${light.id}`"
        :value="plan.feeds.find((feed) => feed.letter === light.letter)?.pointId ?? '-'"
        :items="pointItems"
        :spoken="`Point that ${light.letter} feeds`"
        @choose="setFeed(light.letter, $event)"
        >{{ light.letter }} feeds</WiringChoice
      >
    </template>
    <ul v-if="verification.elsewhere.length" class="list">
      <li v-for="line in verification.elsewhere" :key="line">{{ line }}</li>
    </ul>
  </div>
  <div v-if="stage > 2" class="rule pt-3 stack">
    <h2 class="kicker">Connect, in the company’s order</h2>
    <ol class="list">
      <li v-for="one in verification.connections" :key="`${one.part} ${one.terminal}`">
        {{ gangs > 1 && one.gang ? `Gang ${one.gang}: ` : '' }}{{ t(one.text) }}
      </li>
      <li v-if="plan.capped.length">Cap {{ plan.capped.join(', ') }}.</li>
    </ol>
    <WiringChoice
      v-for="(splice, index) in plan.splices"
      :key="splice.letters.join()"
      :value="listingOf(splice)"
      :items="listings"
      :spoken="`Listing of the connector on ${splice.letters.join(', ')}`"
      @choose="connect(index, $event)"
      >On <b class="mono">{{ splice.letters.join(' + ') }}</b></WiringChoice
    >
    <h2 class="kicker">Pigtails and jumpers to cut</h2>
    <ul class="list">
      <li v-for="pigtail in verification.pigtails" :key="pigtail.use">
        {{ pigtail.colour }}, {{ pigtail.gauge }}, {{ pigtail.length }}: {{ pigtail.use }}
      </li>
      <li v-if="!verification.pigtails.length" class="soft">none</li>
    </ul>
  </div>
</template>

<style scoped>
.verdict.good {
  color: var(--petrol);
  font-weight: 640;
}
.verdict.warn {
  color: var(--amber);
}
.verdict.block {
  color: var(--live);
  font-weight: 640;
}
.list {
  padding-left: 18px;
  list-style: decimal;
  display: grid;
  gap: 4px;
}
ul.list {
  list-style: square;
}
</style>
