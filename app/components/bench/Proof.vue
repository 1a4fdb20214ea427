<script setup lang="ts">
import { isEarthMarked } from '../../../core/units'
import { judgeReading, pairStatuses, REFERENCE, type BoxState } from '../../../core/safety'

/** Tester, reference, every pair, tester. One reading at a time, judged as it is stored. */
const props = defineProps<{ box: BoxState }>()
const { site, scheme, giveSite } = injectJobRecord()
const session = useSession()
const { busy, refusal, run } = useAction()

const proof = computed(() => {
  const found = props.box.proofId ? site.value!.proofs[props.box.proofId] : null
  return found?.status === 'open' ? found : null
})
const ended = computed(() => {
  const found = props.box.proofId ? site.value!.proofs[props.box.proofId] : null
  return found?.status === 'void' ? found : null
})
const mine = computed(() => proof.value?.personId === session.viewer?.personId)
const pairs = computed(() => (proof.value?.reference ? pairStatuses(site.value!, props.box, proof.value) : []))
const next = computed(() => pairs.value.find((pair) => pair.status !== 'dead') ?? null)
const settled = computed(() => pairs.value.filter((pair) => pair.status === 'dead').length)
const stage = computed(() => (!proof.value ? 1 : !proof.value.reference ? 2 : next.value ? 3 : 4))

const today = new Date().toISOString().slice(0, 10)
const testers = computed(() =>
  session.instruments.filter(
    (instrument) => (instrument.active && instrument.branchId === session.viewer?.branchId) || (instrument.active && session.isOffice),
  ),
)
const instrumentId = useLocalStorage(`circuitry-tester-${session.viewer?.personId}`, '')
const testerItems = computed(() =>
  testers.value.map((instrument) => ({
    label: `${instrument.name} ${instrument.serial}${instrument.calibrationDue < today ? ' (calibration over)' : ''}`,
    value: instrument.id,
    disabled: instrument.calibrationDue < today,
  })),
)
watchEffect(() => {
  if (!testers.value.some((instrument) => instrument.id === instrumentId.value))
    instrumentId.value = testers.value.find((instrument) => instrument.calibrationDue >= today && instrument.kind === 'both')?.id ?? ''
})

const unit = 'provingUnit'
const sourceId = ref(unit)
const sourceItems = computed(() => [
  { label: 'proving unit', value: unit },
  ...Object.values(site.value!.breakers)
    .filter((breaker) => breaker.state === 'closed' && breaker.role === 'branch')
    .map((breaker) => ({
      label: `socket or light on ${breaker.number}${breaker.labelAsFound ? ` (${breaker.labelAsFound})` : ''}`,
      value: breaker.id,
    })),
])
const volts = ref('')
const number = computed(() => (volts.value.trim() === '' ? NaN : Number(volts.value.replace(',', '.'))))
const grounds = computed(() => props.box.conductors.filter((conductor) => isEarthMarked(conductor.colour)))
const referenceKind = ref(grounds.value.length ? `letter:${grounds.value[0]!.letter}` : 'wanderLead')
const referenceItems = computed(() => [
  ...props.box.conductors.map((conductor) => ({
    label: `${conductor.letter} ${conductor.colour}, as ground of the box`,
    value: `letter:${conductor.letter}`,
  })),
  { label: 'wander lead to verified earth', value: 'wanderLead' },
  { label: 'earth bar at the panel', value: 'panelEarth' },
])
const against = ref('known-live socket')
const impedance = ref<'high' | 'low'>('low')
watchEffect(() => {
  const kind = proof.value?.instrument.kind
  if (kind && kind !== 'both') impedance.value = kind
  else if (next.value?.status === 'repeatLow') impedance.value = 'low'
})

const nameOf = (end: string) =>
  end === REFERENCE ? 'reference' : `${end} ${props.box.conductors.find((conductor) => conductor.letter === end)?.colour ?? ''}`
const last = computed(() => proof.value?.readings.at(-1) ?? null)
const lastJudged = computed(() => (last.value ? judgeReading(last.value.volts, last.value.impedance) : null))

