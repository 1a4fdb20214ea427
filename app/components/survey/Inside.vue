<script setup lang="ts">
import {
  boxFaults,
  boxFaultWords,
  connectorKinds,
  connectorWords,
  groundFinds,
  groundWords,
  holdKinds,
  holdWords,
  neutralFinds,
  neutralWords,
  plateKinds,
  plateWords,
  type BoxFault,
  type BoxState,
  type Noted,
  type SurveyCable,
} from '../../../core/site'
import type { BoxSurvey } from '../../../core/site/state'
import { usualCables } from '../../../core/survey'
import { boxSizes, metalBoxVolumesIn3 } from '../../../core/fit'
import { isEarthMarked } from '../../../core/units'

/** What is behind the plate: its size, its cables, a neutral, a ground. The rest opens below. */
const props = defineProps<{ box: BoxState; survey: BoxSurvey }>()
const emit = defineEmits<{ note: [make: () => Noted] }>()
const { scheme } = injectJobRecord()
const { t, number } = useTrade()
/** What is seen inside, made when its turn comes. */
const note = (make: () => Noted) => emit('note', () => ({ looked: 'inside', ...make() }))

/** Two boxes of one volume are one choice. */
const isFirst = <T extends { value: number }>(one: T, index: number, all: T[]) =>
  all.findIndex(({ value }) => value === one.value) === index
/** Volumes and depths that are on sale; of metal boxes those of NEC table 314.16(A). Common practice, no source; what is marked in the box counts. */
const session = useSession()
const sizes = computed(() => {
  // What the company has on its list comes first; of what is in other walls the usual ones.
  const metal = props.box.material === 'metal' || props.survey.kind === 'fixture' || props.survey.kind === 'junction'
  const listed = boxSizes(session.parts, scheme.value.id, props.box.gangs, metal)
  const unit = scheme.value.id === 'iec230' ? 'mm' : 'in³'
  if (listed.length && !(metal && scheme.value.id === 'na120')) return listed.map((value) => ({ value, label: `${number(value)} ${unit}` }))
  if (scheme.value.id === 'iec230') return [16, 25, 35, 47].map((value) => ({ value, label: `${value} mm` }))
  if (metal)
    return metalBoxVolumesIn3
      .map(({ trade, volumeIn3 }) => ({ value: volumeIn3, label: `${trade}: ${number(volumeIn3)} in³` }))
      .filter(isFirst)
  const volumes = props.box.gangs === 1 ? [12.5, 14, 18, 20.3, 22.5] : props.box.gangs === 2 ? [25, 32, 34, 42] : [44, 54, 60, 68]
  return volumes.map((value) => ({ value, label: `${number(value)} in³` }))
})
const size = computed(() => (scheme.value.id === 'iec230' ? props.box.depthMm : props.box.volumeIn3))
const typed = ref('')
const sized = (value: number) => note(() => (scheme.value.id === 'iec230' ? { depthMm: value } : { volumeIn3: value }))
const noSize = ref(false)
function sizeTyped() {
  if (!typed.value.trim()) return
  const value = typedNumber(typed.value)
  noSize.value = !(value > 0)
  // What is no number stays where it was typed.
  if (noSize.value) return
  sized(value)
  typed.value = ''
}
const cables = computed(() => props.survey.cables ?? [])
const taps = computed(() => t(usualCables[scheme.value.id]))
const nameOf = (one: SurveyCable) =>
  taps.value.find(
    ({ cable }) =>
      JSON.stringify(cable.colours) === JSON.stringify(one.colours) && cable.gaugeAwg === one.gaugeAwg && cable.areaMm2 === one.areaMm2,
  )?.label ?? `${one.colours.length} conductors`
function addCable(cable: SurveyCable) {
  const hasEarth = cable.colours.some((colour) => isEarthMarked(colour))
  note(() => ({ cables: [...cables.value, cable], ...(hasEarth && !props.survey.ground ? { ground: 'conductor' as const } : {}) }))
}
const dropCable = (index: number) => note(() => ({ cables: cables.value.filter((_, at) => at !== index) }))
const stranded = (index: number) =>
  note(() => ({ cables: cables.value.map((one, at) => (at === index ? { ...one, stranded: !one.stranded } : one)) }))

