<script setup lang="ts">
import type { ConnectionOrder } from '../../../core/connect'
import { terminalWords } from '../../../core/connect'
import type { ConductorColour } from '../../../core/safety'
import {
  isEarthMarked,
  outcomeOf,
  outcomeWords,
  wireRoleShort,
  wireRoleWords,
  type FoundBox,
  type LightLoad,
  type Observation,
  type PlannedDevice,
  type WireReading,
  type WireTest,
  type WiringPlan,
} from '../../../core/wiring'
import type { SketchTarget } from './BoxSketch.vue'

/** One box on the bench: find out what each conductor is, lay the new wiring, see what it will do. */
const props = defineProps<{
  name: string
  found: FoundBox
  readings: WireReading[]
  devices: PlannedDevice[]
  plan: WiringPlan | null
  loads: LightLoad[]
  options: { order: ConnectionOrder; metric: boolean; gauge: string }
  observed: Observation[]
  /** Takes the readings by itself: the simulated meter. */
  meter?: (tests: WireTest[]) => WireReading[]
  /** Why tests with the power off, or on, may not be made now; empty: they may. */
  deadNo?: string[]
  liveNo?: string[]
  busy?: boolean
}>()
const emit = defineEmits<{ read: [readings: WireReading[]]; plan: [plan: WiringPlan | null]; observe: [rows: Observation[]] }>()

const picked = ref<string[]>([])
const energised = computed(() => (props.readings.at(-1)?.closed.length ?? 0) > 0)
const pair = computed<[string, string] | null>(() =>
  picked.value.length === 2 ? [picked.value[0]!, picked.value[1]!] : picked.value.length === 1 ? [picked.value[0]!, 'REF'] : null,
)
const { answer, thinking } = useWiring(() => ({
  found: props.found,
  readings: props.readings,
  energised: energised.value,
  devices: props.devices,
  plan: props.plan,
  loads: props.loads,
  options: props.options,
  observed: props.observed,
  pair: pair.value,
}))
const findings = computed(() => answer.value?.findings ?? null)
const next = computed(() => (answer.value && !answer.value.advice.done ? answer.value.advice.next : null))
const settledCount = computed(() => findings.value?.wires.filter((wire) => wire.settled || wire.joint).length ?? 0)
const letters = computed(() => props.found.cables.flatMap((cable) => cable.cores.map((core) => core.letter)))
const stopped = computed(() => findings.value?.state === 'stop')
const known = computed(() => answer.value?.known ?? false)
const sentence = computed(() => {
  const found = findings.value
  if (!found) return 'Looking at the box …'
  if (stopped.value) return 'Stop: nothing that is known fits these readings.'
  if (known.value) return `All ${letters.value.length} conductors are known.`
  if (found.state === 'odd') return 'One reading fits nothing: read it again.'
  if (answer.value?.advice.done) return `${settledCount.value} of ${letters.value.length} conductors are settled; the meter tells no more.`
  return `${settledCount.value} of ${letters.value.length} conductors are settled${found.whole ? `, ${found.left} arrangement${found.left === 1 ? '' : 's'} left` : ''}.`
})
const wordOf = (letter: string) => {
  const wire = findings.value?.wires.find((one) => one.letter === letter)
  if (stopped.value || !wire) return null
  const here = wire.settled ?? wire.joint
  return here ? `${wireRoleShort[here.role]}${here.circuit && props.found.circuits.length > 1 ? ` ${here.circuit}` : ''}` : null
}
const conductors = computed(() =>
  props.found.cables.flatMap((cable) =>
    cable.cores.map((core) => ({
      letter: core.letter,
      colour: core.colour as ConductorColour,
      cable: cable.id,
      word: wordOf(core.letter),
    })),
  ),
)
const laid = computed(() => answer.value?.plan ?? null)
const splices = computed(() => laid.value?.splices.map((splice) => splice.letters) ?? props.found.splices)
const sketchDevices = computed(() =>
  props.devices.map((device) => ({
    gang: device.gang,
    name: device.name,
    note: props.devices.length > 1 ? `gang ${device.gang}` : '',
    chosen: true,
    terminals: device.model.terminals.map((key) => ({
      key,
      word: terminalWords[key],
      letters: laid.value?.devices.find((one) => one.gang === device.gang)?.terminals[key] ?? [],
      done: false,
    })),
  })),
)

