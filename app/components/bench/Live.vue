<script setup lang="ts">
import { breakerName, canMeasure, noCurrentBelowAmps, type BoxState } from '../../../core/site'
import { energiseWords } from '../../../core/site'

/** What needs power or care beyond touching: measuring live, power for a moment, parting a neutral. */
const props = defineProps<{ box: BoxState }>()
const { site, asker, vantage, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const open = ref<'measure' | 'moment' | 'neutral' | null>(null)
const toggle = (what: typeof open.value) => (open.value = open.value === what ? null : what)

const measuring = computed(() => Object.values(site.value!.measuring).find((one) => one.boxId === props.box.id))
const mayMeasure = computed(() => canMeasure(site.value!, props.box.id, asker.value, vantage.value))
async function startMeasuring(warnedIds: string[]) {
  if (await run(() => submitSite({ type: 'startMeasuring', measureId: newId(), boxId: props.box.id, warnedIds }))) open.value = null
}

const feeds = computed(() =>
  props.box.breakerIds.flatMap((id) => site.value!.breakers[id] ?? []).filter((breaker) => breaker.state === 'open'),
)
const purpose = ref<'identify' | 'pairing' | 'wiresOut' | 'test'>('identify')
const purposes = (['identify', 'pairing', 'wiresOut', 'test'] as const).map((value) => ({ value, label: energiseWords[value] }))
const feedId = ref('')
watchEffect(() => {
  if (!feeds.value.some((breaker) => breaker.id === feedId.value)) feedId.value = feeds.value[0]?.id ?? ''
})
async function ask() {
  const command = { type: 'askEnergise' as const, askId: newId(), breakerId: feedId.value, boxId: props.box.id, purpose: purpose.value }
  if (await run(() => submitSite(command))) open.value = null
}

const untested = computed(() => props.box.parted.find((part) => !part.tested) ?? null)
const what = ref('')
const amps = ref('')
const loadsOn = ref(false)
const here = ref('')
const away = ref('')
async function part() {
  const basis = { kind: 'clamp' as const, amps: typedNumber(amps.value), loadsOn: loadsOn.value }
  if (await run(() => submitSite({ type: 'openNeutral', partId: newId(), boxId: props.box.id, what: what.value, basis }))) {
    what.value = ''
    amps.value = ''
    open.value = null
  }
}
const testerShows = ref('')
const proof = computed(() => (props.box.proofId ? (site.value!.proofs[props.box.proofId] ?? null) : null))
const testEnds = () =>
  run(() =>
    submitSite({
      type: 'testParted',
      partId: untested.value!.id,
      instrumentId: proof.value?.instrumentId ?? '',
      voltsHere: typedNumber(here.value),
      voltsAway: typedNumber(away.value),
      testerVolts: typedNumber(testerShows.value),
    }),
  )
</script>

<template>
  <div class="rule pt-3 stack" data-testid="live-work">
    <p v-if="measuring" class="note red">
      <b>{{ measuring.personId === asker.personId ? 'You measure' : `${measuring.name} measures` }} live here.</b>
      <template v-if="measuring.personId === asker.personId">
        {{ mayMeasure.yes ? 'Probes only, no fingers.' : t((mayMeasure as { reasons: string[] }).reasons.join(' ')) }}
        <UButton :loading="busy" @click="run(() => submitSite({ type: 'endMeasuring', measureId: measuring!.id }))"
          >Finished measuring</UButton
        ></template
      >
    </p>
    <form v-if="untested" class="note amber stack" @submit.prevent="testEnds">
      <p>
        <b>“{{ untested.what }}” is open. Test both ends with low impedance before anybody reaches in.</b>
      </p>
      <div class="row wrap">
        <UFormField label="End here, V"><UInput v-model="here" inputmode="decimal" /></UFormField>
        <UFormField label="Other end, V"><UInput v-model="away" inputmode="decimal" /></UFormField>
        <UFormField :label="`${proof?.instrument.name ?? 'The tester'} again on ${proof?.sourceName ?? 'its source'}, V`"
          ><UInput v-model="testerShows" inputmode="decimal"
        /></UFormField>
      </div>
      <UButton
        type="submit"
        variant="solid"
        :loading="busy"
        :disabled="Number.isNaN(typedNumber(here)) || Number.isNaN(typedNumber(away)) || Number.isNaN(typedNumber(testerShows))"
        >Both ends tested</UButton
      >
    </form>
    <div class="row wrap">
      <UButton v-if="asker.licensed && feeds.length" variant="link" :disabled="offline" @click="toggle('moment')"
        >Power for a moment</UButton
      >
      <UButton v-if="asker.licensed && !measuring" variant="link" :disabled="offline" @click="toggle('measure')">Measure live</UButton>
      <UButton v-if="box.conductors.length && !untested" variant="link" @click="toggle('neutral')">Open a neutral</UButton>
    </div>
    <form v-if="open === 'moment'" class="note stack" @submit.prevent="ask">
      <p>
        Everyone whose tag hangs there, who opened a box behind it or relies on a proof there must say clear. Their tags are suspended.
        Afterwards each of them hangs the tag again and proves again.
      </p>
      <UFormField label="Breaker"
        ><USelect v-model="feedId" :items="feeds.map((breaker) => ({ label: breakerName(site!, breaker), value: breaker.id }))"
      /></UFormField>
      <UFormField label="What for"><USelect v-model="purpose" :items="purposes" /></UFormField>
      <UButton type="submit" variant="solid" :loading="busy" :disabled="!feedId">Ask everyone to stand clear</UButton>
    </form>
    <div v-if="open === 'measure'" class="note stack">
      <p>For a licensed person, with a crew mate told. This does not permit touching.</p>
      <BenchWarn act="start live measurement" :busy="busy" @go="startMeasuring" />
    </div>
    <form v-if="open === 'neutral'" class="note stack" @submit.prevent="part">
      <p>
        A neutral that another circuit uses is live at its far end once opened. Clamp first: below {{ t(`${noCurrentBelowAmps} A`) }} counts
        as zero, but only with the loads of the other circuits switched on.
      </p>
      <UFormField label="Which splice"><UInput v-model="what" placeholder="three whites, back left" /></UFormField>
      <UFormField label="Clamp shows, A"><UInput v-model="amps" inputmode="decimal" /></UFormField>
      <UCheckbox v-model="loadsOn" label="Lamps and loads of the other circuits were on" />
      <UButton
        type="submit"
        variant="solid"
        :loading="busy"
        :disabled="what.trim().length < 3 || Number.isNaN(typedNumber(amps)) || !loadsOn"
        >Neutral opened</UButton
      >
    </form>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
