<script setup lang="ts">
import { breakerName, canMeasure, canTouch, isEnergised, sentence } from '../../../../../core/site'
import {
  boxLoads,
  flagRole,
  asFoundBoxOf,
  gangsOf,
  groupOf,
  matesOf,
  notedAtOtherBoxes,
  otherLocationOf,
  planAtOtherBoxOf,
  plannedDevices,
  pointsOfBox,
  testedLights,
  wantsDevice,
  wiringOf,
} from '../../../../../core/job'
import type { Findings, Observation, WireReading, WiringPlan } from '../../../../../core/wiring'

/** The wiring bench of one box of a job. */
const route = useRoute()
const { page, job, site, asker, vantage, settings, onCrew, offline, submitJob } = injectJobRecord()
const { busy, refusal, run, inTurn } = useAction()
const box = computed(() => site.value?.boxes[String(route.params.boxId)] ?? null)
useHead({ title: () => `Wiring of ${box.value?.name ?? 'a box'}` })
const wiring = computed(() => (job.value && box.value ? wiringOf(job.value, box.value.id) : null))
const describing = ref(false)
const found = computed(() =>
  site.value && box.value && wiring.value?.notes ? asFoundBoxOf(site.value, box.value, wiring.value.notes) : null,
)
const devices = computed(() => (job.value && box.value ? plannedDevices(job.value, box.value.id) : []))
const loads = computed(() => (job.value && box.value ? boxLoads(job.value, box.value.id) : []))
const farSwitches = computed(() => Math.max(0, ...points.value.map((point) => point.controls.length - 1)))
const circuits = computed(() => box.value!.breakerIds.flatMap((id) => site.value!.breakers[id]?.number ?? []))
/** Two lines of one breaker are one circuit in the record, and are not told apart here. */
const stopHints = computed(() =>
  box
    .value!.breakerIds.flatMap((id) => site.value!.breakers[id] ?? [])
    .filter(({ poles }) => poles > 1)
    .map(
      (breaker) =>
        `${sentence(breakerName(site.value!, breaker))} has ${breaker.poles} poles. With two of its lines in one box nothing fits here: that box is for the licensed lead.`,
    ),
)
const points = computed(() => pointsOfBox(job.value!, box.value!.id))
const options = computed(() => {
  const metric = site.value?.schemeId === 'iec230'
  const first = box.value?.conductors.find((conductor) => conductor.gaugeAwg ?? conductor.areaMm2)
  return {
    order: settings.value.connectionOrder,
    metric,
    gauge: metric ? `${first?.areaMm2 ?? 1.5} mm²` : `${first?.gaugeAwg ?? 14} AWG`,
  }
})
const touch = computed(() => (box.value ? canTouch(site.value!, box.value.id, asker.value, vantage.value) : null))
const measure = computed(() => (box.value ? canMeasure(site.value!, box.value.id, asker.value, vantage.value) : null))
const crewNo = computed(() => (onCrew.value ? [] : ['You are not on a visit of this job: you can look.']))
const deadNo = computed(() => [...crewNo.value, ...(touch.value && !touch.value.yes ? [...touch.value.reasons, ...touch.value.toYes] : [])])
/** Boxes that switch a light together are one wiring: a plan is laid at one of them. */
const groupNames = computed(() =>
  groupOf(job.value!, box.value!.id).map((id) => ({ to: `/jobs/${page.value?.job.id}/wiring/${id}`, name: nameOf(id) })),
)
const nameOf = (id: string) => site.value!.boxes[id]?.name ?? 'another box'
const layNo = computed(() => {
  const owner = box.value!.gangs === 1 ? planAtOtherBoxOf(job.value!, box.value!.id) : null
  if (crewNo.value.length || !owner) return crewNo.value
  return [`Wired together with ${nameOf(owner)}: what is done here follows from the plan laid there.`]
})
const liveNo = computed(() => {
  if (crewNo.value.length) return crewNo.value
  if (measure.value && !measure.value.yes) return [...measure.value.reasons, ...measure.value.toYes]
  const off = box.value!.breakerIds.flatMap((id) => site.value!.breakers[id] ?? []).every((breaker) => !isEnergised(site.value!, breaker))
  return off ? ['Every {breaker} of this box is open in the record: ask for power for a moment, with everyone clear.'] : []
})
const on = computed(() =>
  box
    .value!.breakerIds.flatMap((id) => site.value!.breakers[id] ?? [])
    .filter((breaker) => isEnergised(site.value!, breaker))
    .map(({ number }) => number),
)
const boxId = computed(() => box.value!.id)
const note = async (notes: NonNullable<typeof wiring.value>['notes']) => {
  if (await run(() => submitJob({ type: 'noteFound', boxId: boxId.value, notes: notes! }))) describing.value = false
}
const read = (readings: WireReading[]) => run(() => submitJob({ type: 'readWires', boxId: boxId.value, readings }))
// Laying goes on while the last change is being stored; each is laid on what stands on the screen.
const lay = (plan: WiringPlan | null) => inTurn(() => submitJob({ type: 'planWiring', boxId: boxId.value, plan }))
const observe = (rows: Observation[]) => run(() => submitJob({ type: 'observeFunctions', boxId: boxId.value, rows }))
const forget = () => run(() => submitJob({ type: 'forgetReadings', boxId: boxId.value, reason: 'cleared at the bench' }))
/** Every established role goes on the conductor's flag, in one go. */
async function flag(findings: Findings) {
  for (const wire of findings.wires) {
    const here = wire.settled ?? wire.joint
    if (!here || flags.value[wire.letter]?.role === flagRole[here.role]) continue
    const given = await run(() =>
      submitJob({ type: 'establishRole', boxId: boxId.value, letter: wire.letter, role: flagRole[here.role], method: 'readings' }),
    )
    if (!given) return
  }
}
/** A gang whose device nobody has chosen: nothing can be laid before. */
const wants = computed(() => (onCrew.value ? gangsOf(box.value!).find((gang) => wantsDevice(job.value!, box.value!.id, gang)) : undefined))
const flags = computed(() => job.value?.boxes[box.value?.id ?? '']?.roles ?? {})
const flagged = (findings: Findings) =>
  findings.wires.every((wire) => {
    const here = wire.settled ?? wire.joint
    return here !== null && flags.value[wire.letter]?.role === flagRole[here.role]
  })