function pick(letter: string) {
  if (picked.value.includes(letter)) picked.value = picked.value.filter((one) => one !== letter)
  else if (known.value && picked.value.length === 1) lay(picked.value[0]!, { kind: 'letter', letter })
  else picked.value = [...picked.value.slice(-1), letter]
}
function place(target: SketchTarget) {
  if (known.value && picked.value.length === 1) lay(picked.value[0]!, target)
}
/** Lays a conductor somewhere, and takes it off where it was. */
function lay(letter: string, target: SketchTarget) {
  if (!laid.value || !known.value) return
  const copy = JSON.parse(JSON.stringify(laid.value)) as WiringPlan
  const inSplice = copy.splices.find((splice) => splice.letters.includes(letter))
  copy.capped = copy.capped.filter((one) => one !== letter)
  const offTerminals = () => {
    for (const device of copy.devices)
      for (const [key, on] of Object.entries(device.terminals))
        device.terminals[key as keyof typeof device.terminals] = on!.filter((one) => one !== letter)
  }
  if (target.kind === 'terminal') {
    const device = copy.devices.find((one) => one.gang === target.gang)!
    const key = target.key as keyof typeof device.terminals
    const on = device.terminals[key] ?? []
    if (on.includes(letter)) device.terminals[key] = on.filter((one) => one !== letter)
    else {
      // A conductor in a splice stands for a pigtail: it may feed several terminals.
      if (!inSplice) offTerminals()
      device.terminals[key] = [...on.filter((one) => !copy.splices.some((splice) => splice.letters.includes(one))), letter]
    }
  } else {
    offTerminals()
    if (inSplice) inSplice.letters = inSplice.letters.filter((one) => one !== letter)
    if (target.kind === 'splice') copy.splices[target.index]?.letters.push(letter)
    else if (target.kind === 'letter') {
      const there = copy.splices.find((splice) => splice.letters.includes(target.letter))
      if (there) there.letters.push(letter)
      else {
        copy.capped = copy.capped.filter((one) => one !== target.letter)
        copy.splices.push({ letters: [target.letter, letter], holds: null })
      }
    } else copy.capped.push(letter)
  }
  copy.splices = copy.splices.filter((splice) => splice.letters.length > 1)
  picked.value = []
  emit('plan', copy)
}
function takeOff() {
  const letter = picked.value[0]!
  const copy = JSON.parse(JSON.stringify(laid.value)) as WiringPlan
  for (const device of copy.devices)
    for (const [key, on] of Object.entries(device.terminals))
      device.terminals[key as keyof typeof device.terminals] = on!.filter((one) => one !== letter)
  copy.splices = copy.splices
    .map((splice) => ({ ...splice, letters: splice.letters.filter((one) => one !== letter) }))
    .filter((splice) => splice.letters.length > 1)
  copy.capped = copy.capped.filter((one) => one !== letter)
  picked.value = []
  emit('plan', copy)
}
function setHolds(index: number, holds: number | null) {
  const copy = JSON.parse(JSON.stringify(laid.value)) as WiringPlan
  copy.splices[index]!.holds = holds
  emit('plan', copy)
}

