<script setup lang="ts">
import { judgeSignal, type SignalEntry } from '../../../core/commission'
import { channelPoints, namesBeside, pairingSchoolWords, type Unit } from '../../../core/job'
import { nameClashes } from '../../../core/names/clashes'

/** One device: joined to the customer's network, level measured, named. */
const props = defineProps<{ unit: Unit }>()
const { job, site, settings, onCrew, submitJob } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const network = useHomeNetwork(props.unit)
const level = ref('')
const scale = ref<'dbm' | 'bars'>('dbm')
const scales = [
  { label: 'dBm', value: 'dbm' },
  { label: 'bars', value: 'bars' },
]
const failNote = ref('')
const redo = ref(false)
const name = ref(props.unit.name)
const others = computed(() => namesBeside(job.value!, props.unit, null))
/** A device of several channels: each point has a name of its own in the app. */
const channels = computed(() => channelPoints(job.value!, props.unit))
const channelNames = reactive<Record<string, string>>({ ...props.unit.channelNames })
const channelClashes = (pointId: string) => {
  const said = channelNames[pointId]?.trim() ?? ''
  return said && said !== props.unit.channelNames[pointId] ? nameClashes(said, namesBeside(job.value!, props.unit, pointId)) : []
}
const nameChannel = (pointId: string, despiteClash: boolean) =>
  run(() => submitJob({ type: 'nameUnit', unitId: props.unit.id, pointId, name: channelNames[pointId]!.trim(), despiteClash }))
const clashes = computed(() => (name.value.trim() && name.value !== props.unit.name ? nameClashes(name.value, others.value) : []))
const signal = computed<SignalEntry | null>(() => {
  // A fraction of a dBm tells nothing.
  const value = Math.round(typedNumber(level.value))
  if (Number.isNaN(value)) return null
  return scale.value === 'dbm' ? { kind: 'dbm', dbm: value > 0 ? -value : value } : { kind: 'bars', bars: value }
})
const verdict = computed(() =>
  signal.value ? judgeSignal(signal.value) : props.unit.pairing?.signal ? judgeSignal(props.unit.pairing.signal) : null,
)
const needsPairing = computed(() => props.unit.model.setupCode !== 'none')
const joined = () =>
  run(() =>
    submitJob({ type: 'recordPairing', unitId: props.unit.id, result: 'joined', network: network.value, signal: signal.value, note: '' }),
  ).then((ok) => {
    if (ok) redo.value = false
  })
const failed = () =>
  run(() =>
    submitJob({
      type: 'recordPairing',
      unitId: props.unit.id,
      result: 'failed',
      network: network.value,
      signal: signal.value,
      note: failNote.value,
    }),
  )
const pick = (chosen: string) => {
  name.value = chosen
  return run(() => submitJob({ type: 'nameUnit', unitId: props.unit.id, pointId: null, name: chosen, despiteClash: true }))
}
const keep = (despiteClash: boolean) =>
  run(() => submitJob({ type: 'nameUnit', unitId: props.unit.id, pointId: null, name: name.value, despiteClash }))
</script>

