<script setup lang="ts">
import {
  alternativesFor,
  leaned,
  solutionKinds,
  solutionWords,
  weightsOf,
  type HomeWays,
  type SchoolId,
  type Solution,
  type Weights,
} from '../../../core/plan'
import { moneyIn, type CurrencyId } from '../../../core/money'

/** One point in one plan: why this, what is given up, what else could be done and what that would change, and why the rest cannot. */
const props = defineProps<{
  pointId: string
  ways: HomeWays
  chosen: Solution[]
  school: SchoolId
  over: Partial<Weights>
  years: number
  currency: CurrencyId
  locale: string
  office: boolean
}>()
const emit = defineEmits<{ take: [chosen: Solution[]] }>()
const { job } = injectJobRecord()
const { t } = useTrade()
const problem = computed(() => leaned(props.ways.problem, weightsOf(props.school, props.years, props.over)))
const own = (one: Solution) => problem.value.solutions.find(({ id }) => id === one.id) ?? one
const chosenHere = computed(() => props.chosen.map(own))
const here = computed(() => chosenHere.value.find(({ pointIds }) => pointIds.includes(props.pointId)))
const told = computed(() => (here.value ? props.ways.told[here.value.id]! : null))
const others = computed(() => alternativesFor(problem.value, chosenHere.value, props.pointId))
const money = (cents: number) => moneyIn(Math.abs(cents), props.currency, props.locale)
const shut = computed(() => props.ways.excluded.filter(({ pointIds }) => pointIds.includes(props.pointId)))
const names = (ids: string[]) => ids.map((id) => job.value?.points[id]?.name ?? '').join(', ')

type Other = (typeof others.value)[number]
/** What the other way would change, in words. */
function changes(other: Other): string {
  const said = [
    Math.abs(other.moneyCents) < 50
      ? 'costs the same'
      : other.moneyCents > 0
        ? `costs ${money(other.moneyCents)} more`
        : `costs ${money(other.moneyCents)} less`,
    Math.abs(other.comfort) < 0.3 ? null : other.comfort > 0 ? 'does more' : 'does less',
    other.apps > 0 ? 'brings one more app' : other.apps < 0 ? 'saves an app' : null,
    other.hubs > 0 ? 'needs one more hub' : other.hubs < 0 ? 'saves a hub' : null,
    Math.abs(other.callbacksPerYear) < 0.02 ? null : other.callbacksPerYear > 0 ? 'is called back more often' : 'is called back less often',
    other.alsoPointIds.length ? `changes ${names(other.alsoPointIds)} too` : null,
  ].flatMap((one) => one ?? [])
  return `${said.length > 1 ? `${said.slice(0, -1).join(', ')} and ${said.at(-1)}` : said[0]}.`
}
/** Why this one, from what the nearest other would change. */
const why = computed(() => {
  const [next] = others.value
  if (!next) return 'It is the only way that is open here.'
  return `The nearest other way, ${solutionWords[next.solution.kind]}, ${changes(next)}${next.weighed > 1 ? ' As this plan weighs, that is not worth it.' : ''}`
})
</script>

<template>
  <div class="stack" data-testid="plan-point">
    <template v-if="here && told">
      <div class="row">
        <PlanPicture :kind="here.kind" />
        <p>
          <b>{{ t(told.what) }}</b><span v-if="here.pointIds.length > 1" class="soft block small"
            >together for {{ names(here.pointIds) }}</span
          >
        </p>
      </div>
      <p>{{ t(why) }}</p>
      <ul class="plain-list">
        <li v-for="one in told.because" :key="one">{{ t(one) }}</li>
        <li v-for="one in told.leaves" :key="one">{{ t(one) }}</li>
        <li v-for="one in told.loses" :key="one" class="warn">Given up: {{ t(one) }}.</li>
      </ul>
    </template>
    <PlanWishes :point-id="pointId" />
    <section aria-label="Other ways">
      <h3 class="kicker">Other ways</h3>
      <div v-for="other in others" :key="other.solution.id" class="other">
        <p>
          <b>{{ t(ways.told[other.solution.id]!.what) }}</b> {{ changes(other) }}
          <span v-if="ways.told[other.solution.id]!.loses.length" class="warn small block"
            >Given up: {{ t(ways.told[other.solution.id]!.loses.join('; ')) }}.</span
          >
        </p>
        <UButton v-if="office" variant="link" class="p-0" @click="emit('take', other.chosen)">Take this way</UButton>
      </div>
      <p v-if="!others.length" class="soft">None is open.</p>
    </section>
    <section v-if="shut.length" aria-label="Ways that are not open">
      <h3 class="kicker">Not open here</h3>
      <dl>
        <template v-for="one in shut" :key="one.kind">
          <dt>{{ solutionWords[one.kind] }}</dt>
          <dd class="soft">{{ t(one.why) }}</dd>
        </template>
      </dl>
    </section>
    <p class="soft small">{{ solutionKinds.length }} kinds of solution were looked at.</p>
  </div>
</template>

<style scoped>
.plain-list li {
  padding: 2px 0;
}
.other {
  border-top: 1px solid var(--line);
  padding: 8px 0;
}
dt {
  font-weight: 640;
  margin-top: 8px;
}
</style>