/** Entering what was read. */
const entries = ref<Record<string, string>>({})
const key = (test: WireTest) => `${test.a} ${test.b}`
watch(
  () => next.value?.tests.map((test) => `${key(test)} ${test.kind} ${test.closed.join()} ${test.far.join()}`).join(';'),
  () => (entries.value = {}),
)
const no = computed(() => (next.value ? ((next.value.energised ? props.liveNo : props.deadNo) ?? []) : []))
const complete = computed(
  () => next.value?.tests.every((test) => entries.value[key(test)] !== undefined && entries.value[key(test)] !== '') ?? false,
)
const ohmsOf: Record<string, number> = { 1: 0.3, 2: 300, 4: 1e9 }
const continuityChoices = Object.entries(outcomeWords.continuity).map(([bit, label]) => ({ value: String(ohmsOf[bit]), label }))
function store() {
  if (!next.value) return
  emit(
    'read',
    next.value.tests.map((test) => ({ ...test, value: Number(String(entries.value[key(test)]).replace(',', '.')) })),
  )
}
const fillRest = (value: string) => {
  for (const test of next.value?.tests ?? []) entries.value[key(test)] ??= value
}
const invalid = computed(() =>
  Object.values(entries.value).some((value) => value !== '' && !Number.isFinite(Number(String(value).replace(',', '.')))),
)
const simulate = () => next.value && props.meter && emit('read', props.meter(next.value.tests))
const endWord = (end: string) => (end === 'REF' ? 'ground' : end)
const valueWord = (reading: WireReading) =>
  reading.kind === 'continuity'
    ? reading.value >= 50_000
      ? 'open'
      : `${reading.value < 10 ? reading.value.toFixed(1) : Math.round(reading.value)} Ω`
    : reading.kind === 'voltage'
      ? `${reading.value.toFixed(1)} V`
      : outcomeWords.contactless[outcomeOf('contactless', reading.value, 1)]!

/** Free tests at a pair somebody points at. */
const freeKind = ref<'continuity' | 'voltage'>('continuity')
const freeFar = ref<number[]>([])
watch(
  () => props.found.farSwitches,
  (count) => (freeFar.value = Array.from({ length: count }, () => 0)),
  { immediate: true },
)
const freeValue = ref('')
function readFree() {
  if (!pair.value) return
  const test: WireTest = {
    kind: freeKind.value,
    a: pair.value[0],
    b: pair.value[1],
    closed: freeKind.value === 'voltage' ? props.found.circuits : [],
    far: [...freeFar.value],
  }
  if (props.meter) emit('read', props.meter([test]))
  else emit('read', [{ ...test, value: Number(freeValue.value.replace(',', '.')) }])
  freeValue.value = ''
}
const freeNo = computed(() => (freeKind.value === 'voltage' ? props.liveNo : props.deadNo) ?? [])

/** What each light did. */
const lightWords = ['on', 'off', 'glow'] as const
const seen = ref<Record<string, string>>({})
const rowKey = (row: { positions: Record<string, number> }) => JSON.stringify(row.positions)
watch(
  () => props.observed,
  (rows) => {
    for (const row of rows)
      for (const [light, word] of Object.entries(row.lights)) seen.value[`${rowKey(row)} ${light}`] = row.trips.length ? 'trips' : word
  },
  { immediate: true },
)
function observe() {
  const table = answer.value?.verification?.table ?? []
  const rows = table.flatMap((row): Observation[] => {
    const lights = Object.keys(row.lights)
    const words = lights.map((light) => seen.value[`${rowKey(row)} ${light}`])
    if (words.some((word) => !word)) return []
    const trips = words.includes('trips')
    return [
      {
        positions: row.positions,
        lights: Object.fromEntries(lights.map((light, index) => [light, trips ? 'off' : (words[index] as 'on')])),
        trips: trips ? [props.found.circuits[0]!] : [],
      },
    ]
  })
  emit('observe', rows)
}
const lightName = (id: string) => {
  const light = answer.value?.lights.find((one) => one.id === id)
  return light ? `light on ${light.letter}` : id
}
const sketch = ref<{ drawing: SVGSVGElement | null } | null>(null)
const box = computed(() => ({ name: props.name, found: props.found, readings: props.readings, plan: laid.value }))
const findingsByLetter = computed(() => Object.fromEntries(findings.value?.wires.map((wire) => [wire.letter, wire]) ?? []))
const save = (what: 'drawing' | 'labels' | 'data') => {
  if (what === 'drawing' && sketch.value?.drawing) saveText(`${props.name}.svg`, 'image/svg+xml', standaloneSvg(sketch.value.drawing))
  if (what === 'labels')
    saveText(
      `${props.name} labels.svg`,
      'image/svg+xml',
      labelSheet(
        props.name,
        conductors.value.map(({ letter, cable, word }) => ({ letter, cable, word: word ?? '' })),
      ),
    )
  if (what === 'data')
    saveText(
      `${props.name}.json`,
      'application/json',
      JSON.stringify({ format: 'circuitry-wiring', version: 1, ...box.value, findings: findings.value }, null, 2),
    )
}
</script>

