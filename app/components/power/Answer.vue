<script setup lang="ts">
import { againstPermit, type ClosePermit } from '../../../core/site'

/** One's own permit to close that is out: what stands against it by now, and how the breaker is. */
const props = defineProps<{ permit: ClosePermit }>()
const { site, vantage, submitSite } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const over = computed(() => props.permit.expiresAt !== null && Date.parse(props.permit.expiresAt) < Date.parse(vantage.value.now))
const answer = (what: 'closed' | 'givenUp') => run(() => submitSite({ type: 'answerPermit', grantId: props.permit.id, answer: what }))
</script>

<template>
  <div class="stack">
    <p v-for="why in againstPermit(site!, permit)" :key="why" class="bad"><b>Permit withdrawn. Do not close:</b> {{ t(why) }}</p>
    <p v-if="over" class="bad"><b>Permit expired. Do not close.</b> {{ t('Record the position of the {breaker}.') }}</p>
    <div class="row wrap">
      <UButton variant="solid" size="xl" :loading="busy" @click="answer('closed')">It is closed</UButton>
      <UButton size="xl" :loading="busy" @click="answer('givenUp')">Not closed, still open</UButton>
    </div>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
