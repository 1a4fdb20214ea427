<script setup lang="ts">
import type { ConnectionOrder } from '../../../core/connect'
import type { BranchSettings } from '../../../core/units'
import {
  endOfJumper,
  isEarthMarked,
  takeOff,
  type AsFoundBox,
  type LightLoad,
  type Observation,
  type PlannedDevice,
  type TestedLight,
  type WireReading,
  type WireTest,
  type WiringPlan,
} from '../../../core/wiring'
import type { Mate } from '../../../core/job/box-bench'
import { sketchOf } from '../../../core/wiring/sketch'

/** One box on the bench: find out what each conductor is, lay the new wiring, see what it will do. */
const props = withDefaults(
  defineProps<{
    name: string
    found: AsFoundBox
    readings: WireReading[]
    devices: PlannedDevice[]
    plan: WiringPlan | null
    loads: LightLoad[]
    options: { order: ConnectionOrder; metric: boolean; gauge: string }
    observed: Observation[]
    /** Functional tests of the points this box feeds, and those points, to say which conductor feeds which. */
    tested?: TestedLight[]
    points?: { id: string; name: string }[]
    connectors?: BranchSettings['connectors']
    /** What is chosen for the other location of a 3-way. */
    otherLocation?: 'companion' | 'partner' | null
    /** The other boxes of its group, with their plans: all are proven as one wiring. */
    mates?: Mate[]
    /** Takes the readings by itself: the simulated meter. */
    meter?: (tests: WireTest[]) => Promise<WireReading[]>
    /** Why tests with the power off, or on, may not be made now; empty: they may. */
    deadNo?: string[]
    liveNo?: string[]
    /** Why nothing may be laid or noted here; empty: it may. */
    layNo?: string[]
    /** What of this box may be why nothing fits. */
    stopHints?: string[]
    busy?: boolean
    /** Numbers of the box’s breakers that are closed now; unsaid: as at the last reading. */
    on?: string[]
  }>(),
  {
    connectors: () => [],
    tested: () => [],
    points: () => [],
    otherLocation: null,
    mates: () => [],
    meter: undefined,
    deadNo: () => [],
    liveNo: () => [],
    layNo: () => [],
    on: undefined,
    stopHints: () => [],
  },
)
const emit = defineEmits<{ read: [readings: WireReading[]]; plan: [plan: WiringPlan | null]; observe: [rows: Observation[]] }>()
const { t } = useTrade()

const looksOnly = computed(() => props.layNo.length > 0)
/** The conductors are off the old switches: it is not asked again to read with them attached. */
const apart = ref(false)
/** Every conductor is known: as the newest answer said. The next question depends on it, so it stands before. */
const known = ref(false)
const { picked, held, draft, change, lay, pick, place } = usePlacing({
  plan: () => props.plan,
  layable: () => layable.value,
  busy: () => props.busy ?? false,
  reading: () => !known.value,
  looksOnly: () => looksOnly.value,
  store: (plan) => emit('plan', plan),
})
const energised = computed(() => (props.on ?? props.readings.at(-1)?.closed ?? []).length > 0)
const pair = computed<[string, string] | null>(() => (picked.value.length ? [picked.value[0]!, picked.value[1] ?? 'REF'] : null))
/** Where the probes are held at the new wiring. */
const probing = ref({ a: '', b: 'REF' })
const {
  answer,
  thinking,
  failed,
  again: computeAgain,
} = useWiring(() => ({
  found: props.found,
  readings: props.readings,
  energised: energised.value,
  apart: apart.value,
  devices: props.devices,
  plan: props.plan,
  loads: props.loads,
  options: props.options,
  observed: props.observed,
  tested: props.tested,
  otherLocation: props.otherLocation,
  name: props.name,
  mates: props.mates,
  // Only read while the roles are open: a conductor in the hand is no question.
  pair: known.value ? null : pair.value,
  probed: known.value && probing.value.a ? [probing.value.a, probing.value.b] : null,
}))
const findings = computed(() => answer.value?.findings ?? null)
const next = computed(() => (answer.value && !answer.value.advice.done ? answer.value.advice.next : null))
/** Why the next readings may not be made now. */
const nextNo = computed(() => {
  if (!next.value) return []
  if (!next.value.energised) return props.deadNo
  const { closed } = next.value.tests[0]!
  const differs = props.on !== undefined && [...props.on].sort().join() !== [...closed].sort().join()
  return differs ? [...props.liveNo, `These readings need ${closed.join(' and ')} closed and the others open.`] : props.liveNo
})
const stopped = computed(() => findings.value?.state === 'stop')
watch(answer, (now) => (known.value = now?.known ?? false))
const laid = computed(() => draft.value ?? props.plan ?? answer.value?.plan ?? null)
/** Only proposed: no record has it, and nobody has changed it here. */
const proposed = computed(() => props.plan === null && draft.value === null && known.value && !looksOnly.value)
const wrongTogether = computed(() =>
  answer.value?.together?.kind === 'proven' ? answer.value.together.verdicts.filter(({ severity }) => severity === 'block') : [],
)
const blocked = computed(
  () => wrongTogether.value.length > 0 || (answer.value?.verification?.verdicts.some(({ severity }) => severity === 'block') ?? true),
)
/** What may be laid anew: nothing while the roles are open, or by whoever only looks. */
const layable = computed(() => (known.value && !looksOnly.value ? laid.value : null))
const count = computed(() => props.found.cables.reduce((sum, cable) => sum + cable.cores.length, 0))
const sentence = computed(() => {
  const found = findings.value
  if (!found) return 'Looking at the box …'
  if (stopped.value) return 'Stop: no known arrangement fits these readings.'
  if (known.value) return `All ${count.value} conductors are known.`
  if (found.state === 'odd') return 'One reading fits nothing, or two disagree. Read it again.'
  const settled = `${found.wires.filter((wire) => wire.settled || wire.joint).length} of ${count.value} conductors are settled`
  if (answer.value?.advice.done) return `${settled}; no further reading helps.`
  return `${settled}${found.whole ? `, ${counted(found.left, 'arrangement')} left` : ''}.`
})

