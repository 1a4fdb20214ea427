<script setup lang="ts">
import { breakerName, stepAfterClosing, type BoxState } from '../../../core/safety'

/** A closed box: tag off, power back, its points tested; one thing after the other. */
const props = defineProps<{ box: BoxState }>()
const { page, site, asker, offline, giveSite } = injectJobRecord()
const { busy, refusal, run } = useAction()
const step = computed(() => stepAfterClosing(site.value!, props.box.id, asker.value))
const name = computed(() => (step.value.breakerId ? breakerName(site.value!, site.value!.breakers[step.value.breakerId]!) : ''))
const untag = () => run(() => giveSite({ type: 'removeTag', tagId: step.value.id! }))
const ask = () => run(() => giveSite({ type: 'requestClose', grantId: newId(), breakerId: step.value.breakerId!, clearanceId: null }))
const answer = (what: 'closed' | 'givenUp') => run(() => giveSite({ type: 'answerGrant', grantId: step.value.id!, answer: what }))
</script>

<template>
  <div class="stack" data-testid="after-closing">
    <p class="next-title">{{ step.title }}</p>
    <p>{{ step.why }}</p>
    <UButton v-if="step.kind === 'untag'" variant="solid" size="xl" block :loading="busy" @click="untag">My tag is off {{ name }}</UButton>
    <UButton v-else-if="step.kind === 'askClose'" variant="solid" size="xl" block :loading="busy" :disabled="offline" @click="ask"
      >May I close {{ name }}?</UButton
    >
    <div v-else-if="step.kind === 'answer'" class="row wrap">
      <UButton variant="solid" size="xl" :loading="busy" @click="answer('closed')">I closed {{ name }}</UButton>
      <UButton size="xl" :loading="busy" @click="answer('givenUp')">Given up, it is still open</UButton>
    </div>
    <UButton v-else-if="step.kind === 'test'" variant="solid" size="xl" block :to="`/jobs/${page?.job.id}/tests`">Test its points</UButton>
    <UButton v-else-if="step.boxId" size="xl" block :to="`/jobs/${page?.job.id}/box/${step.boxId}`"
      >Go to {{ site!.boxes[step.boxId]?.name }}</UButton
    >
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
