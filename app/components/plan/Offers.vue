<script setup lang="ts">
import { moneyIn } from '../../../core/money'
import { dateIn } from '../../../core/units'
import type { QuoteLineView } from '../../../core/protocol'

/** What was offered for this job, and what became of it. */
defineProps<{ quotes: QuoteLineView[] }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const { region } = injectJobRecord()
const money = (line: QuoteLineView) => moneyIn(line.totalCents, line.currency, region.value.locale)
const words = {
  open: 'open',
  accepted: 'signed',
  declined: 'declined',
  withdrawn: 'withdrawn',
  replaced: 'replaced by a newer one',
} as const
const copied = ref<string | null>(null)
async function copy(line: QuoteLineView) {
  await navigator.clipboard.writeText(`${window.location.origin}${line.link}`).catch(() => undefined)
  copied.value = line.id
}
const withdrawing = ref<string | null>(null)
const reason = ref('')
const problem = ref<Problem | null>(null)
async function withdraw(id: string) {
  const answer = await api('POST /api/quotes/:id/withdraw', { params: { id }, body: { reason: reason.value } })
  problem.value = answer.ok ? null : answer.problem
  withdrawing.value = null
  emit('changed')
}
</script>

<template>
  <section v-if="quotes.length" aria-label="Offers" class="mt-6">
    <h2 class="next-title mb-1">Offers</h2>
    <CommonProblem :problem="problem" />
    <div v-for="line in quotes" :key="line.id" class="list-row quote">
      <span class="mono">{{ line.number }}</span>
      <span>
        <b :class="{ good: line.status === 'accepted', hot: line.status === 'open' }"
          >{{ line.kind === 'change' ? 'change, ' : '' }}{{ words[line.status] }}</b
        ><span v-if="line.signer"> by {{ line.signer }}</span
        ><span v-if="line.status === 'open'" class="soft">, until {{ dateIn(line.validUntil, region.locale) }}</span
        ><span v-if="line.reason" class="soft block small">{{ line.reason }}</span>
        <span class="soft small block">{{ line.madeBy }}, {{ dayAndTime(line.madeAt, region) }}</span>
      </span>
      <span class="mono">{{ money(line) }}</span>
      <span class="row wrap">
        <template v-if="line.link">
          <UButton :to="line.link" target="_blank" variant="link" class="p-0">Customer’s page</UButton>
          <UButton variant="link" class="p-0" @click="copy(line)">{{ copied === line.id ? 'Copied' : 'Copy link' }}</UButton>
        </template>
        <UButton :to="`/api/quotes/${line.id}/paper`" external data-paper target="_blank" variant="link" class="p-0">PDF</UButton>
        <template v-if="line.status === 'accepted' && session.isOffice">
          <UButton :to="`/api/quotes/${line.id}/invoice?as=csv`" external variant="link" class="p-0">Invoice data, CSV</UButton>
          <UButton :to="`/api/quotes/${line.id}/invoice`" external target="_blank" variant="link" class="p-0">JSON</UButton>
        </template>
        <UButton
          v-if="line.status === 'open' && session.isOffice"
          variant="link"
          class="p-0"
          @click="withdrawing = withdrawing === line.id ? null : line.id"
          >Withdraw</UButton
        >
      </span>
      <form v-if="withdrawing === line.id" class="row wrap full" @submit.prevent="withdraw(line.id)">
        <UInput
          v-model="reason"
          aria-label="Why it is withdrawn"
          placeholder="why (only the office reads it)"
          class="grow"
          maxlength="500"
        />
        <UButton type="submit">Withdraw it</UButton>
      </form>
    </div>
  </section>
</template>

<style scoped>
.quote {
  grid-template-columns: 90px minmax(0, 1fr) auto minmax(0, auto);
}
.full {
  grid-column: 1 / -1;
}
@media (max-width: 760px) {
  .quote > :first-child,
  .quote > :last-child {
    grid-column: 1 / -1;
  }
  .quote {
    grid-template-columns: minmax(0, 1fr) auto;
  }
}
</style>
