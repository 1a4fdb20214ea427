<script setup lang="ts">
import {
  boxName,
  breakerName,
  feedingBreakers,
  inPanelOrder,
  signCauseWords,
  unexplainedSign,
  type BoxState,
  type SignCause,
} from '../../../core/site'

/** There was voltage where none should be: before anything it could concern is proven again, somebody says what it was. */
const props = defineProps<{ box: BoxState }>()
const { site, asker, region, submitSite } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const sign = computed(() => unexplainedSign(site.value!, props.box.id) ?? null)
const at = computed(() => (sign.value ? site.value!.boxes[sign.value.boxId]! : null))

// Nothing is chosen beforehand: a cause is somebody's word, not a tap on what stood there.
const kind = ref<SignCause['kind']>()
const mine = computed(() => sign.value?.personId === session.viewer?.personId)
const kinds = computed(() => {
  if (!sign.value) return []
  const measured = sign.value.pair !== null && sign.value.volts !== null
  const all: SignCause['kind'][] = [
    ...(measured && sign.value.impedance === 'high' ? (['ghost'] as const) : []),
    ...(measured && mine.value ? (['mistyped'] as const) : []),
    ...(asker.value.licensed ? (['leverMoved', 'secondFeed', 'timer'] as const) : []),
    ...(asker.value.licensed && measured ? (['neutralShift'] as const) : []),
    ...(asker.value.licensed && sign.value.instrumentId ? (['testerAtFault'] as const) : []),
    'unknown',
  ]
  return all.map((value) => ({ value, label: t(signCauseWords[value]) }))
})
watch(
  () => sign.value?.seq,
  () => (kind.value = undefined),
)
const measures = computed(() => kind.value === 'ghost' || kind.value === 'mistyped')
const breakers = computed(() => {
  const all = Object.values(site.value!.breakers)
  const feeds = at.value ? feedingBreakers(site.value!, at.value) : []
  const list = kind.value === 'leverMoved' ? all.filter((one) => feeds.includes(one) || one.role !== 'branch') : all
  return list.sort(inPanelOrder).map((one) => ({ label: breakerName(site.value!, one), value: one.id }))
})
const breakerId = ref<string>()
watch(breakers, () => {
  if (!breakers.value.some((one) => one.value === breakerId.value)) breakerId.value = undefined
})
const note = ref('')
const volts = ref('')
const number = computed(() => typedNumber(volts.value))
const instrumentId = computed(() => sign.value?.instrumentId ?? '')
const instrument = computed(() => session.instruments.find((one) => one.id === instrumentId.value) ?? null)
const ready = computed(() => {
  if (measures.value) return !Number.isNaN(number.value) && instrument.value !== null
  if (!kind.value) return false
  if (kind.value === 'leverMoved' || kind.value === 'secondFeed') return breakerId.value !== undefined
  return kind.value === 'unknown' || note.value.trim().length >= 3
})
const cause = computed((): SignCause => {
  const value = kind.value!
  if (value === 'ghost' || value === 'mistyped')
    return {
      kind: value,
      again: { volts: number.value, impedance: instrument.value?.kind === 'twoPole' ? 'steps' : 'low', instrumentId: instrumentId.value },
    }
  if (value === 'leverMoved' || value === 'secondFeed') return { kind: value, breakerId: breakerId.value! }
  return value === 'unknown' ? { kind: value } : { kind: value, note: note.value.trim() }
})
const store = () => run(() => submitSite({ type: 'recordCause', signSeq: sign.value!.seq, cause: cause.value }))
</script>

<template>
  <form v-if="sign && at" class="note red stack" data-testid="cause" @submit.prevent="store">
    <p>
      <b
        >There was voltage at {{ boxName(site!, at) }}{{ sign.volts === null ? '' : t(`: ${sign.volts} V`)
        }}{{ sign.pair ? `, ${sign.pair.a} to ${sign.pair.b === 'REF' ? 'reference' : sign.pair.b}` : '' }}.</b
      >
      {{ sign.name }}, {{ clockTime(sign.at, region) }}. What was it? No box it could affect can be proven until this is recorded.
    </p>
    <UFormField label="It was"><USelect v-model="kind" :items="kinds" placeholder="choose" class="w-full" /></UFormField>
    <UFormField v-if="kind === 'leverMoved' || kind === 'secondFeed'" :label="t('Which {breaker}')"
      ><USelect v-model="breakerId" :items="breakers" placeholder="choose" class="w-full"
    /></UFormField>
    <p v-if="kind === 'leverMoved'" class="small">
      {{ t('First say at the {panel} how you found the lever, and that you opened it. Whoever’s tag hung there checks their lock.') }}
    </p>
    <p v-if="kind === 'secondFeed'" class="small">First open it, and record it as a feed of the box.</p>
    <UFormField v-if="measures" :label="`The same pair again, low impedance, with ${instrument?.name ?? 'the same tester'}`" hint="volts"
      ><UInput v-model="volts" inputmode="decimal"
    /></UFormField>
    <UFormField
      v-else-if="kind && !['leverMoved', 'secondFeed', 'unknown'].includes(kind)"
      label="What and where, and what keeps it off now"
      ><UInput v-model="note"
    /></UFormField>
    <p v-if="kind === 'unknown'" class="small">
      {{ t('From now on every box it could concern counts as fed by something unknown. Open and tag the {main} and all other sources.') }}
    </p>
    <CommonRefusal :refusal="refusal" />
    <UButton type="submit" variant="solid" size="xl" block :loading="busy" :disabled="!ready">Record the cause</UButton>
  </form>
</template>
