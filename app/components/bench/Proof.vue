<script setup lang="ts">
import {
  breakerName,
  isNeutralShift,
  isSettled,
  judgeReading,
  pairStatuses,
  positionText,
  proofStage,
  REFERENCE,
  SECOND_EARTH,
  type BoxState,
  type Impedance,
  type RequiredPair,
  whyEnded,
} from '../../../core/site'

/** Tester, reference, every conductor, reference, tester. Each reading is judged as it is stored. */
const props = defineProps<{ box: BoxState }>()
const { site, region, submitSite } = injectJobRecord()
const { t } = useTrade()
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
const next = computed(() => pairs.value.find((pair) => !isSettled(pair)) ?? null)
const settled = computed(() => pairs.value.filter(isSettled).length)
const stageOf = { reference: 2, readings: 3, referenceAgain: 4, tester: 5, recheck: 5 } as const
const doing = computed(() => (proof.value ? proofStage(site.value!, props.box, proof.value) : null))
const stage = computed(() => (doing.value ? stageOf[doing.value] : 1))

const today = todayIn(region.value)
const testers = computed(() =>
  session.instruments.filter(
    (instrument) =>
      instrument.active && instrument.kind !== 'nonContact' && (instrument.branchId === session.viewer?.branchId || session.isOffice),
  ),
)
const instrumentId = useLocalStorage(`circuitry-tester-${session.viewer?.personId}`, '')
const testerItems = computed(() =>
  testers.value.map((instrument) => ({
    label: `${instrument.name} ${instrument.serial}${instrument.outOfService ? ' (failed)' : instrument.calibrationDue < today ? ' (calibration expired)' : ''}`,
    value: instrument.id,
    disabled: instrument.calibrationDue < today || instrument.outOfService,
  })),
)
watchEffect(() => {
  if (!testers.value.some((instrument) => instrument.id === instrumentId.value))
    instrumentId.value =
      testers.value.find((one) => one.calibrationDue >= today && !one.outOfService && (one.kind === 'both' || one.kind === 'twoPole'))
        ?.id ?? ''
})

const unit = 'provingUnit'
const sourceId = ref(unit)
const sourceItems = computed(() => [
  { label: 'proving unit', value: unit },
  ...Object.values(site.value!.breakers)
    .filter((breaker) => breaker.state === 'closed' && breaker.role === 'branch')
    .map((breaker) => ({
      label: `socket or light on ${breakerName(site.value!, breaker)}${breaker.labelAsFound ? `, ${breaker.labelAsFound}` : ''}`,
      value: breaker.id,
    })),
])
const volts = ref('')
const number = computed(() => typedNumber(volts.value))
const impedance = ref<Impedance>('low')
watchEffect(() => {
  const kind = proof.value?.instrument.kind
  if (kind === 'twoPole') impedance.value = 'steps'
  else if (kind === 'low' || kind === 'high') impedance.value = kind
  else if (next.value?.status === 'repeatLow') impedance.value = 'low'
})
const rangeText = (kind: Impedance) => (kind === 'steps' ? 'two-pole detector' : `${kind} impedance`)
const sameFar = (one: RequiredPair, other: RequiredPair) =>
  positionText(site.value!, one.position) === positionText(site.value!, other.position)

const nameOf = (end: string) =>
  end === REFERENCE
    ? 'reference'
    : end === SECOND_EARTH
      ? 'second earth'
      : `${end} ${props.box.conductors.find((conductor) => conductor.letter === end)?.colour ?? ''}`
const last = computed(() => proof.value?.readings.at(-1) ?? null)
const lastJudged = computed(() => (last.value ? judgeReading(last.value.volts, last.value.impedance) : null))

