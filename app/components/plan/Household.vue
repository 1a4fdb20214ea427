<script setup lang="ts">
import { usualHousehold, type Household } from '../../../core/plan'

/** Who lives there: it decides what is easy to use, and how far ahead one looks. */
const { job, submitJob } = injectJobRecord()
const { refusal, inTurn } = useAction()
const household = computed<Household>(() => job.value?.household ?? usualHousehold)
const put = (change: (now: Household) => Partial<Household>) =>
  inTurn(() => submitJob({ type: 'describeHousehold', ...household.value, ...change(household.value) }))
const facts = [
  { value: 'guests' as const, label: 'guests or tenants' },
  { value: 'plainControls' as const, label: 'walls as they always were' },
  { value: 'renovating' as const, label: 'walls are open' },
]
const platform = ref(household.value.worksWith)
watch(
  () => household.value.worksWith,
  (said) => (platform.value = said),
)
const pressed = computed(() => facts.flatMap(({ value }) => (household.value[value] ? [value] : [])))
</script>

<template>
  <section class="row wrap" aria-label="The household">
    <CommonToggles spoken="The household" :items="facts" :chosen="pressed" @choose="(value) => put((now) => ({ [value]: !now[value] }))" />
    <SurveyStepper
      :model-value="household.years"
      :min="1"
      :max="20"
      word="year ahead"
      words="years ahead"
      spoken="Years one looks ahead"
      @update:model-value="(value: number) => put(() => ({ years: value }))"
    />
    <UInput
      v-model="platform"
      aria-label="Everything is to work with"
      placeholder="to work with …"
      maxlength="40"
      class="w-44"
      @change="put(() => ({ worksWith: platform.trim() }))"
    />
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
