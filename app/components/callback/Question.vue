<script setup lang="ts">
import type { Asked, Cause, NextStep } from '../../../core/triage'
import type { DeviceModel } from '../../../core/fit'

/** The one thing that is asked or tried now; everything in it can be read aloud. */
const props = defineProps<{ next: NextStep; model: DeviceModel }>()
const emit = defineEmits<{ answer: [asked: Asked, answer: number | null]; tried: [cause: Cause, mended: boolean] }>()
const { t } = useTrade()
const asked = computed(() => (props.next.kind === 'ask' ? props.next.asked : null))
/** How it is done at this very model, where that is on record. */
const hint = computed(() => (asked.value?.question.id === 'again' ? props.model.restart : ''))
const whyVisit = {
  nothingByPhone: 'Somebody has to come: nothing that is left can be mended on the telephone.',
  enoughAsked: 'Enough was asked. Somebody has to come.',
  nothingTells: 'Another question would tell no more. Somebody has to come.',
  atWork: 'Our crew is in the home: nothing is switched there on our advice. Ask them.',
}
const sure = (share: number) => (share >= 0.75 ? 'That is very likely' : share >= 0.5 ? 'That is likely' : 'That is worth a try')
</script>

<template>
  <div class="stack" aria-live="polite" data-testid="next-question">
    <template v-if="asked">
      <h2 class="next-title"><span v-if="asked.again" class="soft">To be sure, once more: </span>{{ t(asked.question.ask) }}</h2>
      <p v-if="hint" class="note small">At this model: {{ hint }}</p>
      <div class="stack">
        <UButton
          v-for="(words, index) in asked.question.answers"
          :key="words"
          variant="solid"
          size="xl"
          block
          @click="emit('answer', asked, index)"
          >{{ t(words) }}</UButton
        >
        <UButton size="xl" block @click="emit('answer', asked, null)">Doesn’t know</UButton>
      </div>
    </template>
    <template v-else-if="next.kind === 'try'">
      <h2 class="next-title">{{ sure(next.mends) }}: {{ t(next.cause.words) }}. Read this aloud, and wait.</h2>
      <ol class="steps">
        <li v-for="step in next.cause.steps" :key="step">{{ t(step) }}</li>
      </ol>
      <UButton variant="solid" size="xl" block @click="emit('tried', next.cause, true)">It works again</UButton>
      <UButton size="xl" block @click="emit('tried', next.cause, false)">It did not help</UButton>
    </template>
    <template v-else-if="next.kind === 'mended'">
      <h2 class="next-title good">Mended on the telephone: {{ t(next.cause.words) }}.</h2>
      <p>In two days the customer is called back, and asked whether it stays so.</p>
    </template>
    <h2 v-else-if="next.kind === 'visit'" class="next-title">{{ whyVisit[next.why] }}</h2>
  </div>
</template>

<style scoped>
.steps {
  list-style: decimal;
  padding-left: 22px;
  display: grid;
  gap: 8px;
  font-size: 16px;
}
</style>