/** The keys are free for the next reading at once: digits pressed while this one is on its way are not lost. */
async function send(work: () => ReturnType<typeof submitSite>) {
  if (Number.isNaN(number.value) || busy.value) return
  const typed = volts.value
  const done = run(work)
  volts.value = ''
  if (!(await done) && volts.value === '') volts.value = typed
}
const start = () =>
  send(() =>
    submitSite({
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
/** A low reading on a neutral: is it only the neutral of the supply, shifted against earth? */
const neutralRead = reactive({ toReference: '', toConductor: '' })
const mayBeShift = computed(
  () =>
    impedance.value === 'low' && next.value?.b === REFERENCE && number.value >= 1 && number.value <= 10 && proof.value?.reference !== null,
)
const neutral = computed(() => {
  const both = { toReference: typedNumber(neutralRead.toReference), toConductor: typedNumber(neutralRead.toConductor) }
  return mayBeShift.value && !Number.isNaN(both.toReference) && !Number.isNaN(both.toConductor) ? both : null
})
const isShift = computed(() => mayBeShift.value && isNeutralShift(proof.value!.reference!.seen, number.value, neutral.value))
const read = () =>
  send(() => {
    const command = {
      type: 'takeReading' as const,
      proofId: proof.value!.id,
      a: next.value!.a,
      b: next.value!.b,
      position: next.value!.position,
      impedance: impedance.value,
      volts: number.value,
      neutral: neutral.value,
    }
    Object.assign(neutralRead, { toReference: '', toConductor: '' })
    return submitSite(command)
  })
/** One that comes while nothing is on its way stands in the field and is stored like one from the keys. */
async function typed(text: string, store: () => Promise<unknown>) {
  if (busy.value) return void dropped.value++
  dropped.value = 0
  volts.value = text
  await store()
}
const { reading, dropped } = useReadingsInTurn(
  () => busy.value,
  async (text) => {
    volts.value = text
    await read()
  },
  () => stage.value === 3 && next.value?.status === 'missing' && refusal.value === null,
)
/** All pairs of this position that are still open, walked through in one go with the meter in one hand. */
const linked = useLocalStorage(`circuitry-meter-${session.viewer?.personId}`, false)
/** A linked meter sends each reading by itself; by hand they are stored one by one where one is not dead. */
const byHand = ref(false)
const oneByOne = computed({ get: () => linked.value || byHand.value, set: (value) => (byHand.value = value) })
const sweepPairs = computed(() =>
  next.value ? pairs.value.filter((pair) => pair.status === 'missing' && sameFar(pair, next.value!)).slice(0, 30) : [],
)
const steps = computed(() => proof.value?.instrument.kind === 'twoPole')
const sweeping = computed(
  () => !oneByOne.value && sweepPairs.value.length > 1 && next.value?.status === 'missing' && proof.value?.instrument.kind !== 'high',
)
const sweepDead = computed(() => judgeReading(number.value, 'low').verdict === 'dead')
const storeSweep = (highestVolts: number) =>
  submitSite({
    type: 'sweepReadings',
    proofId: proof.value!.id,
    pairs: sweepPairs.value.map(({ a, b }) => ({ a, b })),
    position: next.value!.position,
    impedance: steps.value ? 'steps' : 'low',
    highestVolts,
  })
async function sweep() {
  if (steps.value) return void (await run(() => storeSweep(0)))
  if (Number.isNaN(number.value)) return
  if (!sweepDead.value) {
    oneByOne.value = true
    volts.value = ''
    return
  }
  await send(() => storeSweep(number.value))
}
const finish = () => send(() => submitSite({ type: 'finishProof', proofId: proof.value!.id, volts: number.value }))
/** The tester was off: another source tells whether it was the tester or the source. */
const otherSources = computed(() => [
  { label: 'another proving unit', value: unit },
  ...sourceItems.value.filter((item) => item.value !== unit && item.value !== proof.value?.sourceBreakerId),
])
const recheck = () =>
  send(() =>
    submitSite({
      type: 'recheckTester',
      proofId: proof.value!.id,
      volts: number.value,
      source:
        sourceId.value === unit
          ? { kind: 'provingUnit', name: 'another proving unit' }
          : { kind: 'breaker', breakerId: sourceId.value, name: otherSources.value.find((item) => item.value === sourceId.value)!.label },
    }),
  )
const giveUp = () => run(() => submitSite({ type: 'abandonProof', proofId: proof.value!.id, reason: 'abandoned at the box' }))
</script>

<template>
  <div class="stack">
    <p v-if="ended && !proof" class="note amber"><b>The last proof ended.</b> {{ ended.voidWhy && whyEnded(site!, ended.voidWhy) }}</p>
    <p v-if="proof && !mine" class="note">
      {{ proof.name }} is proving this box: {{ settled }} of {{ pairs.length }} readings. You can witness it when it is finished.
    </p>
    <template v-else>
      <p class="kicker" data-testid="proof-stage">
        {{
          [
            '',
            '1 of 5 · tester on a known live source',
            '2 of 5 · reference verified',
            `3 of 5 · reading ${settled + 1} of ${pairs.length}`,
            '4 of 5 · the reference again',
            '5 of 5 · the same tester again',
          ][stage]
        }}
      </p>

      <p v-if="dropped" class="note amber" data-testid="dropped">
        <b
          >{{ dropped === 1 ? 'One reading' : `${dropped} readings` }} came too soon and {{ dropped === 1 ? 'was' : 'were' }} not
          recorded.</b
        >
        Continue with what is asked for here.
      </p>

      <form v-if="stage === 1" class="stack" @submit.prevent="start">
        <UFormField label="Tester"
          ><USelect v-model="instrumentId" :items="testerItems" class="w-full" placeholder="no tester in the register"
        /></UFormField>
        <UFormField label="Known live source"><USelect v-model="sourceId" :items="sourceItems" class="w-full" /></UFormField>
        <CommonNumberPad v-model="volts" label="It shows" unit="V" @enter="start" @reading="typed($event, start)" />
        <JobAct type="submit" :loading="busy" :disabled="!instrumentId || Number.isNaN(number)">The tester works</JobAct>
      </form>

      <BenchReference v-else-if="stage === 2" key="first" v-model="volts" :box="box" :proof="proof!" :again="false" />

      <form v-else-if="stage === 3 && next && sweeping" class="stack" data-testid="sweep" @submit.prevent="sweep">
        <p v-if="next.position.length" class="note hot">
          <b>Other location: {{ positionText(site!, next.position) }}</b>
        </p>
        <p>
          {{
            steps
              ? 'Each pair below, one after the other. Does any step light?'
              : 'Low impedance. Each pair below, one after the other. Then enter the highest value you saw.'
          }}
        </p>
        <ol class="pairs mono" aria-label="Pairs to read">
          <li v-for="pair in sweepPairs" :key="`${pair.a}${pair.b}`">
            {{ pair.a }}–{{ pair.b === REFERENCE ? 'ref' : pair.b === SECOND_EARTH ? 'ref 2' : pair.b }}
          </li>
        </ol>
        <template v-if="steps">
          <JobAct type="submit" :loading="busy">No indication on any of {{ sweepPairs.length }}</JobAct>
          <UButton variant="outline" size="xl" block @click="oneByOne = true">A step lit: store them one by one</UButton>
        </template>
        <template v-else>
          <CommonNumberPad
            v-model="volts"
            :label="`Highest of ${counted(sweepPairs.length, 'reading')}`"
            unit="V"
            @enter="sweep"
            @reading="typed($event, sweep)"
          />
          <p v-if="!Number.isNaN(number) && !sweepDead" class="note red">
            <b>{{ t(`${number} V`) }} is not below 1 V.</b> Store that pair on its own, so that it is judged.
          </p>
          <JobAct type="submit" :loading="busy" :disabled="Number.isNaN(number)">{{
            Number.isNaN(number) || sweepDead ? `All ${sweepPairs.length} read, none higher` : 'Store the pairs one by one'
          }}</JobAct>
          <UButton variant="link" class="self-start" @click="oneByOne = true">Store them one by one</UButton>
        </template>
      </form>

      <form v-else-if="stage === 3 && next" class="stack" @submit.prevent="read">
        <p v-if="next.position.length" class="note hot">
          <b>Other location: {{ positionText(site!, next.position) }}</b>
        </p>
        <div v-if="last" class="judged" :class="lastJudged?.verdict" data-testid="last-reading">
          <span class="grow"
            ><b>{{ nameOf(last.a) }} → {{ nameOf(last.b) }}</b
            ><br /><span class="soft small">{{ rangeText(last.impedance) }}</span></span
          ><span class="val">{{ t(`${last.volts} V`) }}</span>
        </div>
        <p v-if="lastJudged?.verdict === 'repeatLow'" class="mark">
          <b>{{ t(lastJudged.title) }}</b><br /><span class="soft">{{ t(lastJudged.why) }}</span>
        </p>
        <div v-if="proof?.instrument.kind === 'both'" class="row" role="group" aria-label="Meter range">
          <UButton
            v-for="kind in ['high', 'low'] as const"
            :key="kind"
            :variant="impedance === kind ? 'solid' : 'outline'"
            :aria-pressed="impedance === kind"
            :disabled="next.status === 'repeatLow' && kind === 'high'"
            class="flex-1"
            @click="impedance = kind"
            >{{ kind }} impedance</UButton
          >
        </div>
        <p v-else-if="proof?.instrument.kind === 'high' && next.status === 'repeatLow'" class="note amber">
          <b>This tester has no low impedance and cannot clear that.</b> Abandon this proof and start again with a tester that has it.
        </p>
        <CommonNumberPad
          v-model="volts"
          :label="`${nameOf(next.a)} → ${nameOf(next.b)}${steps ? ', highest step, 0 for none' : ''}`"
          unit="V"
          :busy="busy"
          @enter="read"
          @reading="reading"
        />
        <div v-if="mayBeShift" class="note amber stack">
          <p>
            <b>From 1 V up it is not dead.</b>
            {{
              t(
                'Is it a neutral? Then read the neutral of a live point, or the neutral bar of the {panel}, against both. Otherwise store it: the proof stops.',
              )
            }}
          </p>
          <div class="row wrap">
            <UFormField label="That neutral to the reference, V"
              ><UInput v-model="neutralRead.toReference" inputmode="decimal"
            /></UFormField>
            <UFormField :label="`That neutral to ${next.a}, V`"
              ><UInput v-model="neutralRead.toConductor" inputmode="decimal"
            /></UFormField>
          </div>
          <p v-if="isShift"><b>A shifted neutral, not a feed.</b> You may work beside it. Do not open it.</p>
        </div>
        <JobAct type="submit" :loading="busy" :disabled="Number.isNaN(number)">Store, next pair</JobAct>
      </form>

      <BenchReference v-else-if="stage === 4" key="again" v-model="volts" :box="box" :proof="proof!" again />

      <form v-else-if="doing === 'recheck'" class="stack" @submit.prevent="recheck">
        <p class="note amber">
          <b>{{ t(`The tester showed ${proof?.sourceVolts} V before and ${proof?.recheckVolts} V now.`) }}</b> Try it again on another known
          live source. If it is good there, the source failed; if not, the tester failed.
        </p>
        <UFormField label="Another known live source"><USelect v-model="sourceId" :items="otherSources" class="w-full" /></UFormField>
        <CommonNumberPad v-model="volts" label="It shows" unit="V" @enter="recheck" @reading="typed($event, recheck)" />
        <JobAct type="submit" :loading="busy" :disabled="Number.isNaN(number)">That is what it shows</JobAct>
      </form>

      <form v-else class="stack" @submit.prevent="finish">
        <p>
          Nothing showed voltage. {{ proof?.instrument.name }} again on {{ proof?.sourceName }}: it showed
          {{ t(`${proof?.sourceVolts} V`) }}
          before.
        </p>
        <CommonNumberPad v-model="volts" label="It shows" unit="V" @enter="finish" @reading="typed($event, finish)" />
        <JobAct type="submit" :loading="busy" :disabled="Number.isNaN(number)">The tester still works</JobAct>
      </form>
      <div class="row wrap">
        <UButton v-if="proof" variant="link" @click="giveUp">Abandon this proof</UButton>
        <UCheckbox v-if="!steps" v-model="linked" label="My meter types its readings here" />
      </div>
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