const faults = computed(() => props.survey.faults ?? [])
function fault(is: BoxFault) {
  emit('note', () => {
    const rest = faults.value.filter((one) => one.is !== is)
    return { faults: rest.length < faults.value.length ? rest : [...rest, { is, then: 'open' }] }
  })
}
const offer = (is: BoxFault, then: 'offered' | 'declined') =>
  emit('note', () => ({ faults: faults.value.map((one) => (one.is === is ? { is, then } : one)) }))
const old = computed(() => props.survey.old ?? [])
const holds = computed(() => old.value[0]?.holds ?? undefined)
const clamps = computed({
  get: () => props.box.internalClamps,
  set(value) {
    const more = value - props.box.internalClamps
    note(() => ({ internalClamps: Math.min(8, Math.max(0, props.box.internalClamps + more)) }))
  },
})
const fittings = computed({
  get: () => props.survey.supportFittings ?? 0,
  set(value) {
    const more = value - (props.survey.supportFittings ?? 0)
    note(() => ({ supportFittings: Math.min(4, Math.max(0, (props.survey.supportFittings ?? 0) + more)) }))
  },
})
/** Whole centimetres, or inches, are what anybody measures there. */
const lengths = computed(() =>
  scheme.value.id === 'iec230'
    ? [60, 80, 100, 150].map((value) => ({ value, label: value === 150 ? '150 mm or more' : `${value} mm` }))
    : [2, 3, 4, 5, 6].map((inches) => ({ value: Math.round(inches * 25.4), label: inches === 6 ? '6 in or more' : `${inches} in` })),
)
const splices = computed(() => props.survey.splices ?? [])
const connectors = connectorKinds.map((value) => ({ value, label: connectorWords[value] }))
const splice = reactive({ conductors: 3, freePorts: 0 })
const onward = ref(props.survey.onward ?? '')
const finish = ref(props.survey.finish ?? '')
const list = <T extends string>(values: readonly T[], words: Record<T, string>) =>
  t(values.map((value) => ({ value, label: words[value] })))
</script>

