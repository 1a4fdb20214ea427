<script setup lang="ts">
import { observationWords, pairingStepWords } from '../../../../core/commission/pairing/words'
import { channelPoints, pairingOf, pointsOfUnit, radioOf, type Strip, type Unit } from '../../../../core/job'
import { boxName, markOf } from '../../../../core/site'

/** Windows that burn down from the recorded closing: which device now, what it shows, and what waits for later. */
const { page, job, site, onCrew, submitJob } = injectJobRecord()
const { t } = useTrade()
const { now, desk } = usePairingDesk()
const { busy, refusal, run } = useAction()
/** Somebody may take another one first. */
const picked = ref<string | null>(null)
const current = computed(
  (): Strip | null =>
    [...(desk.value?.strips ?? []), ...(desk.value?.joined ?? [])].find(({ unit, state }) => unit.id === picked.value && state !== 'off') ??
    desk.value?.first ??
    null,
)
const others = computed(() => (desk.value?.strips ?? []).filter((strip) => strip !== current.value))
// One that has just been paired, or is parked, is not picked any more.
watch([() => current.value?.unit.id, () => current.value?.state], ([id, state], [idBefore, before]) => {
  if (id !== picked.value || (id === idBefore && before !== 'joined' && state === 'joined')) picked.value = null
})

const nameOf = (unit: Unit) => nameOfUnit(job.value!, unit)
const whereOf = (unit: Unit) => {
  const box = site.value!.boxes[unit.boxId]
  return box ? `${boxName(site.value!, box)}${box.gangs > 1 ? `, gang ${unit.gang}` : ''}` : ''
}
const gestureOf = (unit: Unit) => unit.model.pairingSteps[1] ?? unit.model.pairingSteps[0] ?? ''
const waitsFor = (unit: Unit) => (site.value!.boxes[unit.boxId]?.breakerIds ?? []).map((id) => markOf(site.value!, id)).join(', ')
const sentence = computed(() => {
  const known = desk.value
  if (!known) return ''
  const first = current.value
  const waiting = known.strips.filter(({ state }) => state !== 'off').length
  if (first)
    return `${nameOf(first.unit)} ${first.state === 'joined' ? 'again' : 'now'}${waiting ? `; ${counted(waiting, 'device waits', 'devices wait')}` : ''}.`
  if (known.strips.some(({ byMate }) => byMate)) return 'The crew is pairing all that has power.'
  if (known.strips.length) return t(`${counted(known.strips.length, 'device waits', 'devices wait')} for power.`)
  if (known.parked.length) return `${counted(known.parked.length, 'device is', 'devices are')} left for later.`
  if (known.joined.length === 1) return `${nameOf(known.joined[0]!.unit)} is paired.`
  return known.joined.length ? `All ${known.joined.length} are paired.` : 'Nothing is there to be paired yet.'
})
const ofUnit = (id: string) => desk.value!.strips.find(({ unit }) => unit.id === id)
const listed = (ids: string[]) =>
  ids
    .flatMap((id) => ofUnit(id)?.unit ?? [])
    .map(nameOf)
    .join(', ')
const lastSeen = ({ joining }: Strip) => {
  const last = joining.history.findLast((entry) => 'seen' in entry)
  return last && 'seen' in last ? observationWords[last.seen] : 'it was left before anything was seen'
}
const takeUp = (unitId: string) => run(() => submitJob({ type: 'takeUpUnit', unitId }))
/** Room and thing, as the household would say it. */
const suggestionFor = (unit: Unit) => {
  const points = pointsOfUnit(job.value!, unit)
  const [point] = points
  if (!point || channelPoints(job.value!, unit).length) return ''
  const room = site.value!.rooms[point.roomId]?.name ?? ''
  return (point.name.toLowerCase().includes(room.toLowerCase()) ? point.name : `${room} ${point.name}`).toLowerCase()
}
const again = computed(() => (desk.value?.joined ?? []).filter(({ unit }) => pairingOf(job.value!).inherited.includes(unit.id)))
const settle = (unitId: string, is: 'kept' | 'cleared') => run(() => submitJob({ type: 'settleInherited', unitId, is }))
const meshJoined = computed(() => desk.value?.joined.some(({ unit }) => radioOf(unit) === 'mesh') ?? false)
const unnamed = computed(() => (desk.value?.joined ?? []).filter(({ unit }) => !unit.name))
const nameIt = (unit: Unit) =>
  run(() => submitJob({ type: 'nameUnit', unitId: unit.id, pointId: null, name: suggestionFor(unit), despiteClash: false }))
useHead({ title: () => (page.value ? `Pairing windows · ${page.value.site.name}` : 'Pairing windows') })
</script>

