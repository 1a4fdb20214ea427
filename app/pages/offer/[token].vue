<script setup lang="ts">
import { dateIn } from '../../../core/units/region'

/** The customer’s own page of an offer: reached by its link alone, without an account. */
definePageMeta({ layout: false })
const { token, page: offer, problem, load } = useLinkedPage((token) => api('GET /api/offers/:token', { params: { token } }))
const sentence = computed(() => {
  if (!offer.value) return ''
  const { status, expired, signer, decidedAt, home, locale } = offer.value
  const day = decidedAt ? dateIn(decidedAt.slice(0, 10), locale as never) : ''
  if (status === 'accepted') return `Signed by ${signer}, ${day}. The company now proposes a day.`
  if (status === 'declined') return `Declined, ${day}. Nothing is ordered.`
  if (expired) return 'This offer has expired. Ask the company for a new one.'
  return `What ${home} gets, and what it comes to.`
})
useHead({
  title: () => (offer.value ? `Offer ${offer.value.number}, ${offer.value.company}` : 'Offer'),
  meta: [{ name: 'robots', content: 'noindex' }],
})
</script>

<template>
  <main class="page offer-page">
    <template v-if="offer">
      <p class="kicker">{{ offer.company }}, {{ offer.branch }} · offer {{ offer.number }} for {{ offer.customer }}</p>
      <h1 class="sentence mb-2">{{ sentence }}</h1>
      <p class="row wrap mb-4">
        <span v-if="offer.status === 'open' && !offer.expired" class="soft"
          >Valid until {{ dateIn(offer.validUntil, offer.locale as never) }}.</span
        >
        <UButton :to="`/api/offers/${token}/paper`" external data-paper target="_blank" variant="link" class="p-0"
          >The same as a paper (PDF)</UButton
        >
      </p>
      <OfferSheet :offer="offer" :token="token" @decided="load" />
    </template>
    <template v-else-if="problem">
      <h1 class="sentence mb-3">There is no offer here.</h1>
      <CommonProblem :problem="problem" />
      <UButton v-if="problem.status === 0 || problem.status >= 500" class="mt-3" @click="load">Try again</UButton>
    </template>
    <p v-else class="soft" aria-busy="true">Opening the offer …</p>
  </main>
</template>

<style scoped>
.offer-page {
  max-width: 860px;
}
</style>