<template>
  <div class="workspace">
    <section class="picture" aria-label="The wiring">
      <slot name="head" />
      <WiringBoxSketch
        ref="sketch"
        class="drawing"
        :label="`${name}: ${letters.length} conductors`"
        :conductors="conductors"
        :splices="splices"
        :capped="laid?.capped ?? []"
        :devices="sketchDevices"
        :selected="picked"
        movable
        @pick="pick"
        @place="place"
        @drop="lay"
      />
      <div v-if="known && picked.length === 1" class="row wrap held">
        <span
          ><b class="mono">{{ picked[0] }}</b> is in your hand: tap a terminal, a splice or another conductor.</span
        >
        <UButton @click="lay(picked[0]!, { kind: 'cap' })">Cap {{ picked[0] }}</UButton>
        <UButton variant="ghost" @click="takeOff">Take {{ picked[0] }} off</UButton>
        <UButton variant="ghost" @click="picked = []">Put it down</UButton>
      </div>
      <div class="row wrap">
        <UButton variant="ghost" icon="i-lucide-image-down" @click="save('drawing')">Drawing (SVG)</UButton>
        <UButton variant="ghost" icon="i-lucide-tags" @click="save('labels')">Label sheet (SVG)</UButton>
        <UButton variant="ghost" icon="i-lucide-braces" @click="save('data')">Wiring (JSON)</UButton>
      </div>
      <slot name="below" />
    </section>

    <section class="side" aria-label="What to do next" aria-live="polite">
      <p class="sentence-small" data-testid="wiring-sentence">{{ sentence }}</p>
      <slot name="power" />

      <div v-if="next" class="stack" data-testid="next-test">
        <p class="kicker">
          {{
            next.purpose === 'repeat'
              ? 'Read again'
              : next.purpose === 'confirm'
                ? 'Confirm'
                : next.purpose === 'cover'
                  ? 'So that a surprise shows'
                  : 'Next best test'
          }}
        </p>
        <h2 class="next-title">{{ next.title }}</h2>
        <p>{{ next.how }}</p>
        <p class="soft small">
          {{ next.bits > 0 ? `Tells ${next.bits.toFixed(1)} bit · ` : ''
          }}{{ next.energised ? (energised ? 'power is on already' : 'needs the power on') : 'no power needed' }} · about
          {{ Math.max(1, Math.round(next.minutes)) }} min
        </p>
        <p v-for="reason in no" :key="reason" class="note amber">{{ reason }}</p>
        <template v-if="meter">
          <UButton variant="solid" size="xl" block :disabled="no.length > 0" @click="simulate">{{
            next.tests.length > 1 ? `Take the ${next.tests.length} readings` : 'Put the probes there'
          }}</UButton>
        </template>
        <template v-else>
          <div v-for="test in next.tests" :key="key(test)" class="entry">
            <b class="mono">{{ test.a }}–{{ endWord(test.b) }}</b>
            <div v-if="test.kind === 'continuity'" class="choices" role="group" :aria-label="`${test.a} to ${endWord(test.b)}`">
              <button
                v-for="choice in continuityChoices"
                :key="choice.value"
                type="button"
                :aria-pressed="entries[key(test)] === choice.value"
                @click="entries[key(test)] = choice.value"
              >
                {{ choice.label.split(',')[0] }}
              </button>
            </div>
            <UInput
              v-else
              v-model="entries[key(test)]"
              inputmode="decimal"
              placeholder="volts"
              :aria-label="`${test.a} to ${endWord(test.b)}, volts`"
              class="w-28"
            />
          </div>
          <UButton
            v-if="next.tests.length > 1"
            variant="ghost"
            class="self-start"
            @click="fillRest(next.tests[0]!.kind === 'continuity' ? String(1e9) : '0')"
            >{{ next.tests[0]!.kind === 'continuity' ? 'All others are open' : 'All others read nothing' }}</UButton
          >
          <UButton variant="solid" size="xl" block :loading="busy" :disabled="!complete || invalid || no.length > 0" @click="store"
            >Store {{ next.tests.length === 1 ? 'the reading' : `${next.tests.length} readings` }}</UButton
          >
        </template>
        <dl v-if="next.meanings.length" class="meanings small">
          <template v-for="meaning in next.meanings" :key="meaning.outcome"
            ><dt>{{ meaning.outcome }}</dt>
            <dd class="soft">{{ meaning.means }}</dd></template
          >
        </dl>
      </div>
      <div v-else-if="stopped" class="note red stack" data-testid="wiring-stop">
        <p><b>Nothing in the list of arrangements fits. Do not wire this box by guess.</b></p>
        <p v-if="findings?.odd.length">
          Odd: {{ findings.odd.map((reading) => `${reading.a} to ${endWord(reading.b)} ${valueWord(reading)}`).join('; ') }}. Read it again;
          if it stays so, call the licensed lead.
        </p>
        <p v-else>Read the oddest ones again; if they stay so, call the licensed lead.</p>
      </div>
      <slot v-else-if="known" name="known" :findings="findings" :plan="laid" />

      <div v-if="pair && !known" class="stack note" data-testid="pair">
        <b>{{ pair[0] }} to {{ endWord(pair[1]) }}</b>
        <p class="small">
          The meter should show, dead: {{ answer?.expected?.dead.join(' or ') || 'nothing that fits' }}; live:
          {{ answer?.expected?.live.join(' or ') || 'nothing that fits' }}.
        </p>
        <div class="row wrap">
          <div class="choices" role="group" aria-label="Kind of test">
            <button type="button" :aria-pressed="freeKind === 'continuity'" @click="freeKind = 'continuity'">continuity</button>
            <button type="button" :aria-pressed="freeKind === 'voltage'" @click="freeKind = 'voltage'">voltage</button>
          </div>
          <div v-for="(_, index) in freeFar" :key="index" class="choices" role="group" :aria-label="`Other switch ${index + 1}`">
            <button type="button" :aria-pressed="freeFar[index] === 0" @click="freeFar[index] = 0">up</button>
            <button type="button" :aria-pressed="freeFar[index] === 1" @click="freeFar[index] = 1">down</button>
          </div>
        </div>
        <p v-for="reason in freeNo" :key="reason" class="small warn">{{ reason }}</p>
        <div class="row">
          <UInput
            v-if="!meter"
            v-model="freeValue"
            inputmode="decimal"
            :placeholder="freeKind === 'continuity' ? 'ohms; open: 999999' : 'volts'"
            aria-label="Reading"
          />
          <UButton
            :disabled="freeNo.length > 0 || (!meter && !Number.isFinite(Number(freeValue.replace(',', '.') || NaN)))"
            :loading="busy"
            @click="readFree"
            >{{ meter ? 'Read it' : 'Store it' }}</UButton
          >
        </div>
      </div>

      <details class="rule pt-3" :open="!known">
        <summary class="kicker">What is settled</summary>
        <ul class="settled" data-testid="settled">
          <li v-for="wire in findings?.wires ?? []" :key="wire.letter">
            <b class="mono">{{ wire.letter }}</b>
            <span v-if="wire.settled && !stopped" class="grow"
              >{{ wireRoleWords[wire.settled.role] }}{{ wire.settled.circuit ? `, circuit ${wire.settled.circuit}` : '' }}</span
            >
            <span v-else-if="wire.joint && !stopped" class="grow"
              >one metal with the {{ wire.joint.role }} of circuit {{ wire.joint.circuit }}</span
            >
            <span v-else class="grow soft">{{
              stopped
                ? 'not established'
                : wire.guesses.length > 3
                  ? 'open'
                  : wire.guesses
                      .map((guess) => wireRoleWords[guess.role])
                      .filter((word, index, all) => all.indexOf(word) === index)
                      .join(' or ')
            }}</span>
            <span class="soft small"
              >{{ wire.readings }} {{ wire.readings === 1 ? 'reading' : 'readings'
              }}{{ findingsByLetter[wire.letter]?.onceMore && !stopped ? ', one more' : '' }}</span
            >
          </li>
        </ul>
      </details>

      <template v-if="answer?.verification && laid">
        <div class="rule pt-3 stack" data-testid="verdicts">
          <h2 class="kicker">If wired as drawn</h2>
          <p v-for="verdict in answer.verification.verdicts" :key="verdict.text" class="verdict" :class="verdict.severity">
            <span aria-hidden="true">{{ verdict.severity === 'good' ? '✓' : verdict.severity === 'warn' ? '!' : '✕' }}</span>
            {{ verdict.text }}
          </p>
          <p class="soft small">{{ answer.verification.states }} combinations solved. Local code and the maker’s diagram decide.</p>
          <UButton variant="ghost" class="self-start" @click="emit('plan', null)">Start from the proposal again</UButton>
        </div>
        <div class="rule pt-3 stack">
          <h2 class="kicker">Connect, in the company’s order</h2>
          <ol class="list">
            <li v-for="one in answer.verification.connections" :key="`${one.gang} ${one.terminal}`">
              {{ devices.length > 1 ? `Gang ${one.gang}: ` : '' }}{{ one.text }}
            </li>
            <li v-if="laid.capped.length">Cap {{ laid.capped.join(', ') }}.</li>
          </ol>
          <div v-for="(splice, index) in laid.splices" :key="splice.letters.join()" class="row">
            <span class="grow"
              >Connector on <b class="mono">{{ splice.letters.join(' + ') }}</b></span
            >
            <USelect
              :model-value="splice.holds ?? 0"
              :items="[
                { label: 'listing not looked up', value: 0 },
                ...[2, 3, 4, 5, 6, 8].map((value) => ({ label: `listed for ${value}`, value })),
              ]"
              :aria-label="`Listing of the connector on ${splice.letters.join(', ')}`"
              @update:model-value="(value: number) => setHolds(index, value || null)"
            />
          </div>
          <h2 class="kicker">Pigtails to cut</h2>
          <ul class="list">
            <li v-for="pigtail in answer.verification.pigtails" :key="pigtail.use">
              {{ pigtail.colour }}, {{ pigtail.gauge }}, {{ pigtail.length }}: {{ pigtail.use }}
            </li>
            <li v-if="!answer.verification.pigtails.length" class="soft">none</li>
          </ul>
        </div>
        <div class="rule pt-3 stack" data-testid="functional">
          <h2 class="kicker">What should happen, and what did</h2>
          <div v-for="row in answer.verification.table" :key="rowKey(row)" class="test-row">
            <span class="small">{{ row.words }}</span>
            <div v-for="(light, id) in row.lights" :key="id" class="row wrap">
              <span class="grow small"
                >{{ lightName(String(id)) }}: <b>{{ row.trips.length ? 'breaker trips' : light }}</b></span
              >
              <div class="choices" role="group" :aria-label="`${lightName(String(id))}, ${row.words}, seen`">
                <button
                  v-for="word in [...lightWords, 'trips']"
                  :key="word"
                  type="button"
                  :aria-pressed="seen[`${rowKey(row)} ${id}`] === word"
                  @click="seen[`${rowKey(row)} ${id}`] = word"
                >
                  {{ word }}
                </button>
              </div>
            </div>
          </div>
          <slot name="try" :plan="laid" :table="answer.verification.table" :lights="answer.lights" />
          <UButton :loading="busy" @click="observe">Explain what was seen</UButton>
          <div v-if="answer.diagnosis" class="stack note" data-testid="diagnosis">
            <b v-if="answer.diagnosis.wiringIsRight"
              >The wiring behaves as planned. If something is still wrong, look at network, device or settings.</b
            >
            <template v-else>
              <div
                v-for="(group, index) in answer.diagnosis.groups.filter((one) => one.share > 0.02).slice(0, 3)"
                :key="index"
                class="stack"
              >
                <b>{{ index + 1 }}. {{ Math.round(group.share * 100) }} %: {{ group.suspects[0]!.words }}</b>
                <span v-if="group.suspects.length > 1" class="small"
                  >or, not to be told apart by these tests:
                  {{
                    group.suspects
                      .slice(1, 5)
                      .map((suspect) => suspect.words)
                      .join('; ')
                  }}</span
                >
                <span v-if="group.check" class="small soft">{{ group.check }}</span>
              </div>
            </template>
          </div>
        </div>
      </template>

      <details v-if="readings.length" class="rule pt-3">
        <summary class="kicker">{{ readings.length }} readings</summary>
        <ul class="list small mono">
          <li v-for="(reading, index) in [...readings].reverse()" :key="index">
            {{ reading.a }}–{{ endWord(reading.b) }} {{ valueWord(reading) }}
            <span class="soft"
              >{{ reading.closed.length ? `${reading.closed.join('+')} on` : 'dead'
              }}{{ reading.far.length ? `, ${reading.far.map((position) => (position ? 'down' : 'up')).join(' ')}` : '' }}</span
            >
          </li>
        </ul>
      </details>
      <slot name="end" />
      <p v-if="thinking" class="soft small" role="status">Computing …</p>
      <p class="soft small">
        Colours only order the checks{{
          conductors.some((one) => isEarthMarked(one.colour))
            ? '; an earth mark is taken for what it says until a reading contradicts it'
            : ''
        }}. A line or neutral counts as established only when no single wrong reading could change it. This supports your tester and
        licence; it replaces neither.
      </p>
    </section>
  </div>
