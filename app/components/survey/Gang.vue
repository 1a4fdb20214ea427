<script setup lang="ts">
import { pointsInOrder, pointsOfBox, technologyWords, type LightPoint } from '../../../core/job'
import { oldDevices, oldDeviceWords, type BoxState, type Noted, type OldDevice, type SurveyedDevice } from '../../../core/site'
import { lampWatts } from '../../../core/fit'
import { pointNameFor } from '../../../core/survey'

/** One gang: what sits in it now, and what it switches. */
const props = defineProps<{ box: BoxState; gang: number }>()
const emit = defineEmits<{ note: [make: () => Noted] }>()
const { job, site, submitJob } = injectJobRecord()
const { t, number } = useTrade()
const session = useSession()
const { refusal, inTurn } = useAction()

const old = computed(() => site.value!.surveys[props.box.id]?.old ?? [])
const here = computed(() => old.value.find(({ gang }) => gang === props.gang) ?? null)
const point = computed(() => pointsOfBox(job.value!, props.box.id, props.gang)[0] ?? null)
const feeds = computed(() => here.value?.is !== 'blank' && here.value?.is !== 'socket')
const devices = oldDevices.map((value) => ({ value, label: oldDeviceWords[value] }))
const technologies = Object.entries(technologyWords).map(([value, label]) => ({ value: value as Technology, label }))
type Technology = LightPoint['load']['technology']
/** Of one lamp, or of the motor. Common practice, no source. */
const anyLamp = [5, 7, 9, 12, 25, 40, 60, 100]
const watts = computed(() => {
  const now = point.value?.load.wattsEach ?? 9
  const { technology = 'led' } = point.value?.load ?? {}
  const listed = technology === 'led' || technology === 'filament' ? lampWatts(session.parts, site.value!.schemeId, technology) : []
  const usual = listed.length ? listed : anyLamp
  return (usual.includes(now) ? usual : [...usual, now].sort((a, b) => a - b)).map((value) => ({ value, label: `${number(value)} W` }))
})
const usualWatts: Record<Technology, number> = { led: 9, filament: 60, fan: 60, motor: 95, socket: 100 }

function set(is: OldDevice) {
  emit('note', () => {
    const rest = old.value.filter(({ gang }) => gang !== props.gang)
    const one: SurveyedDevice = { gang: props.gang, is, holds: here.value?.holds ?? null, onWhen: null, keep: here.value?.keep ?? null }
    return {
      old: [...rest, one].sort((a, b) => a.gang - b.gang),
      ...(site.value!.surveys[props.box.id]?.looked ? {} : { looked: 'platesOn' as const }),
    }
  })
}
/** Where it may stay as an input: which way is on, and whether the household wants to keep it. */
const staysAsInput = computed(() => here.value !== null && !['blank', 'socket', 'dimmer', 'fanRegulator'].includes(here.value.is))
const setOld = (part: Partial<SurveyedDevice>) =>
  emit('note', () => ({ old: old.value.map((one) => (one.gang === props.gang ? { ...one, ...part } : one)) }))
const waysOn = [
  { value: 'up' as const, label: 'up is on' },
  { value: 'down' as const, label: 'down is on' },
  { value: 'either' as const, label: 'either way' },
]
const store = (changed: LightPoint) => inTurn(() => submitJob({ type: 'recordPoint', point: changed }))
/** Changed as it is when its turn comes: three taps on “more” are three lamps more, also on a slow line. */
const change = (make: (now: LightPoint) => LightPoint) => inTurn(() => submitJob({ type: 'recordPoint', point: make(point.value!) }))
const setLoad = (load: Partial<LightPoint['load']>) => change((now) => ({ ...now, load: { ...now.load, ...load } }))
function setTechnology(technology: Technology) {
  if (point.value)
    return change((now) => ({
      ...now,
      mustRun: technology === 'motor' && now.mustRun,
      load: { ...now.load, technology, wattsEach: usualWatts[technology], dimmable: false },
    }))
  const id = newId()
  const what = technology === 'fan' || technology === 'motor' || technology === 'socket' ? technologyWords[technology] : 'light'
  return inTurn(() =>
    submitJob({
      type: 'recordPoint',
      point: {
        // A second tap that came before the first one’s answer corrects that point.
        id: point.value?.id ?? id,
        roomId: props.box.roomId,
        name: point.value?.name ?? pointNameFor(site.value!, pointsInOrder(job.value!), props.box, props.gang, what).slice(0, 80),
        load: { technology, lamps: 1, wattsEach: usualWatts[technology], dimmable: false },
        mustRun: false,
        fixtureBoxId: null,
        controls: [{ boxId: props.box.id, gang: props.gang }],
      },
    }),
  )
}
/** Where a light is switched from several places, the others are where such a switch sits as well. */
const multiWay = computed(() => here.value?.is === 'threeWay' || here.value?.is === 'fourWay')
const partners = computed(() => {
  if (!multiWay.value) return []
  const points = pointsInOrder(job.value!).filter(({ id }) => id !== point.value?.id)
  const isMultiWay = ({ boxId, gang }: { boxId: string; gang: number }) =>
    site.value!.surveys[boxId]?.old?.some((one) => one.gang === gang && (one.is === 'threeWay' || one.is === 'fourWay'))
  return points
    .filter((one) => one.controls.length < 6 && one.controls.some(isMultiWay))
    .map(({ id, name }) => ({ value: id, label: name }))
})
async function joinTo(pointId: string) {
  const other = job.value!.points[pointId]!
  const own = point.value
  const alone = own && own.controls.length === 1
  if (alone && !(await inTurn(() => submitJob({ type: 'retirePoint', pointId: own.id, reason: `same light as ${other.name}` })))) return
  await store({ ...other, controls: [...other.controls, { boxId: props.box.id, gang: props.gang }] })
}
const lamps = computed({
  get: () => point.value?.load.lamps ?? 1,
  set(value) {
    const more = value - (point.value?.load.lamps ?? 1)
    void change((now) => ({ ...now, load: { ...now.load, lamps: Math.min(60, Math.max(1, now.load.lamps + more)) } }))
  },
})
const name = ref('')
watch(
  () => point.value?.name,
  (said) => (name.value = said ?? ''),
  { immediate: true },
)
function rename() {
  if (point.value && name.value.trim() && name.value.trim() !== point.value.name)
    void change((now) => ({ ...now, name: name.value.trim() }))
}
const removing = ref(false)
async function remove() {
  if (await inTurn(() => submitJob({ type: 'retirePoint', pointId: point.value!.id, reason: 'recorded by mistake in the survey' })))
    removing.value = false
}
</script>

