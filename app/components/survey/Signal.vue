<script setup lang="ts">
import type { BoxState, NetworkBand } from '../../../core/site'

/** The signal at the spot, before the wall is opened: bars, dBm where somebody has it, and how long this page's own question takes. */
const props = defineProps<{ box: BoxState }>()
const { site, offline, submitSite } = injectJobRecord()
const { refusal, inTurn } = useAction()
const band = ref<NetworkBand>('2.4')
const bands = [
  { value: '2.4' as const, label: '2.4 GHz' },
  { value: '5' as const, label: '5 GHz' },
]
const here = computed(() => site.value!.signals.findLast((one) => one.boxId === props.box.id && one.band === band.value) ?? null)
const networks = computed(() => Object.values(site.value!.networks).filter(({ kind }) => kind !== 'hub'))
const networkId = ref<string | null>(null)
const typed = ref('')
const read = (one: { dbm?: number; bars?: number; roundTripMs?: number }) =>
  inTurn(() =>
    submitSite({
      type: 'readSignal',
      readingId: newId(),
      boxId: props.box.id,
      roomId: null,
      networkId: networkId.value ?? networks.value[0]?.networkId ?? null,
      band: band.value,
      dbm: one.dbm ?? here.value?.dbm ?? null,
      bars: one.bars ?? here.value?.bars ?? null,
      roundTripMs: one.roundTripMs ?? here.value?.roundTripMs ?? null,
    }),
  )
const noLevel = ref(false)
function dbmTyped() {
  if (!typed.value.trim()) return
  const value = -Math.abs(Math.round(typedNumber(typed.value)))
  noLevel.value = !(value <= -10 && value >= -120)
  if (noLevel.value) return
  void read({ dbm: value })
  typed.value = ''
}
const testing = ref(false)
const failed = ref(false)
/** The middle of five: one slow answer says nothing. */
async function roundTrip() {
  testing.value = true
  failed.value = false
  const times: number[] = []
  try {
    for (let tries = 0; tries < 5; tries++) {
      const began = performance.now()
      const answer = await api('GET /api/health')
      if (answer.ok) times.push(performance.now() - began)
    }
  } finally {
    testing.value = false
  }
  const middle = times.sort((a, b) => a - b)[2]
  if (middle === undefined) failed.value = true
  else await read({ roundTripMs: Math.round(middle) })
}
</script>

<template>
  <section class="stack" aria-label="Signal here">
    <div class="row wrap">
      <p class="kicker grow">Signal here, before the wall is opened</p>
      <CommonToggles spoken="Band" :items="bands" :chosen="band" @choose="band = $event" />
    </div>
    <CommonToggles
      v-if="networks.length > 1"
      spoken="Which network"
      :items="networks.map((one) => ({ value: one.networkId, label: one.name }))"
      :chosen="networkId ?? networks[0]!.networkId"
      @choose="networkId = $event"
    />
    <div class="row wrap">
      <CommonToggles spoken="Bars on the phone" :items="signalBars" :chosen="here?.bars ?? undefined" @choose="read({ bars: $event })" />
      <UInput
        v-model="typed"
        class="dbm"
        inputmode="decimal"
        aria-label="dBm"
        :placeholder="here?.dbm ? `${here.dbm} dBm` : 'dBm'"
        @change="dbmTyped"
      />
      <UButton :loading="testing" :disabled="offline" @click="roundTrip">{{
        here?.roundTripMs ? `${here.roundTripMs} ms, again` : 'Time this page'
      }}</UButton>
    </div>
    <p v-if="noLevel" class="bad small" role="alert">A level is a number from −10 to −120 dBm.</p>
    <p v-if="failed" class="warn small">No answer came five times: there is no signal for this page here.</p>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.dbm {
  width: 110px;
}
</style>