/** The keys are free for the next reading at once: digits pressed while this one is on its way are not lost. */
async function send(work: () => ReturnType<typeof giveSite>) {
  if (Number.isNaN(number.value) || busy.value) return
  const typed = volts.value
  const done = run(work)
  volts.value = ''
  if (!(await done) && volts.value === '') volts.value = typed
}
const start = () =>
  send(() =>
    giveSite({
      type: 'startProof',
      proofId: newId(),
      boxId: props.box.id,
      instrumentId: instrumentId.value,
      volts: number.value,
      source:
        sourceId.value === unit
          ? { kind: 'provingUnit', name: 'proving unit' }
          : { kind: 'breaker', breakerId: sourceId.value, name: sourceItems.value.find((item) => item.value === sourceId.value)!.label },
    }),
  )
const see = () =>
  send(() =>
    giveSite({
      type: 'seeReference',
      proofId: proof.value!.id,
      against: against.value,
      volts: number.value,
      ...(referenceKind.value.startsWith('letter:')
        ? { reference: 'boxGround' as const, letter: referenceKind.value.slice(7) }
        : { reference: referenceKind.value as 'wanderLead', letter: null }),
    }),
  )
const read = () =>
  send(() =>
    giveSite({
      type: 'takeReading',
      proofId: proof.value!.id,
      a: next.value!.a,
      b: next.value!.b,
      position: next.value!.position,
      impedance: impedance.value,
      volts: number.value,
    }),
  )
/** All pairs of this position that are still open, walked through in one go with the meter in one hand. */
const oneByOne = ref(false)
const sweepPairs = computed(() => pairs.value.filter((pair) => pair.status === 'missing' && pair.position === next.value?.position))
const sweeping = computed(
  () => !oneByOne.value && sweepPairs.value.length > 1 && next.value?.status === 'missing' && proof.value?.instrument.kind !== 'high',
)
const sweepDead = computed(() => judgeReading(number.value, 'low').verdict === 'dead')
async function sweep() {
  if (Number.isNaN(number.value)) return
  if (!sweepDead.value) {
    oneByOne.value = true
    volts.value = ''
    return
  }
  await send(() =>
    giveSite({
      type: 'sweepReadings',
      proofId: proof.value!.id,
      pairs: sweepPairs.value.map(({ a, b }) => ({ a, b })),
      position: next.value!.position,
      impedance: 'low',
      highestVolts: number.value,
    }),
  )
}
const finish = () => send(() => giveSite({ type: 'finishProof', proofId: proof.value!.id, volts: number.value }))
const giveUp = () => run(() => giveSite({ type: 'abandonProof', proofId: proof.value!.id, reason: 'given up at the box' }))
</script>