<template>
  <section class="unit" :data-testid="`unit-${unit.serial}`">
    <h3 class="row wrap">
      <b>{{ unit.name || 'no name yet' }}</b><span class="soft grow"
        >{{ site!.boxes[unit.boxId]?.name }}, gang {{ unit.gang }} · {{ unit.model.name }} ·
        <span class="mono">{{ unit.serial }}</span></span
      ><b v-if="needsPairing" :class="unit.pairing?.result === 'joined' ? 'good' : unit.pairing ? 'bad' : 'soft'">{{
        unit.pairing?.result === 'joined'
          ? unit.pairing.network
            ? `on ${unit.pairing.network}`
            : 'paired'
          : unit.pairing
            ? `failed ${unit.pairing.attempts}×`
            : 'not paired'
      }}</b>
    </h3>
    <p v-if="needsPairing && unit.pairing?.result !== 'joined'" class="soft small">{{ pairingSchoolWords[settings.pairingSchool] }}</p>
    <p
      v-if="verdict"
      class="small"
      :class="{ good: verdict.level === 'good', warn: verdict.level === 'fair', bad: verdict.level === 'poor' }"
    >
      {{ verdict.sentence }}
    </p>
    <HomeCodeCheck v-if="needsPairing && unit.code.kind !== 'none'" :unit="unit" />
    <template v-if="onCrew">
      <details v-if="needsPairing && (unit.pairing?.result !== 'joined' || redo)" open>
        <summary class="small soft">
          How this model pairs: first sign “{{ unit.model.firstIndicator }}”{{
            unit.model.pairingWindowMinutes ? `, window closes ${unit.model.pairingWindowMinutes} minutes after power-on` : ''
          }}
        </summary>
        <ol class="small list-decimal ps-5 my-2">
          <li v-for="line in unit.model.pairingSteps" :key="line">{{ line }}</li>
        </ol>
        <div class="row wrap">
          <UInput v-model="network" placeholder="network name" :aria-label="`Network of ${unit.serial}`" class="w-44" /><UInput
            v-model="level"
            :placeholder="scale === 'dbm' ? '-58' : '3'"
            :aria-label="`Wi-Fi level at ${unit.serial}`"
            class="w-24"
            inputmode="numeric"
          /><USelect v-model="scale" :items="scales" :aria-label="`Scale of the level at ${unit.serial}`" class="w-24" /><UButton
            variant="solid"
            :loading="busy"
            :disabled="!network.trim() || !signal"
            @click="joined"
            >Paired</UButton
          >
        </div>
        <div class="row wrap mt-2">
          <UInput
            v-model="failNote"
            placeholder="what it showed"
            :aria-label="`What ${unit.serial} showed`"
            class="grow min-w-48"
          /><UButton color="error" :loading="busy" :disabled="failNote.trim().length < 3" @click="failed">It failed</UButton>
        </div>
        <p v-if="unit.pairing?.result === 'failed'" class="note mt-2 small">
          2.4 GHz? Password, upper and lower case? Blinking as expected? Then again → access-point mode → closer → replace.
        </p>
      </details>
      <LinkAsk :unit="unit" :doings="['join', 'check', 'wall', 'name']" class="mt-2" />
      <UButton v-if="unit.pairing?.result === 'joined' && !redo" variant="link" class="p-0" @click="redo = true">Pair again</UButton>
      <form class="row wrap mt-2" @submit.prevent="keep(false)">
        <UInput
          v-model="name"
          placeholder="room and thing: net loft window light"
          :aria-label="`Name of ${unit.serial}`"
          class="grow min-w-52"
        /><UButton type="submit" :loading="busy" :disabled="!name.trim() || name === unit.name">Name it</UButton>
      </form>
      <form v-for="point in channels" :key="point.id" class="row wrap mt-2" @submit.prevent="nameChannel(point.id, false)">
        <span class="soft">Channel of {{ point.name }}:</span>
        <UInput
          v-model="channelNames[point.id]"
          placeholder="its own name"
          :aria-label="`Name of the channel of ${point.name}`"
          class="grow min-w-52"
        />
        <UButton
          type="submit"
          :loading="busy"
          :disabled="!channelNames[point.id]?.trim() || channelNames[point.id]?.trim() === unit.channelNames[point.id]"
          >Name it</UButton
        >
        <span v-for="clash in channelClashes(point.id)" :key="clash.sentence" class="warn small"
          >{{ clash.sentence }}
          <UButton v-if="clash.kind === 'contained'" variant="link" class="p-0" @click="nameChannel(point.id, true)"
            >keep it anyway</UButton
          ></span
        >
      </form>
      <p v-if="unit.model.restart || unit.model.reset" class="soft small mt-2">
        <template v-if="unit.model.restart">To start it anew: {{ t(unit.model.restart) }} </template>
        <template v-if="unit.model.reset">To take everything it learnt from it: {{ t(unit.model.reset) }}</template>
      </p>
      <div v-if="clashes.length" class="note amber small mt-2">
        <p v-for="clash in clashes" :key="clash.sentence">{{ clash.sentence }}</p>
        <UButton v-if="clashes.every((clash) => clash.kind === 'contained')" variant="link" class="p-0" @click="keep(true)"
          >keep it anyway</UButton
        >
      </div>
      <div v-if="unit.otherNames?.length" class="note amber stack" data-testid="contested">
        <p><b>Two names were entered at the same time. Pick one.</b></p>
        <div class="row wrap">
          <UButton :loading="busy" @click="pick(unit.name)">{{ unit.name }}{{ unit.namedBy ? ` (${unit.namedBy.initials})` : '' }}</UButton>
          <UButton v-for="other in unit.otherNames" :key="other.name" :loading="busy" @click="pick(other.name)"
            >{{ other.name }} ({{ other.initials }})</UButton
          >
        </div>
      </div>
      <CommonRefusal :refusal="refusal" class="mt-2" />
    </template>
  </section>
</template>

<style scoped>
.unit {
  border-top: 1px solid var(--line);
  padding: 12px 0 16px;
}
</style>
