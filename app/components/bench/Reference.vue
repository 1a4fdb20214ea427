<script setup lang="ts">
import { isEarthMarked } from '../../../core/units'
import {
  breakerName,
  earthBelowOhms,
  inPanelOrder,
  isKnownLive,
  referenceNeutralBelowVolts,
  type BoxState,
  type Proof,
  type ReferenceSeen,
} from '../../../core/site'

/** What the readings are made against, and how it was seen good: before them, and once more after them. */
const props = defineProps<{ box: BoxState; proof: Proof; again: boolean }>()
/** What is typed and not stored yet; it outlives this stage of the proof. */
const typed = defineModel<string>({ required: true })
const { site, scheme, submitSite } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()

const grounds = computed(() => props.box.conductors.filter((conductor) => isEarthMarked(conductor.colour)))
const pick = ref(grounds.value.length ? `letter:${grounds.value[0]!.letter}` : 'wanderLead')
const items = computed(() => [
  ...props.box.conductors.map((conductor) => ({
    label: `${conductor.letter} ${conductor.colour}, ${t('{ground}')} of the box`,
    value: `letter:${conductor.letter}`,
  })),
  { label: 'wander lead from the main earth bar', value: 'wanderLead' },
])
const livePoints = computed(() =>
  Object.values(site.value!.breakers)
    .filter((breaker) => breaker.role === 'branch' && isKnownLive(site.value!, breaker))
    .sort(inPanelOrder),
)
const loads = computed(() => props.proof.instrument.kind !== 'high')
const how = ref<ReferenceSeen['kind']>(loads.value && livePoints.value.length ? 'livePoint' : 'continuity')
const hows = computed(() => [
  { label: 'at a live point', value: 'livePoint', disabled: !loads.value || !livePoints.value.length },
  { label: 'by continuity to the main earth bar', value: 'continuity' },
  { label: 'two earths of different origin', value: 'twoEarths' },
])
const pointId = ref('')
watchEffect(() => {
  if (!livePoints.value.some((breaker) => breaker.id === pointId.value)) pointId.value = livePoints.value[0]?.id ?? ''
})
const second = ref('')
const before = computed(() => (props.again ? (props.proof.reference?.seen ?? null) : null))
const kind = computed(() => before.value?.kind ?? how.value)
const asks = computed(() => {
  const volts = (label: string) => ({ label, unit: 'V' as const })
  const ohms = (label: string) => ({ label, unit: 'Ω' as const })
  if (kind.value === 'livePoint')
    return [
      ...(before.value ? [] : [volts(`Line to neutral there, about ${scheme.value.nominalVolts} V`)]),
      volts('Reference to that line'),
      volts(`Reference to that neutral, below ${referenceNeutralBelowVolts} V`),
    ]
  return [
    ohms(kind.value === 'twoEarths' ? 'From one earth to the other' : 'Reference to the main earth bar'),
    ...(before.value ? [] : [ohms('Of it the leads alone')]),
  ]
})
function seenWith(values: number[]): ReferenceSeen {
  const old = before.value
  if (kind.value === 'livePoint') {
    const known = old?.kind === 'livePoint' ? old : null
    const [lineToNeutral, referenceToLine, referenceToNeutral] = known ? [known.lineToNeutral, ...values] : values
    const breakerId = known?.breakerId ?? pointId.value
    return {
      kind: 'livePoint',
      breakerId,
      name: known?.name ?? `live point on ${breakerName(site.value!, site.value!.breakers[breakerId]!)}`,
      lineToNeutral: lineToNeutral!,
      referenceToLine: referenceToLine!,
      referenceToNeutral: referenceToNeutral!,
    }
  }
  const leadOhms = old && old.kind !== 'livePoint' ? old.leadOhms : values[1]!
  return kind.value === 'twoEarths'
    ? { kind: 'twoEarths', second: old?.kind === 'twoEarths' ? old.second : second.value.trim(), ohms: values[0]!, leadOhms }
    : { kind: 'continuity', ohms: values[0]!, leadOhms }
}
const see = (values: number[]) => {
  const { reference } = props.proof
  const chosen = pick.value.startsWith('letter:')
    ? { reference: 'boxGround' as const, letter: pick.value.slice(7) }
    : { reference: 'wanderLead' as const, letter: null }
  const which = props.again && reference ? { reference: reference.kind, letter: reference.letter } : chosen
  return run(() => submitSite({ type: 'seeReference', proofId: props.proof.id, ...which, seen: seenWith(values), again: props.again }))
}
const name = computed(() => (props.proof.reference?.letter ? `conductor ${props.proof.reference.letter}` : 'the wander lead'))
</script>

<template>
  <div class="stack">
    <template v-if="!again">
      <UFormField label="Reference"><USelect v-model="pick" :items="items" class="w-full" /></UFormField>
      <UFormField label="How it is verified"><USelect v-model="how" :items="hows" class="w-full" /></UFormField>
      <UFormField v-if="how === 'livePoint'" label="Live point: a socket or light on"
        ><USelect
          v-model="pointId"
          :items="livePoints.map((one) => ({ label: `${markOf(site!, one.id)} ${one.labelAsFound}`, value: one.id }))"
          class="w-full"
      /></UFormField>
      <UFormField v-if="how === 'twoEarths'" label="The second earth"
        ><UInput v-model="second" placeholder="water pipe, bare metal"
      /></UFormField>
    </template>
    <p v-else>Look at {{ name }} again: is it still good?</p>
    <p v-if="kind === 'livePoint'" class="soft small">
      {{
        t(
          'Low impedance. Not behind {a rcd}: the tester’s current trips it. Did one trip? Then this says nothing about the reference: verify it by continuity.',
        )
      }}
    </p>
    <p v-else class="soft small">
      This circuit stays off. At most {{ t(`${earthBelowOhms} Ω`) }} besides the leads. Every conductor is still read.
    </p>
    <BenchNumbersInTurn
      v-model="typed"
      :asks="asks"
      :button="again ? 'Still good' : 'The reference is good'"
      :busy="busy"
      :disabled="how === 'twoEarths' && !again && !second.trim()"
      :store="see"
    />
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