<template>
  <div class="stack">
    <p v-if="ended && !proof" class="note amber"><b>The last proof ended.</b> {{ ended.voidReason }}</p>
    <p v-if="proof && !mine" class="note">
      {{ proof.name }} is proving this box: {{ settled }} of {{ pairs.length }} pairs. You can witness it when it is finished.
    </p>
    <template v-else>
      <p class="kicker" data-testid="proof-stage">
        {{
          [
            '',
            '1 of 4 · tester on a known live source',
            '2 of 4 · reference seen good',
            `3 of 4 · reading ${settled + 1} of ${pairs.length}`,
            '4 of 4 · the same tester again',
          ][stage]
        }}
      </p>

      <form v-if="stage === 1" class="stack" @submit.prevent="start">
        <UFormField label="Tester"
          ><USelect v-model="instrumentId" :items="testerItems" class="w-full" placeholder="no tester in the register"
        /></UFormField>
        <UFormField label="Known live source"><USelect v-model="sourceId" :items="sourceItems" class="w-full" /></UFormField>
        <CommonNumberPad v-model="volts" label="It shows" unit="V" @enter="start" />
        <UButton type="submit" variant="solid" size="xl" block :loading="busy" :disabled="!instrumentId || Number.isNaN(number)"
          >The tester works</UButton
        >
      </form>

      <form v-else-if="stage === 2" class="stack" @submit.prevent="see">
        <UFormField label="Reference"><USelect v-model="referenceKind" :items="referenceItems" class="w-full" /></UFormField>
        <UFormField label="Against which live point"><UInput v-model="against" /></UFormField>
        <CommonNumberPad v-model="volts" :label="`Between them, about ${scheme.nominalVolts} V`" unit="V" @enter="see" />
        <UButton type="submit" variant="solid" size="xl" block :loading="busy" :disabled="Number.isNaN(number) || !against.trim()"
          >The reference is good</UButton
        >
      </form>

      <form v-else-if="stage === 3 && next && sweeping" class="stack" data-testid="sweep" @submit.prevent="sweep">
        <p v-if="next.position" class="note hot">
          <b>Far switch: {{ next.position }}</b>
        </p>
        <p>Low impedance. Every pair below, one after the other; then the highest value you saw.</p>
        <ol class="pairs mono" aria-label="Pairs to read">
          <li v-for="pair in sweepPairs" :key="`${pair.a}${pair.b}`">{{ pair.a }}–{{ pair.b === REFERENCE ? 'ref' : pair.b }}</li>
        </ol>
        <CommonNumberPad v-model="volts" :label="`Highest of ${sweepPairs.length} pairs`" unit="V" @enter="sweep" />
        <p v-if="!Number.isNaN(number) && !sweepDead" class="note red">
          <b>{{ number }} V is not below 1 V.</b> That pair is stored by itself, so that it is judged.
        </p>
        <UButton type="submit" variant="solid" size="xl" block :loading="busy" :disabled="Number.isNaN(number)">{{
          Number.isNaN(number) || sweepDead ? `All ${sweepPairs.length} read, none higher` : 'Store the pairs one by one'
        }}</UButton>
        <UButton variant="link" class="self-start" @click="oneByOne = true">Store them one by one</UButton>
      </form>

      <form v-else-if="stage === 3 && next" class="stack" @submit.prevent="read">
        <p v-if="next.position" class="note hot">
          <b>Far switch: {{ next.position }}</b>
        </p>
        <div v-if="last" class="judged" :class="lastJudged?.verdict" data-testid="last-reading">
          <span class="grow"
            ><b>{{ nameOf(last.a) }} → {{ nameOf(last.b) }}</b
            ><br /><span class="soft small">{{ last.impedance }} impedance</span></span
          ><span class="val">{{ last.volts }} V</span>
        </div>
        <p v-if="lastJudged?.verdict === 'repeatLow'" class="mark">
          <b>{{ lastJudged.title }}</b><br /><span class="soft">{{ lastJudged.why }}</span>
        </p>
        <div class="row" role="group" aria-label="Meter range">
          <UButton
            v-for="kind in ['high', 'low'] as const"
            :key="kind"
            :variant="impedance === kind ? 'solid' : 'outline'"
            :aria-pressed="impedance === kind"
            :disabled="
              (proof?.instrument.kind !== 'both' && proof?.instrument.kind !== kind) || (next.status === 'repeatLow' && kind === 'high')
            "
            class="flex-1"
            @click="impedance = kind"
            >{{ kind }} impedance</UButton
          >
        </div>
        <CommonNumberPad v-model="volts" :label="`${nameOf(next.a)} → ${nameOf(next.b)}`" unit="V" @enter="read" />
        <UButton type="submit" variant="solid" size="xl" block :loading="busy" :disabled="Number.isNaN(number)">Store, next pair</UButton>
      </form>

      <form v-else class="stack" @submit.prevent="finish">
        <p>All {{ pairs.length }} pairs read below 1 V. Prove {{ proof?.instrument.name }} again on {{ proof?.sourceName }}.</p>
        <CommonNumberPad v-model="volts" label="It shows" unit="V" @enter="finish" />
        <UButton type="submit" variant="solid" size="xl" block :loading="busy" :disabled="Number.isNaN(number)"
          >The tester still works</UButton
        >
      </form>
      <UButton v-if="proof" variant="link" class="self-start" @click="giveUp">Give this proof up</UButton>
    </template>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>

<style scoped>
.pairs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(74px, 1fr));
  gap: 4px 10px;
  font-size: 15px;
}
.judged {
  display: flex;
  align-items: center;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.val {
  font: 640 24px var(--font-mono);
  color: var(--petrol);
}
.repeatLow .val,
.live .val,
.unexplained .val {
  color: var(--live);
}
.mark {
  background: var(--mute);
  padding: 10px 12px;
}
</style>
