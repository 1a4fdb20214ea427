<script setup lang="ts">
import { causeWords } from '../../core/job'
import { formatOf } from '../../core/units/region'
import type { ModelInsightLine } from '../../core/protocol'

/** What the company has learnt of what it put into walls, and of what came back. */
const session = useSession()
const { number } = useTrade()
const branchId = ref('all')
const branches = computed(() => [
  { value: 'all', label: 'All branches' },
  ...session.branches.map(({ id, name }) => ({ value: id, label: name })),
])
const asked = computed(() => (branchId.value === 'all' ? {} : { branchId: branchId.value }))
const { answer, loaded, problem } = useList('GET /api/insight', () => ({ query: asked.value }), ['job'])
const models = computed(() => answer.value?.models ?? [])
const bad = computed(() => models.value.filter(({ advice }) => advice?.what === 'stopBuying'))
const watched = computed(() => models.value.filter(({ advice }) => advice?.what === 'watch'))
const sure = (share: number) => `${Math.min(99, Math.floor(share * 100))} of 100 sure`
const sentence = computed(() => {
  if (!loaded.value) return 'Counting …'
  if (!models.value.length) return 'Nothing is in the wall yet: there is nothing to learn from.'
  const [worst] = bad.value
  const devices = worst
    ? `${worst.model} fails more than twice as often as the rest, ${sure(worst.advice!.sure)}.`
    : watched.value.length
      ? `${watched.value[0]!.model} fails in its first days, ${sure(watched.value[0]!.advice!.sure)}.`
      : 'No model fails so often that one could be sure of it.'
  const { jobs, quiet } = answer.value!.firstTime
  return jobs ? `${devices} ${quiet} of ${counted(jobs, 'home')} needed nobody again.` : devices
})
/** What a model’s failures are drawn on: the same for all, so that eyes can compare. */
const scale = computed(() => Math.max(1, ...models.value.map(({ perHundred }) => perHundred.high)))
const at = (value: number) => `${Math.min(100, (value / scale.value) * 100)}%`
const open = ref<string | null>(null)
const chosen = computed(() => models.value.find(({ model }) => model === open.value) ?? null)
const adviceWords = ({ advice }: ModelInsightLine) =>
  !advice
    ? ''
    : advice.what === 'stopBuying'
      ? `Buy another one: more than twice as many failures as the rest, ${sure(advice.sure)}.`
      : `Watch it: more than one in a hundred fails within two days, ${sure(advice.sure)}. Let it run an hour before you leave, or call on the second day.`
const percent = (share: number) => `${number(Math.round(share * 1000) / 10)} %`
const monthWords = (month: string) =>
  formatOf(session.region.locale, { timeZone: 'UTC', month: 'long', year: 'numeric' }).format(Date.parse(`${month}-01T00:00:00Z`))
const causeOf = (kind: string | null) => (kind ? causeWords[kind as 'wiring'] : 'not found out yet')
const payerWords: Record<string, string> = { us: 'us', maker: 'the maker', customer: 'the customer' }
</script>

