<script setup lang="ts">
import { payerWords, type Callback } from '../../../core/job'
import { answersInWords, redFlags, symptomWords } from '../../../core/triage'

/** What was said on the telephone, and what was concluded from it then. */
const props = defineProps<{ call: NonNullable<Callback['call']> }>()
const { t } = useTrade()
const flags = computed(() => props.call.flags.map((flag) => t((redFlags as Record<string, string>)[flag] ?? flag)))
const symptoms = computed(() => props.call.symptoms.map((one) => t((symptomWords as Record<string, string>)[one] ?? one)))
const answers = computed(() => t(answersInWords(props.call.answers)))
</script>

<template>
  <section class="stack said" aria-label="Said on the telephone">
    <p v-if="flags.length" class="note red">
      <b class="bad">Danger:</b> {{ flags.join(', ') }}. The {{ t('{breaker}') }} stays off until a licensed person has looked.
    </p>
    <p v-if="call.ranked.length && !flags.length">
      <b>Likely:</b>
      <template v-for="(one, index) in call.ranked.slice(0, 3)" :key="one.cause"
        >{{ index ? ', ' : ' ' }}{{ t(one.words) }} <span class="mono small">{{ Math.round(one.share * 100) }} %</span></template
      >.
    </p>
    <p v-if="call.carry.length"><b>Take along:</b> {{ call.carry.join(', ') }}.</p>
    <p class="soft small">
      About {{ call.minutes }} min there{{ call.licence ? ', a licensed person' : ''
      }}<template v-if="call.payer">; paid by {{ payerWords[call.payer] }}, as it looks</template>.
    </p>
    <details v-if="symptoms.length || answers.length">
      <summary>What was said on the telephone</summary>
      <p v-if="symptoms.length" class="small mt-2">{{ symptoms.join(', ') }}.</p>
      <p v-for="one in answers" :key="one.ask" class="small">
        <span class="soft">{{ one.ask }}</span> <b>{{ one.answer }}</b>
      </p>
    </details>
  </section>
</template>

<style scoped>
.said {
  padding-bottom: 8px;
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  text-decoration: underline;
}
</style>
