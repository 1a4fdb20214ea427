<script setup lang="ts">
import { againstLeave, type Grant } from '../../../core/site'

/** One's own leave to close that is out: what stands against it by now, and how the breaker is. */
const props = defineProps<{ grant: Grant }>()
const { site, clock, giveSite } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const over = computed(() => props.grant.expiresAt !== null && Date.parse(props.grant.expiresAt) < Date.parse(clock.value.now))
const answer = (what: 'closed' | 'givenUp') => run(() => giveSite({ type: 'answerGrant', grantId: props.grant.id, answer: what }))
</script>

<template>
  <div class="stack">
    <p v-for="why in againstLeave(site!, grant)" :key="why" class="bad"><b>Permit withdrawn. Do not close:</b> {{ t(why) }}</p>
    <p v-if="over" class="bad">
      <b>Permit expired. Do not It never gives a permit to close.</b> {{ t('Record the position of the {breaker}.') }}
    </p>
    <div class="row wrap">
      <UButton variant="solid" size="xl" :loading="busy" @click="answer('closed')">It is closed</UButton>
      <UButton size="xl" :loading="busy" @click="answer('givenUp')">Not closed, still open</UButton>
    </div>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
