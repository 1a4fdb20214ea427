<script setup lang="ts">
import { practiceBoxes } from '../../../core/wiring/practice'
import { schemeOf } from '../../../core/units/scheme'
import type { Observation, Prediction, WireReading, WiringPlan } from '../../../core/wiring'

/** One practice box: the same bench as on a job, with the simulated meter in hand. */
const route = useRoute()
const done = usePracticeDone()
const box = computed(() => practiceBoxes.find((one) => one.id === route.params.boxId) ?? null)
const schemeId = computed(() => schemeOf(box.value?.found.nominalVolts ?? 120))
const session = useSession()
const { t } = providePlace(() => ({ schemeId: schemeId.value, region: session.region }))
useHead({ title: () => box.value?.name ?? 'Practice' })
const readings = ref<WireReading[]>([])
const plan = ref<WiringPlan | null>(null)
const observed = ref<Observation[]>([])
const tried = ref<'works' | 'predicted' | 'other' | null>(null)
const seed = ref(1)
const { read, tryOut, failed } = usePractice(
  () => String(route.params.boxId),
  () => seed.value,
)
const options = computed(() => {
  const metric = schemeId.value === 'iec230'
  return { order: 'groundNeutralLoadLine' as const, metric, gauge: metric ? '1.5 mm²' : '14 AWG' }
})
function again() {
  readings.value = []
  plan.value = null
  observed.value = []
  tried.value = null
  seed.value++
}
/** The breaker is closed in the hidden home: this is what really happens. */
async function tryIt(used: WiringPlan, table: Prediction[], lights: { id: string; letter: string }[]) {
  const result = await tryOut(used, table, lights)
  if (!result) return
  observed.value = result.observed
  tried.value = result.works ? 'works' : result.asPredicted ? 'predicted' : 'other'
  if (result.works) done.value = { ...done.value, [box.value!.id]: true }
}
</script>

<template>
  <div v-if="!box" class="page"><p class="note">There is no such practice box.</p></div>
  <WiringWorkspace
    v-else
    :key="`${box.id} ${seed}`"
    :name="box.name"
    :found="box.found"
    :readings="readings"
    :devices="box.devices"
    :plan="plan"
    :loads="box.loads"
    :other-location="box.otherLocation"
    :options="options"
    :observed="observed"
    :meter="read"
    @read="readings = [...readings, ...$event]"
    @plan="((plan = $event), (tried = null), (observed = []))"
    @observe="observed = $event"
  >
    <template #head>
      <div class="row wrap">
        <h1 class="sentence">{{ box.name }}</h1>
        <span class="soft">{{ box.place }} · {{ box.found.nominalVolts }} V</span>
        <span class="grow" />
        <UButton variant="link" @click="again">start over</UButton>
        <UButton to="/practice" variant="link">all boxes</UButton>
      </div>
      <p class="soft">{{ box.story }}</p>
      <p v-if="failed" class="note amber" role="alert">The simulated meter did not answer. Ask it again.</p>
    </template>
    <template #try="{ plan: used, table, lights }">
      <UButton variant="solid" @click="tryIt(used, table, lights)">{{ t('Close the {breaker} and look') }}</UButton>
      <p v-if="tried === 'works'" class="verdict-good" data-testid="tried">Works as predicted, in every position.</p>
      <p v-else-if="tried === 'predicted'" class="verdict-bad" data-testid="tried">Behaves as predicted, but the plan is still wrong.</p>
      <p v-else-if="tried === 'other'" class="verdict-bad" data-testid="tried">Does not behave as predicted.</p>
    </template>
  </WiringWorkspace>
</template>

<style scoped>
.verdict-good {
  color: var(--petrol);
  font-weight: 640;
}
.verdict-bad {
  color: var(--live);
  font-weight: 640;
}
</style>