</template>

<style scoped>
.workspace {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 384px;
  min-height: calc(100dvh - 60px);
}
.picture {
  padding: 16px 20px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.drawing {
  max-height: calc(100dvh - 250px);
}
.side {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 16px 18px 40px;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.sentence-small {
  font-size: 17px;
  font-weight: 640;
}
.next-title {
  font-size: 20px;
  font-weight: 680;
  line-height: 1.2;
}
.held {
  border: 2px solid var(--copper);
  border-radius: 5px;
  padding: 8px 12px;
}
.entry {
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
  border-bottom: 1px solid var(--line);
  padding: 4px 0;
}
.choices {
  display: inline-flex;
  flex-wrap: wrap;
}
.choices button {
  min-height: 44px;
  padding: 4px 10px;
  border: 1.5px solid var(--ink);
  margin-left: -1.5px;
  background: var(--sheet);
  color: var(--ink);
  font-size: 14px;
}
.choices button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
.meanings {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 12px;
}
.meanings dt {
  font-weight: 640;
}
.settled li {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
.verdict.good {
  color: var(--petrol);
  font-weight: 640;
}
.verdict.warn {
  color: var(--amber);
}
.verdict.block {
  color: var(--red);
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
.test-row {
  border-bottom: 1px solid var(--line);
  padding: 4px 0;
}
@media (max-width: 900px) {
  .workspace {
    display: flex;
    flex-direction: column;
  }
  .picture {
    padding: 10px 8px;
  }
  .drawing {
    max-height: none;
  }
  .side {
    border-left: 0;
    padding: 12px 16px 100px;
  }
}
</style>