<template>
  <div v-if="job && site && desk" class="page stack">
    <header>
      <h1 class="sentence mb-1" data-testid="windows-sentence">{{ sentence }}</h1>
      <p class="soft small intro">
        {{ t('Windows burn down from the recorded closing of the {breaker}. The one that cannot wait comes first.') }}
      </p>
    </header>
    <PairingBand :now="now" />
    <div class="cols">
      <div class="stack">
        <PairingNow
          v-if="current"
          :key="current.unit.id"
          :strip="current"
          :now="now"
          :name="nameOf(current.unit)"
          :where="whereOf(current.unit)"
        />
        <ol v-if="others.length" class="ruled" aria-label="The others">
          <li v-for="strip in others" :key="strip.unit.id" class="strip" :data-testid="`strip-${strip.unit.serial}`">
            <span class="grow"
              ><b>{{ nameOf(strip.unit) }}</b> <span class="soft small">{{ whereOf(strip.unit) }}</span><br /><span class="small soft">{{
                strip.byMate
                  ? `${strip.byMate} is pairing it`
                  : strip.state === 'off'
                    ? t(`waits for {breaker} ${waitsFor(strip.unit)}`)
                    : t(gestureOf(strip.unit))
              }}</span></span
            >
            <PairingBurn :window="strip.window" :now="now" class="burnt" />
            <UButton
              v-if="onCrew && strip.state !== 'off' && !strip.byMate"
              :aria-label="`${nameOf(strip.unit)} first`"
              @click="picked = strip.unit.id"
              >First</UButton
            >
          </li>
        </ol>
        <p v-for="cycle in desk.order.cycles" :key="cycle.ids.join()" class="note amber small" data-testid="cycle">
          {{
            t(
              `In no window any more: ${listed(cycle.ids)}. Once the others are paired, ${cycle.breakerId ? `{breaker} ${markOf(site, cycle.breakerId)}` : '{the breaker} that feeds it'} is opened and closed once for ${cycle.ids.length === 1 ? 'it' : 'all of them'}; it may still wait: look first.`,
            )
          }}
        </p>
        <p v-if="desk.order.restarted.length" class="note small">
          {{ t(`Started anew by themselves, no {breaker} is touched: ${listed(desk.order.restarted)}.`) }}
        </p>
        <section v-if="desk.parked.length" class="stack">
          <h2 class="kicker">Left for later</h2>
          <div v-for="strip in desk.parked" :key="strip.unit.id" class="strip" :data-testid="`parked-${strip.unit.serial}`">
            <span class="grow"
              ><b>{{ nameOf(strip.unit) }}</b> <span class="soft small">{{ whereOf(strip.unit) }}</span><br /><span class="small"
                >{{ lastSeen(strip)
                }}<template v-if="strip.next[0]">; next: {{ t(pairingStepWords[strip.next[0].step].title) }}</template></span
              ></span
            >
            <UButton v-if="onCrew" :loading="busy" :aria-label="`Take ${nameOf(strip.unit)} up again`" @click="takeUp(strip.unit.id)"
              >Take it up</UButton
            >
          </div>
        </section>
      </div>
      <div class="stack side" :class="{ early: !current }">
        <PairingBefore />
        <section v-if="unnamed.length && onCrew" class="stack">
          <h2 class="kicker">Paired, no name yet</h2>
          <p v-for="{ unit } in unnamed" :key="unit.id" class="row wrap">
            <span class="grow">{{ nameOf(unit) }}</span><UButton v-if="suggestionFor(unit)" :loading="busy" @click="nameIt(unit)"
              >“{{ suggestionFor(unit) }}”</UButton
            ><UButton variant="link" class="p-0" :to="`/jobs/${job.jobId}/tests`">another</UButton>
          </p>
        </section>
        <section v-if="desk.joined.length" class="stack">
          <h2 class="kicker">Paired</h2>
          <p v-for="{ unit } in desk.joined" :key="unit.id" class="small">
            <b>{{ nameOf(unit) }}</b> <span v-if="unit.pairing?.network" class="soft">on {{ unit.pairing.network }}</span>
            <UButton v-if="onCrew" variant="link" size="sm" :aria-label="`Pair ${nameOf(unit)} again`" @click="picked = unit.id"
              >again</UButton
            >
          </p>
        </section>
        <section v-for="{ unit } in again" :key="unit.id" class="note amber stack" :data-testid="`inherited-${unit.serial}`">
          <p class="small">
            <b>{{ nameOf(unit) }}</b> was added again: it may have brought back its old name, room and schedules. Look in the app.
          </p>
          <div v-if="onCrew" class="row wrap">
            <UButton :loading="busy" @click="settle(unit.id, 'kept')">They are right</UButton
            ><UButton :loading="busy" @click="settle(unit.id, 'cleared')">Cleared</UButton>
          </div>
        </section>
        <p v-if="meshJoined" class="soft small">
          Once the last of a mesh is paired, have its routes worked out anew in the app of its hub.
        </p>
        <PairingDrill />
        <PairingAddresses />
        <CommonRefusal :refusal="refusal" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(0, 1fr);
  gap: 32px;
}
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  padding: 8px 0;
}
.burnt {
  width: 190px;
}
@media (max-width: 1000px) {
  .cols {
    grid-template-columns: 1fr;
  }
  .burnt {
    width: 100%;
    order: 1;
  }
  /* Until something burns there is time to settle what comes before. */
  .early {
    order: -1;
  }
  .intro {
    display: none;
  }
}
</style>