<template>
  <section class="inside" aria-label="Inside">
    <p class="kicker">Inside, nothing touched</p>
    <div class="row wrap">
      <CommonToggles spoken="Its size" :items="sizes" :chosen="size ?? undefined" @choose="sized" />
      <form class="row" @submit.prevent="sizeTyped">
        <UInput
          v-model="typed"
          inputmode="decimal"
          class="num"
          :aria-label="scheme.id === 'iec230' ? 'Another depth, mm' : 'Another volume, in³'"
          :placeholder="size && !sizes.some((one) => one.value === size) ? number(size) : 'other'"
          @change="sizeTyped"
        />
      </form>
      <span v-if="noSize" class="bad small" role="alert">{{
        scheme.id === 'iec230' ? 'A depth is a number of mm.' : 'A volume is a number of in³.'
      }}</span>
    </div>
    <div class="row wrap" role="group" aria-label="Cables that enter">
      <UButton v-for="tap in taps" :key="tap.id" size="md" icon="i-lucide-plus" @click="addCable(tap.cable)">{{ tap.label }}</UButton>
    </div>
    <ul v-if="cables.length" class="cables" aria-label="Cables in it">
      <li v-for="(one, index) in cables" :key="index" class="row">
        <span class="grow"
          ><b>{{ nameOf(one) }}</b> <span class="soft">{{ one.colours.map((colour) => colour.replace('-', '/')).join(', ') }}</span></span
        >
        <CommonToggles
          spoken="Stranded"
          :items="[{ value: 'yes', label: 'stranded' }]"
          :chosen="one.stranded ? 'yes' : undefined"
          @choose="stranded(index)"
        />
        <UButton icon="i-lucide-x" variant="ghost" square :aria-label="`Take ${nameOf(one)} off`" @click="dropCable(index)" />
      </li>
    </ul>
    <CommonToggles
      spoken="Neutral"
      :items="list(neutralFinds, neutralWords)"
      :chosen="survey.neutral"
      @choose="note(() => ({ neutral: $event }))"
    />
    <CommonToggles
      :spoken="t('{Ground}')"
      :items="list(groundFinds, groundWords)"
      :chosen="survey.ground"
      @choose="note(() => ({ ground: $event }))"
    />
    <p v-if="survey.neutral === 'here'" class="soft small">Seen is not told: whose neutral it is, the bench finds out by live readings.</p>
    <details>
      <summary class="opens">Material, clamps, splices, plate, what is wrong</summary>
      <div class="more">
        <CommonToggles
          spoken="Material"
          :items="[
            { value: 'plastic', label: 'plastic' },
            { value: 'metal', label: 'metal' },
          ]"
          :chosen="box.material"
          @choose="note(() => ({ material: $event as 'plastic' | 'metal' }))"
        />
        <div class="row wrap">
          <SurveyStepper v-model="clamps" :min="0" :max="8" word="clamp" />
          <SurveyStepper
            v-if="scheme.id === 'na120'"
            v-model="fittings"
            :min="0"
            :max="4"
            word="fitting"
            spoken="Support fittings (stud, hickey)"
          />
        </div>
        <CommonToggles
          v-if="old.length"
          spoken="How the old device holds its conductors"
          :items="list(holdKinds, holdWords)"
          :chosen="holds"
          @choose="note(() => ({ old: old.map((one) => ({ ...one, holds: $event })) }))"
        />
        <div>
          <p class="kicker">Shortest free end, from where it leaves its cable</p>
          <CommonToggles
            spoken="Shortest free end"
            :items="lengths"
            :chosen="survey.freeLengthMm ?? undefined"
            @choose="note(() => ({ freeLengthMm: $event }))"
          />
        </div>
        <div>
          <p class="kicker">Splices</p>
          <ul>
            <li v-for="(one, index) in splices" :key="index" class="row">
              <span class="grow"
                >{{ connectorWords[one.connector] }}: {{ counted(one.conductors, 'conductor') }},
                {{ counted(one.freePorts, 'free port') }}</span
              >
              <UButton
                icon="i-lucide-x"
                variant="ghost"
                square
                aria-label="Take the splice off"
                @click="note(() => ({ splices: splices.filter((_, at) => at !== index) }))"
              />
            </li>
          </ul>
          <div class="row wrap">
            <SurveyStepper v-model="splice.conductors" :min="2" :max="8" word="conductor" />
            <SurveyStepper v-model="splice.freePorts" :min="0" :max="6" word="free port" />
            <CommonToggles
              spoken="Add a splice"
              :items="connectors"
              :chosen="undefined"
              @choose="note(() => ({ splices: [...splices, { connector: $event, ...splice }] }))"
            />
          </div>
        </div>
        <CommonToggles
          spoken="Plate"
          :items="list(plateKinds, plateWords)"
          :chosen="survey.plate"
          @choose="emit('note', () => ({ plate: $event }))"
        />
        <UFormField label="Finish of the row"
          ><UInput v-model="finish" placeholder="white" maxlength="40" @change="emit('note', () => ({ finish: finish.trim() || null }))"
        /></UFormField>
        <UFormField label="Fed onward from here" help="Tested again when the work is done."
          ><UInput v-model="onward" placeholder="socket below" maxlength="120" @change="note(() => ({ onward: onward.trim() || null }))"
        /></UFormField>
        <CommonToggles
          spoken="What is wrong"
          :items="list(boxFaults, boxFaultWords)"
          :chosen="faults.map((one) => one.is)"
          @choose="fault"
        />
        <p v-for="one in faults" :key="one.is" class="row wrap">
          <span class="grow">{{ t(boxFaultWords[one.is]) }}</span>
          <CommonToggles
            :spoken="`${t(boxFaultWords[one.is])}: then`"
            :items="[
              { value: 'offered', label: 'offer to mend' },
              { value: 'declined', label: 'declined' },
            ]"
            :chosen="one.then"
            @choose="offer(one.is, $event as 'offered' | 'declined')"
          />
        </p>
      </div>
    </details>
  </section>
</template>

<style scoped>
.inside,
.more {
  display: grid;
  gap: 10px;
  justify-items: start;
}
.more {
  padding-top: 10px;
}
.num {
  width: 96px;
}
.cables {
  width: 100%;
}
.cables li {
  border-bottom: 1px solid var(--line);
}
</style>