const sketch = computed(() => t(sketchOf(props.found, findings.value, props.devices, laid.value)))

/** The proposal again; what feeds which point stays said. */
function again() {
  const feeds = laid.value?.feeds ?? []
  change(feeds.length && answer.value?.proposal ? { ...answer.value.proposal, feeds } : null)
}
function connect(index: number, listing: { holds: number | null; connector?: string }) {
  change({
    ...laid.value!,
    splices: laid.value!.splices.map((splice, at) => (at === index ? { letters: splice.letters, ...listing } : splice)),
  })
}
/** The simulated meter is at it; a second tap is no second reading. */
const metering = ref(false)
async function simulate(tests: WireTest[]) {
  if (metering.value || !props.meter) return
  metering.value = true
  try {
    emit('read', await props.meter(tests))
  } finally {
    metering.value = false
  }
}
function read(test: WireTest, value: number | null) {
  if (props.meter) void simulate([test])
  else emit('read', [{ ...test, value: value! }])
}

/** The sheet below the verdicts comes piece by piece. */
const stage = useStages(() => known.value && answer.value?.verification !== null, 5)
const box = ref<{ drawing: SVGSVGElement | null } | null>(null)
const labels = computed(() => sketch.value.conductors.map(({ letter, cable, word }) => ({ letter, cable, word: word ?? '' })))
</script>

