<script setup lang="ts">
import type { VisitPage } from '../../../core/protocol'
import type { Region } from '~/utils/time'

/** The customer’s own page of a visit: reached by its link alone, without an account. */
definePageMeta({ layout: false })
const { token, page, problem, load } = useLinkedPage((token) => api('GET /api/visit-pages/:token', { params: { token } }))
// Whoever waits at a window looks again and again: what is shown is not older than a minute.
const lookAgain = () => document.visibilityState === 'visible' && void load()
const again = setInterval(lookAgain, 60_000)
onScopeDispose(() => clearInterval(again))
useEventListener(document, 'visibilitychange', lookAgain)

const region = computed((): Region => ({ zone: page.value?.zone ?? 'UTC', locale: (page.value?.locale ?? 'en-US') as Region['locale'] }))
const span = ({ windowFrom, windowTo }: { windowFrom: string; windowTo: string }) =>
  `${dayWord(windowFrom, region.value)} between ${clockTime(windowFrom, region.value)} and ${clockTime(windowTo, region.value)}`
const names = computed(() => listed(page.value?.crew ?? []) || 'Our crew')
const verb = (one: string, several: string) => ((page.value?.crew.length ?? 1) > 1 ? several : one)
const sentence = computed(() => {
  if (!page.value) return ''
  const { status, expectedAt } = page.value
  if (status === 'cancelled') return 'This visit is cancelled.'
  if (status === 'done') return `${names.value} ${verb('was', 'were')} here. The visit is over.`
  if (status === 'onSite') return `${names.value} ${verb('is', 'are')} at ${page.value.home}.`
  if (status === 'onTheWay')
    return `${names.value} ${verb('is', 'are')} on the way${expectedAt ? `, there about ${clockTime(expectedAt, region.value)}` : ''}.`
  return `${names.value} ${verb('comes', 'come')} ${span(page.value)}.`
})
const open = computed(() => page.value?.status === 'planned' || page.value?.status === 'onTheWay')

const { busy, problem: failed, give } = useGiving()
async function tick(id: VisitPage['prepare'][number]['id']) {
  if (!page.value || busy.value) return
  const before = page.value
  const prepare = before.prepare.map((one) => (one.id === id ? { ...one, done: !one.done } : one))
  page.value = { ...before, prepare }
  const done = prepare.filter((one) => one.done).map((one) => one.id)
  if (!(await give(() => api('POST /api/visit-pages/:token/prepared', { params: { token }, body: { done } })))) page.value = before
}
async function choose(offer: string) {
  await give(() => api('POST /api/visit-pages/:token/time', { params: { token }, body: { offer } }))
  await load()
}
useHead({
  title: () => (page.value ? `Visit of ${page.value.company}` : 'Visit'),
  meta: [
    { name: 'robots', content: 'noindex' },
    { name: 'referrer', content: 'no-referrer' },
  ],
})
</script>

<template>
  <main class="page visit-page">
    <template v-if="page">
      <p class="kicker">{{ page.company }}, {{ page.branch }}</p>
      <h1 class="sentence mb-2">{{ sentence }}</h1>
      <p v-if="open && page.status === 'onTheWay'" class="soft">Promised {{ span(page) }}.</p>
      <p v-if="page.chosen && page.status === 'planned'" class="soft">You chose this time. Thank you.</p>
      <CommonProblem :problem="failed" class="mt-3" />
      <section v-if="page.offers.length" class="mt-5" aria-label="Other times">
        <h2 class="kicker mb-2">Would another time suit you better?</h2>
        <div v-for="offer in page.offers" :key="offer.id" class="row offer">
          <span class="grow">{{ span(offer) }}</span>
          <UButton :disabled="busy" :aria-label="`Take ${span(offer)}`" @click="choose(offer.id)">Take it</UButton>
        </div>
        <p class="small soft mt-1">If none does, leave it as it is{{ page.telephone ? ', or call us' : '' }}.</p>
      </section>
      <section v-if="open" class="mt-5" aria-label="What to prepare">
        <h2 class="kicker mb-2">What to prepare</h2>
        <label v-for="one in page.prepare" :key="one.id" class="item">
          <input type="checkbox" :checked="one.done" :disabled="busy" @change="tick(one.id)" />
          <span
            ><b>{{ one.what }}</b
            ><br /><span class="soft small">{{ one.why }}</span></span
          >
        </label>
        <template v-if="page.offs.length">
          <h2 class="kicker mt-5 mb-1">What will be without power, about</h2>
          <p v-for="one in page.offs" :key="one.name" class="off">
            <span class="mono">{{ clockTime(one.from, region) }}, {{ one.minutes }} min</span>
            <span
              ><b>{{ one.name[0]!.toUpperCase() }}{{ one.name.slice(1) }}</b
              ><template v-if="one.lights.length">: {{ one.lights.join(', ') }}</template
              ><span class="soft small"> and whatever else is on it</span><b v-if="one.asksFirst">; we ask you first</b></span
            >
          </p>
        </template>
        <p class="note mt-3">
          Power goes off in parts of the home while we work. If somebody depends on a device that needs power, tell us before we come. If
          anything smells burnt, is hot or buzzes, leave it alone{{
            page.telephone ? ' and call us at once' : ' and call a licensed electrician at once'
          }}; in danger call the emergency number first.
        </p>
      </section>
      <p v-if="page.telephone" class="mt-5">
        <a class="call" :href="`tel:${page.telephone.replace(/[^+\d]/g, '')}`"><UIcon name="i-lucide-phone" /> {{ page.telephone }}</a>
      </p>
    </template>
    <template v-else-if="problem">
      <h1 class="sentence mb-3">There is no visit here.</h1>
      <CommonProblem :problem="problem" />
      <UButton v-if="problem.status === 0 || problem.status >= 500" class="mt-3" @click="load">Try again</UButton>
    </template>
    <p v-else class="soft" aria-busy="true">Opening …</p>
  </main>
</template>

<style scoped>
.visit-page {
  max-width: 640px;
}
.item {
  display: flex;
  gap: 14px;
  padding: 12px 2px;
  border-bottom: 1px solid var(--line);
  min-height: 56px;
  cursor: pointer;
}
.item input {
  width: 24px;
  height: 24px;
  flex: none;
  accent-color: var(--ink);
}
.off {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 10px;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.offer {
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.call {
  font-size: 18px;
  min-height: 44px;
  display: inline-flex;
  gap: 8px;
  align-items: center;
  text-decoration: underline;
}
</style>
