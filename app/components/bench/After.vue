<script setup lang="ts">
import { nextBoxOf } from '../../../core/job'
import { boxName, breakerName, sentence, stepAfterClosing, type BoxState } from '../../../core/site'

/** A closed box: the next box on its breaker, else the tag off, power back, its points tested; one thing after the other. */
const props = defineProps<{ box: BoxState }>()
const { page, job, site, asker, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const step = computed(() => stepAfterClosing(site.value!, props.box.id, asker.value))
const name = computed(() => (step.value.breakerId ? breakerName(site.value!, site.value!.breakers[step.value.breakerId]!) : ''))
const powerFirst = ref(false)
/** No breaker is closed to be opened again for the next box. */
const other = computed(() =>
  !powerFirst.value && ['untag', 'askClose'].includes(step.value.kind) ? nextBoxOf(job.value!, site.value!, props.box.id) : null,
)
const untag = () => run(() => submitSite({ type: 'removeTag', tagId: step.value.id! }))
const ask = () => run(() => submitSite({ type: 'requestClose', grantId: newId(), breakerId: step.value.breakerId!, clearanceId: null }))
</script>

<template>
  <div class="stack" data-testid="after-closing">
    <template v-if="other">
      <p class="next-title">{{ t('Next, on the same {breaker}:') }} {{ boxName(site!, other) }}</p>
      <p>{{ sentence(boxName(site!, box)) }} is done. The power comes back once, when both are done.</p>
      <JobAct :to="`/jobs/${page?.job.id}/box/${other.id}`">Go to {{ other.name }}</JobAct>
      <UButton variant="link" class="self-start" @click="powerFirst = true">power back first</UButton>
    </template>
    <!-- One’s own permit stands above: it waits for its answer on every page. -->
    <template v-else-if="step.kind !== 'answer'">
      <p class="next-title">{{ t(step.title) }}</p>
      <p>{{ t(step.why) }}</p>
      <JobAct v-if="step.kind === 'untag'" :loading="busy" @click="untag">Take my tag off {{ name }}</JobAct>
      <JobAct v-else-if="step.kind === 'askClose'" :loading="busy" :disabled="offline" @click="ask">Ask to close {{ name }}</JobAct>
      <JobAct v-else-if="step.kind === 'test'" :to="`/jobs/${page?.job.id}/tests`">Test its points</JobAct>
      <JobAct v-else-if="step.boxId" :to="`/jobs/${page?.job.id}/box/${step.boxId}`">Go to {{ site!.boxes[step.boxId]?.name }}</JobAct>
    </template>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