</script>

<template>
  <div v-if="!box || !wiring" class="page"><p class="note">This box is not part of the site.</p></div>
  <div v-else-if="!found || describing" class="page stack" :class="{ narrow: !box.conductors.length }">
    <div class="row wrap">
      <h1 class="sentence">{{ sentence(box.name) }}: wiring</h1>
      <span class="grow" /><UButton :to="`/jobs/${page?.job.id}/box/${box.id}`" variant="link">back to the box</UButton>
    </div>
    <WiringGroup :names="groupNames" />
    <JobDock v-if="!box.conductors.length">
      <PowerAsks />
      <BenchPowerStep v-if="onCrew" :box="box" />
      <p v-else>The conductors of this box are not recorded yet.</p>
    </JobDock>
    <template v-else>
      <p v-if="!onCrew" class="note">{{ crewNo.join(' ') }}</p>
      <fieldset :disabled="!onCrew" class="contents">
        <WiringAsFound
          :box="box"
          :circuits="circuits"
          :notes="wiring.notes"
          :elsewhere="notedAtOtherBoxes(job!, site!, box.id)"
          :far-switches="farSwitches"
          :year-built="page?.site.yearBuilt ?? null"
          :busy="busy"
          @store="note"
        />
      </fieldset>
    </template>
    <CommonRefusal :refusal="refusal" />
  </div>
  <div v-else-if="!found.ok" class="page narrow stack">
    <h1 class="sentence">{{ sentence(box.name) }}: wiring</h1>
    <p class="note amber">{{ found.reason }}</p>
    <UButton :to="`/jobs/${page?.job.id}/box/${box.id}`" class="self-start">Back to the box</UButton>
  </div>
  <WiringWorkspace
    v-else
    :name="box.name"
    :found="found.found"
    :readings="wiring.readings"
    :devices="devices"
    :plan="wiring.plan"
    :loads="loads"
    :options="options"
    :observed="wiring.observed"
    :tested="testedLights(job!, site!, box.id)"
    :points="points"
    :connectors="settings.connectors ?? []"
    :other-location="otherLocationOf(job!, box.id)"
    :mates="matesOf(job!, site!, box.id)"
    :dead-no="deadNo"
    :live-no="liveNo"
    :lay-no="layNo"
    :stop-hints="stopHints"
    :busy="busy"
    :on="on"
    @read="read"
    @plan="lay"
    @observe="observe"
  >
    <template #head>
      <div class="row wrap">
        <h1 class="sentence">{{ sentence(box.name) }}: wiring</h1>
        <span class="soft"
          >{{ site!.rooms[box.roomId]?.name }} · circuit{{ found.found.circuits.length > 1 ? 's' : '' }}
          {{ found.found.circuits.join(', ') }}</span
        >
        <span class="grow" />
        <UButton v-if="onCrew" variant="link" @click="describing = true">as found</UButton>
        <UButton :to="`/jobs/${page?.job.id}/box/${box.id}`" variant="link">back to the box</UButton>
      </div>
    </template>
    <template #asks><PowerAsks /></template>
    <template v-if="onCrew" #before="{ next }">
      <BenchMoment v-if="next.energised" :box="box" :closed="next.tests[0]!.closed" />
      <BenchPowerStep v-else :box="box" />
    </template>
    <template #power>
      <WiringGroup :names="groupNames" />
      <PowerRail :box-ids="[box.id]" compact />
      <p v-if="offline" class="note amber"><b>No network.</b> Readings are kept on this device; roles are established when they arrive.</p>
      <LazyBenchLive v-if="onCrew && box.closure === 'opened'" :box="box" />
      <CommonRefusal :refusal="refusal" />
    </template>
    <template #known="{ findings }">
      <div v-if="findings" class="stack">
        <p v-if="flagged(findings)" class="good"><b>Every flag says what the readings establish.</b></p>
        <JobAct v-else :loading="busy" :disabled="!onCrew" @click="flag(findings)">Save roles to the tags</JobAct>
        <template v-if="wants && flagged(findings)">
          <p class="next-title">{{ box.gangs > 1 ? `Gang ${wants}: what` : 'What' }} goes in here?</p>
          <BenchModels :box="box" :gang="wants" />
        </template>
      </div>
    </template>
    <template #laid="{ blocked }">
      <p v-if="blocked" class="note red">There is a problem with this wiring plan: change it.</p>
      <JobAct v-else :to="`/jobs/${page?.job.id}/box/${box.id}`">Connect it at the box</JobAct>
    </template>
    <template #end>
      <UButton v-if="wiring.readings.length && onCrew" variant="link" class="self-start" @click="forget">Clear readings</UButton>
    </template>
  </WiringWorkspace>
</template>

<style scoped>
.narrow {
  max-width: 640px;
}
</style>
