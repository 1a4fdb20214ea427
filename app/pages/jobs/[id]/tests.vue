<script setup lang="ts">
import { inPanelOrder } from '../../../../core/site'
import { boxesOfJob, currentUnits, jobCounts, pointsInOrder } from '../../../../core/job'

const { job, site } = injectJobRecord()
const points = computed(() => pointsInOrder(job.value!))
const units = computed(() => currentUnits(job.value!))
const waiting = computed(() => units.value.filter((unit) => unit.model.setupCode !== 'none' && unit.pairing?.result !== 'joined').length)
const { t } = useTrade()
/** Of a 230 V supply each circuit that was worked on is measured; elsewhere the inspector looks. */
const circuits = computed(() =>
  site.value!.schemeId !== 'iec230'
    ? []
    : [...new Set(boxesOfJob(job.value!, site.value!).flatMap(({ breakerIds }) => breakerIds))]
        .flatMap((id) => site.value!.breakers[id] ?? [])
        .sort(inPanelOrder),
)
const sentence = computed(() => {
  const counts = jobCounts(job.value!, site.value!)
  return `${counts.passed} of ${counted(counts.points, 'point passes', 'points pass')}${counts.failed ? `, ${counted(counts.failed, 'fails', 'fail')}` : ''}${waiting.value ? `; ${counted(waiting.value, 'waits', 'wait')} for pairing` : ''}.`
})
/** The page waits for a part that is still fetched: this one begins once it stands. */
const stands = useMounted()
</script>

<template>
  <div class="page">
    <h1 class="sentence mb-1">{{ sentence }}</h1>
    <p class="soft mb-4">A test counts with the boxes closed, tags off and the power on. From every place, in every position.</p>
    <div class="cols">
      <div>
        <h2 class="kicker mb-2">Functional test</h2>
        <HomePointTest v-for="point in points" :key="point.id" :point="point" />
      </div>
      <div>
        <div class="row mb-2">
          <h2 class="kicker grow">Pairing and names</h2>
          <UButton v-if="waiting" :to="`/jobs/${job!.jobId}/windows`" variant="link" class="p-0">Pairing windows</UButton>
          <UButton v-if="units.length" :to="`/jobs/${job!.jobId}/names`" variant="link" class="p-0">Names as they are heard</UButton>
          <UButton v-if="units.length" :to="`/jobs/${job!.jobId}/schedules`" variant="link" class="p-0">Schedules and rules</UButton>
        </div>
        <p v-if="!units.length" class="soft">No device is recorded yet. Devices come from the bench, with serial and code.</p>
        <template v-if="stands"><LazyHomeUnitPairing v-for="unit in units" :key="unit.id" :unit="unit" /></template>
      </div>
    </div>
    <section v-if="circuits.length" class="mt-8" aria-label="Verification of circuits">
      <div class="row wrap mb-2">
        <h2 class="kicker grow">{{ t('Circuits, verified after the work (IEC 60364-6)') }}</h2>
        <UButton
          v-if="job!.verified"
          :to="`/api/jobs/${job!.jobId}/verification`"
          external
          data-paper
          target="_blank"
          icon="i-lucide-printer"
          >Its paper (PDF)</UButton
        >
      </div>
      <LazyHomeCircuitVerification v-for="breaker in circuits" :key="breaker.id" :breaker="breaker" />
    </section>
    <div class="mt-6"><PowerRail :box-ids="job!.boxIds" compact title="Power at this site" /></div>
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
  gap: 32px;
}
@media (max-width: 1000px) {
  .cols {
    grid-template-columns: 1fr;
  }
}
</style>