<template>
  <div class="page">
    <div class="row wrap mb-2">
      <h1 class="sentence grow head-sentence">{{ sentence }}</h1>
      <USelect v-if="session.branches.length > 1" v-model="branchId" :items="branches" aria-label="Branch" class="w-44" />
      <UButton
        :to="`/api/insight/models${asked.branchId ? `?branchId=${asked.branchId}` : ''}`"
        external
        icon="i-lucide-download"
        variant="link"
        >Models, CSV</UButton
      >
    </div>
    <CommonProblem :problem="problem" />
    <p v-if="models.length" class="soft small mb-4">
      What is seen seldom is drawn towards what all have together, so that two bad days brand no model. A failure is a device that came out
      because a callback found the device itself at fault. Nobody’s own numbers are here: who goes to the difficult homes is not chosen by
      chance.
    </p>
    <section v-if="models.length" aria-label="Devices">
      <h2 class="kicker mb-1">Devices, those that fail most first</h2>
      <div class="line head small soft" aria-hidden="true">
        <span>Model</span><span>in the wall</span><span>failed</span><span>failures per 100 in a year</span><span>work after a year</span
        ><span>next year</span>
      </div>
      <div v-for="one in models" :key="one.model" class="model">
        <button type="button" class="line" :aria-expanded="open === one.model" @click="open = open === one.model ? null : one.model">
          <b>{{ one.model }}</b>
          <span
            ><span class="only-small soft">in the wall </span><span class="mono">{{ one.inWall }}</span></span
          >
          <span
            ><span class="only-small soft">failed </span><span class="mono">{{ one.failed }}</span
            ><span v-if="one.early" class="small warn">{{ `, ${one.early} early` }}</span></span
          >
          <span class="rate"
            ><span class="tail" aria-hidden="true"
              ><i :style="{ left: at(one.perHundred.low), right: `calc(100% - ${at(one.perHundred.high)})` }" /><b
                :style="{ left: at(one.perHundred.rate) }" /></span
            ><span class="mono small"
              >{{ number(one.perHundred.rate, 1) }}
              <span class="soft">{{ number(one.perHundred.low, 1) }}–{{ number(one.perHundred.high, 1) }}</span></span
            ></span
          >
          <span
            ><span class="only-small soft">work after a year </span
            ><span class="mono">{{ one.afterYear ? percent(one.afterYear.survival) : '–' }}</span></span
          >
          <span
            ><span class="only-small soft">to expect next year </span><span class="mono">{{ number(one.expected, 1) }}</span></span
          >
        </button>
        <p v-if="one.advice || one.beyond === 'more'" class="small bad advice">
          {{ adviceWords(one) || 'More failures than chance makes (two in a thousand).' }}
        </p>
        <LazyInsightLives v-if="open === one.model && chosen" :model="chosen" :branch-id="asked.branchId" class="mb-4" />
      </div>
    </section>
    <section v-if="answer && (answer.causes.length || answer.firstTime.jobs)" class="mt-8 stack" aria-label="Callbacks">
      <h2 class="kicker">Callbacks</h2>
      <p v-if="answer.risenSince" class="note red">
        <b>More callbacks since {{ monthWords(answer.risenSince) }}</b> than in the months before, beyond what chance makes. Look at what
        changed then: a model, a step, a season.
      </p>
      <p v-if="answer.firstTime.jobs">
        {{ percent(answer.firstTime.share.rate) }} of {{ counted(answer.firstTime.jobs, 'home') }} needed nobody again within
        {{ answer.firstTime.days }} days of the handover; between {{ percent(answer.firstTime.share.low) }} and
        {{ percent(answer.firstTime.share.high) }}, nine of ten.
      </p>
      <div v-if="answer.ages.length > 1">
        <h3 class="kicker">Needed nobody again, by when the home was built</h3>
        <p v-for="one in answer.ages" :key="one.age" class="row ruled">
          <span class="grow"
            >{{ one.age
            }}<span v-if="one.beyond" class="small" :class="one.beyond === 'more' ? 'bad' : 'good'">{{
              ` · ${one.beyond} callbacks than chance makes`
            }}</span></span
          ><span class="mono">{{ `${one.quiet} of ${one.jobs}` }}</span
          ><span class="mono small soft">{{ `${percent(one.share.low)}–${percent(one.share.high)}` }}</span>
        </p>
      </div>
      <LazyInsightMonths :months="answer.months" :since="answer.risenSince" />
      <div class="grid gap-6 sm:grid-cols-2">
        <div>
          <h3 class="kicker">What it was</h3>
          <NuxtLink v-for="one in answer.causes" :key="one.kind ?? ''" to="/callbacks" class="row ruled"
            ><span class="grow">{{ causeOf(one.kind) }}</span
            ><span class="mono">{{ one.count }}</span></NuxtLink
          >
        </div>
        <div>
          <h3 class="kicker">Who pays</h3>
          <p v-for="one in answer.payers" :key="one.payer ?? ''" class="row ruled">
            <span class="grow">{{ one.payer ? payerWords[one.payer] : 'not said' }}</span><span class="mono">{{ one.count }}</span>
          </p>
        </div>
      </div>
    </section>
    <InsightWork :branch-id="asked.branchId" />
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) 90px 110px minmax(180px, 1.2fr) 130px 80px;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: 44px;
  text-align: left;
  border-bottom: 1px solid var(--line);
}
.head-sentence {
  flex-basis: 320px;
}
.head {
  min-height: 28px;
}
button.line {
  cursor: pointer;
}
.rate {
  display: grid;
  gap: 2px;
}
.tail {
  position: relative;
  height: 10px;
  border-bottom: 1px solid var(--line);
}
.tail i {
  position: absolute;
  top: 1px;
  bottom: 2px;
  background: var(--copper);
  opacity: 0.28;
}
.tail b {
  position: absolute;
  top: 0;
  bottom: 1px;
  width: 3px;
  margin-left: -1px;
  background: var(--ink);
}
.advice {
  padding: 4px 0 10px;
}
.only-small {
  display: none;
}
@media (max-width: 800px) {
  .head {
    display: none;
  }
  .line {
    grid-template-columns: 1fr 1fr;
    padding: 10px 0;
  }
  .line > b,
  .rate {
    grid-column: 1 / -1;
  }
  .only-small {
    display: inline;
  }
}
</style>