<template>
  <div class="workspace">
    <section class="picture" aria-label="The wiring">
      <slot name="head" />
      <WiringBoxSketch
        ref="box"
        class="drawing"
        :label="`${name}: ${counted(count, 'conductor')}`"
        v-bind="sketch"
        :capped="laid?.capped ?? []"
        :selected="picked"
        :held="held"
        :movable="!looksOnly"
        @pick="pick"
        @place="place"
        @drop="lay"
      />
      <div v-if="layable && picked.length === 1" class="row wrap held">
        <span
          ><b class="mono">{{ picked[0] }}</b> selected. Tap a terminal, a splice or another conductor.</span
        >
        <UButton @click="lay(picked[0]!, { kind: 'cap' })">Cap {{ picked[0] }}</UButton>
        <UButton variant="ghost" @click="change(takeOff(layable, picked[0]!))">Take {{ picked[0] }} off</UButton>
        <UButton variant="ghost" @click="picked = []">Deselect</UButton>
      </div>
      <div v-if="held" class="row wrap held">
        <span
          >A jumper from <b>{{ t(endOfJumper(held, devices.length)) }}</b>: tap another terminal or a conductor.</span
        >
        <UButton variant="ghost" @click="held = null">Deselect</UButton>
      </div>
      <p v-else-if="known && looksOnly" class="note">{{ t(layNo.join(' ')) }}</p>
      <p v-else-if="layable && !picked.length" class="soft small">Tap a conductor to place it, or a terminal to start a jumper.</p>
      <WiringPapers
        :name="name"
        :drawing="box?.drawing ?? null"
        :labels="labels"
        :found="found"
        :readings="readings"
        :plan="laid"
        :findings="findings"
      />
    </section>

    <div class="right">
      <JobDock>
        <slot name="asks" />
        <p class="sentence-small" role="status" data-testid="wiring-sentence">{{ sentence }}</p>
        <CommonFailed v-if="failed" :busy="thinking" @again="computeAgain" />
        <!-- What has to be done before the next readings may be made. -->
        <slot v-if="next && nextNo.length" name="before" :next="next" />
        <UButton v-if="next?.tests[0]!.old && nextNo.length && $slots.before" variant="link" class="self-start" @click="apart = true"
          >The conductors are off the old switch already</UButton
        >
        <WiringNextTest
          v-if="next && (!nextNo.length || !$slots.before)"
          :next="next"
          :energised="energised"
          :simulated="meter !== undefined"
          :no="nextNo"
          :busy="busy"
          @simulate="simulate(next.tests)"
          @store="emit('read', $event)"
          @apart="apart = true"
        />
        <WiringNothingFits v-else-if="stopped" :findings="findings" :hints="stopHints" />
        <slot v-else-if="known" name="known" :findings="findings" />
        <template v-if="answer?.verification && laid && proposed">
          <fieldset :disabled="looksOnly" class="contents">
            <div class="stack" data-testid="accept-plan">
              <p><b>This is a proposal. Nothing is planned yet.</b> The steps at the box follow from a plan that somebody has confirmed.</p>
              <p v-if="blocked" class="small warn">There is a problem with it: change it first.</p>
              <JobAct :disabled="blocked" @click="change(laid)">Use this plan</JobAct>
            </div>
          </fieldset>
        </template>
        <slot v-else-if="answer?.verification && laid" name="laid" :blocked="blocked" />
      </JobDock>
      <section class="side" aria-label="What is known">
        <slot name="power" />
        <p v-if="next && nextNo.length && $slots.before" class="soft small">Then: {{ next.title }}.</p>
        <WiringPairProbe
          v-if="pair && !known"
          :key="found.farSwitches"
          :pair="pair"
          :expected="answer?.expected ?? null"
          :found="found"
          :simulated="meter !== undefined"
          :dead-no="deadNo"
          :live-no="liveNo"
          :busy="busy"
          @read="read"
        />
        <WiringSettled v-if="findings" :findings="findings" :known="known" />
        <template v-if="answer?.verification && laid">
          <!-- Whoever only looks sees every choice, and can make none. -->
          <fieldset v-if="stage > 0" :disabled="looksOnly" class="contents">
            <WiringPlanSheet
              :stage="stage"
              :verification="answer.verification"
              :plan="laid"
              :gangs="devices.length"
              :found="found"
              :findings="findings!"
              :devices="devices"
              :lights="answer.lights"
              :points="points"
              :connectors="connectors"
              :gauge="options.gauge"
              @reset="again"
              @connect="connect"
              @change="change"
              ><template #together><WiringTogether v-if="answer.together" :together="answer.together" /></template
            ></WiringPlanSheet>
          </fieldset>
          <WiringProbes
            v-if="stage > 3"
            v-model="probing"
            :ends="answer.ends"
            :probed="answer.probed"
            :nominal-volts="found.nominalVolts"
          />
          <fieldset v-if="stage > 4" :disabled="looksOnly" class="contents">
            <WiringFunctions
              :table="answer.verification.table"
              :lights="answer.lights"
              :observed="answer.observed"
              :tested="answer.tested"
              :diagnosis="answer.diagnosis"
              :circuits="found.circuits"
              :busy="busy"
              @observe="emit('observe', $event)"
              ><slot name="try" :plan="laid" :table="answer.verification.table" :lights="answer.lights"
            /></WiringFunctions>
          </fieldset>
        </template>
        <WiringReadingList v-if="readings.length" :readings="readings" />
        <slot name="end" />
        <p v-if="thinking" class="soft small" role="status">Computing …</p>
        <p class="soft small">
          Colours only order the checks{{
            sketch.conductors.some((one) => isEarthMarked(one.colour)) ? '; an earth mark is believed until a reading contradicts it' : ''
          }}. A line or neutral counts as established only when no single wrong reading could change it. This supports your tester and
          licence. It replaces neither.
        </p>
      </section>
    </div>
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
  /* The drawing stays in sight beside a long sheet. */
  position: sticky;
  top: var(--bars, 52px);
  align-self: start;
}
.drawing {
  max-height: calc(100dvh - 198px - var(--bars, 52px));
}
.right {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  min-width: 0;
}
.side {
  padding: 16px 18px 40px;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.sentence-small {
  font-size: 17px;
  font-weight: 640;
}
.held {
  border: 2px solid var(--copper);
  border-radius: 5px;
  padding: 8px 12px;
}
@media (max-width: 900px) {
  .workspace {
    display: flex;
    flex-direction: column;
  }
  .picture {
    position: static;
    align-self: stretch;
    padding: 10px 8px;
  }
  .drawing {
    max-height: none;
  }
  .right {
    display: contents;
  }
  .side {
    padding: 12px 16px;
  }
}
</style>
