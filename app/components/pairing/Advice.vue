<script setup lang="ts">
import { pairingCauseWords, pairingStepWords, type NextStep, type PairingStep } from '../../../core/commission/pairing'
import { pairingOf, type Strip } from '../../../core/job'

/** What to try next, the likeliest for its minutes first; the others are one tap away. */
const props = defineProps<{ strip: Strip; busy: boolean }>()
const emit = defineEmits<{ tried: [step: PairingStep]; again: [] }>()
const { jobId, job, site, submitJob } = injectJobRecord()
const { t } = useTrade()
const { busy: pausing, refusal, run } = useAction()
const othersAtOnce = 4
const chosen = ref<PairingStep | null>(null)
watch(
  () => props.strip.joining.history.length,
  () => (chosen.value = null),
)
const step = computed((): NextStep | null => props.strip.next.find((one) => one.step === chosen.value) ?? props.strip.next[0] ?? null)
const others = computed(() => props.strip.next.filter((one) => one !== step.value).slice(0, othersAtOnce))
const model = computed(() => props.strip.unit.model)
/** As the maker of this very model has it. */
const how = computed((): string[] => {
  switch (step.value?.step) {
    case 'gesture':
      return model.value.pairingSteps
    case 'restart':
      return [model.value.restart].filter(Boolean)
    case 'reset':
      return [model.value.reset].filter(Boolean)
    case 'accessPoint':
      return [model.value.ownNetwork].filter(Boolean)
    default:
      return []
  }
})
const paused = computed(() => pairingOf(job.value!).band !== null)
const pauseMinutes = 10
const bound = computed(() => Object.values(site.value!.networks).flatMap((one) => one.bound))
</script>

<template>
  <section v-if="step" class="stack" data-testid="advice">
    <p class="soft">Likeliest: {{ t(pairingCauseWords[step.cause]) }}.</p>
    <h3 class="title">{{ t(pairingStepWords[step.step].title) }}</h3>
    <ul v-if="how.length" class="list-disc ps-5">
      <li v-for="line in how" :key="line">{{ t(line) }}</li>
    </ul>
    <p v-else>{{ t(pairingStepWords[step.step].how) }}</p>
    <p v-if="step.step === 'reset' && bound.length" class="small">On record of a previous owner here: {{ bound.join(', ') }}.</p>
    <div v-if="step.step === 'band'" class="row wrap">
      <UButton v-if="!paused" :loading="pausing" @click="run(() => submitJob({ type: 'pauseBand', minutes: pauseMinutes }))"
        >5 GHz is paused: start {{ pauseMinutes }} minutes</UButton
      ><span v-else class="small">5 GHz is paused by the record.</span>
    </div>
    <p v-if="step.step === 'powerCycle'" class="note small">
      {{ t('Ask on the {panel}’s page. What was proven dead behind it is not any more.') }}
      <NuxtLink :to="`/jobs/${jobId}/panel`" class="underline">{{ t('To the {panel}') }}</NuxtLink>
    </p>
    <p class="soft small">Helps {{ inTen(step.chance) }}; {{ Math.round(step.minutes) }} min with the wait after it.</p>
    <div class="row wrap">
      <UButton variant="solid" size="xl" :loading="busy" @click="emit('tried', step.step)">Done: try it again</UButton>
      <UButton variant="link" @click="emit('again')">Saw something else</UButton>
    </div>
    <details v-if="others.length">
      <summary class="small soft">Something else first</summary>
      <div class="row wrap mt-2">
        <UButton v-for="one in others" :key="one.step" @click="chosen = one.step"
          >{{ t(pairingStepWords[one.step].title) }} <span class="soft small">{{ inTen(one.chance) }}</span></UButton
        >
      </div>
    </details>
    <CommonRefusal :refusal="refusal" />
  </section>
  <p v-else class="note">Everything on record was tried. Leave it for later, and ask its maker with what it showed.</p>
</template>

<style scoped>
.title {
  font-size: 22px;
  font-weight: 680;
}
</style>
