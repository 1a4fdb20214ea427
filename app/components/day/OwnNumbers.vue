<script setup lang="ts">
import type { OwnInsight } from '../../../core/protocol'

/** What became of the homes one worked in. Shown to nobody else, and only once there is enough to say anything. */
const { number } = useTrade()
const answer = ref<OwnInsight | null>(null)
const { busy, problem, give } = useGiving()
const show = async () => (answer.value = await give(() => api('GET /api/me/insight')))
const percent = (share: number) => `${number(Math.round(share * 100))} %`
const sentence = computed(() => {
  if (!answer.value) return ''
  const { visits, needed, days, homes } = answer.value
  if (visits < needed) return `Shown from ${needed} visits on; before that they say what chance did. You have finished ${visits}.`
  if (!homes) return `None of the homes you worked in was handed over ${days} days ago and more.`
  const { jobs, quiet, share, company } = homes
  return `${quiet} of ${counted(jobs, 'home')} you worked in needed nobody again within ${days} days: ${percent(share.rate)}, nine of ten such shares lie between ${percent(share.low)} and ${percent(share.high)}. In the company: ${percent(company)}.`
})
const judged = computed(() => {
  const homes = answer.value?.homes
  if (!homes) return ''
  if (homes.beyond === 'fewer') return 'Fewer callbacks than chance makes.'
  return homes.beyond === 'more'
    ? 'More callbacks than chance makes. Who goes to the difficult homes is not chosen by chance: look at which they were.'
    : 'That is within what chance makes.'
})
</script>

<template>
  <section class="mt-6 stack" aria-label="Your own numbers">
    <UButton v-if="!answer" variant="link" class="self-start p-0" :loading="busy" @click="show">Your own numbers</UButton>
    <template v-else>
      <h2 class="kicker">Your own numbers</h2>
      <p>{{ sentence }}</p>
      <p v-if="judged">{{ judged }}</p>
      <p class="small soft">Nobody else is shown them.</p>
    </template>
    <CommonProblem :problem="problem" />
  </section>
</template>