<template>
  <section class="gang" :aria-label="`Gang ${gang}`">
    <p class="kicker">{{ box.gangs > 1 ? `Gang ${gang}: now` : 'Now' }}</p>
    <CommonToggles :spoken="`Gang ${gang}: what sits in it`" :items="t(devices)" :chosen="here?.is" @choose="set" />
    <details v-if="staysAsInput">
      <summary class="opens small">The old switch: keep it?</summary>
      <div class="row wrap">
        <CommonToggles
          :spoken="`Gang ${gang}: the household`"
          :items="[
            { value: 'yes', label: 'wants to keep it' },
            { value: 'no', label: 'lets it go' },
          ]"
          :chosen="here!.keep === null ? undefined : here!.keep ? 'yes' : 'no'"
          @choose="setOld({ keep: $event === 'yes' })"
        />
        <CommonToggles
          v-if="here!.is === 'switch' || here!.is === 'combined'"
          :spoken="`Gang ${gang}: which way is on`"
          :items="waysOn"
          :chosen="here!.onWhen ?? undefined"
          @choose="setOld({ onWhen: $event })"
        />
      </div>
    </details>
    <template v-if="feeds">
      <CommonToggles
        v-if="partners.length && (!point || point.controls.length === 1)"
        :spoken="`Gang ${gang}: the same light as`"
        :items="partners.map((one) => ({ ...one, label: `with ${one.label}` }))"
        :chosen="undefined"
        @choose="joinTo"
      />
      <CommonToggles
        :spoken="`Gang ${gang}: what it switches`"
        :items="technologies"
        :chosen="point?.load.technology"
        @choose="setTechnology"
      />
      <div v-if="point" class="row wrap">
        <SurveyStepper
          v-model="lamps"
          :min="1"
          :max="60"
          :word="point.load.technology === 'led' || point.load.technology === 'filament' ? 'lamp' : 'piece'"
        />
        <CommonToggles
          :spoken="`Gang ${gang}: watts of each`"
          :items="watts"
          :chosen="point.load.wattsEach"
          @choose="setLoad({ wattsEach: $event })"
        />
        <CommonToggles
          v-if="point.load.technology === 'led' || point.load.technology === 'filament'"
          :spoken="`Gang ${gang}: dimmable`"
          :items="[{ value: 'yes', label: 'dimmable' }]"
          :chosen="point.load.dimmable ? 'yes' : undefined"
          @choose="change((now) => ({ ...now, load: { ...now.load, dimmable: !now.load.dimmable } }))"
        />
        <CommonToggles
          v-if="point.load.technology === 'motor'"
          :spoken="`Gang ${gang}: must run`"
          :items="[{ value: 'yes', label: 'must run' }]"
          :chosen="point.mustRun ? 'yes' : undefined"
          @choose="change((now) => ({ ...now, mustRun: !now.mustRun }))"
        />
        <UInput v-model="name" :aria-label="`Gang ${gang}: name of the point`" class="name" maxlength="80" @change="rename" />
        <UButton v-if="!removing" variant="link" @click="removing = true">No such point</UButton>
        <template v-else
          ><UButton color="error" @click="remove">Take {{ point.name }} off</UButton
          ><UButton variant="link" @click="removing = false">Keep it</UButton></template
        >
      </div>
    </template>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.gang {
  display: grid;
  gap: 8px;
  padding-left: 12px;
  border-left: 3px solid var(--line);
}
.name {
  max-width: 240px;
}
</style>
