<script setup lang="ts">
import {
  differenceOf,
  objection,
  schoolIds,
  schoolWords,
  solutionWords,
  summaryOf,
  type SchoolId,
  type Solution,
  type Weights,
} from '../../../../core/plan'
import { currencyOf, moneyIn } from '../../../../core/money'
import { allTicked, offerOf, priceOf } from '../../../../core/quote'
import { soldOffRecord, soldPoints, soldTotal } from '../../../../core/job'
import type { Offer } from '../../../../core/protocol'

/** Three futures of the home beside each other: what changes on each wall, what it comes to, and the one that is offered and signed. */
const { page, job, site, settings, branch, region, scheme, onCrew } = injectJobRecord()
const session = useSession()
const { t } = useTrade()
const { source, household, problem: listProblem } = usePlanSource()
const { answer: offered, load: loadOffers } = useList('GET /api/jobs/:id/quotes', () => ({ params: { id: page.value!.job.id } }), ['sales'])
const planner = usePlanner()
const { ways, plans, more, curve, busy, stopped, failed, solutionsOf } = planner

const currency = computed(() => currencyOf(settings.value.money, scheme.value.id))
const money = (cents: number) => moneyIn(Math.round(cents), currency.value, region.value.locale)
/** What the customer is shown hides what is the office’s. */
const shown = ref(false)
const office = computed(() => session.isOffice && !shown.value)

const columns = ref<SchoolId[]>(['leastMoney', settings.value.school, 'mostComfort'])
const over = ref<Partial<Weights>>({})
/** A column that somebody changed by hand, or took from the curve. */
const own = ref<Partial<Record<number, string[]>>>({})

const soldSum = computed(() => soldTotal({ ...job.value!, sales: job.value?.sales ?? [] }))
// Once something is agreed, a change is worked out point by point instead.
const asked = computed(() =>
  source.value && soldSum.value === null
    ? JSON.stringify([job.value!.seq, site.value!.seq, source.value.articles, source.value.money, columns.value, over.value])
    : null,
)
function plan() {
  if (!source.value) return
  // A copy without anything that is watched.
  planner.ask(
    JSON.parse(JSON.stringify({ source: source.value, schools: [...new Set(columns.value)], over: over.value, curvePoints: 12 })) as never,
  )
}
// While somebody signs, what is above the glass stays as it is.
watchDebounced(asked, (now) => now && !(ready.value.length && offer.value?.offer.status === 'open') && plan(), {
  debounce: 150,
  immediate: true,
})
// Somebody else’s entry takes no choice away that can still be had; another school does.
watch([columns, over], () => (own.value = {}), { deep: true })
watch(ways, (now) => {
  const known = new Set(now?.problem.solutions.map(({ id }) => id))
  own.value = Object.fromEntries(Object.entries(own.value).filter(([, ids]) => ids?.every((id) => known.has(id))))
})

const chosenIn = (column: number): Solution[] => solutionsOf(own.value[column] ?? plans.value[columns.value[column]!]?.ids)
/** Rooms and columns come in one after the other, so that the page answers in between. */
const stage = ref(0)
const lastStage = computed(() => (ways.value ? Math.max(columns.value.length, site.value?.roomOrder.length ?? 0) : 0))
watch(
  lastStage,
  function more(last) {
    if (!last || stage.value > last) return
    stage.value++
    setTimeout(() => more(lastStage.value), 30)
  },
  { immediate: true },
)
/** The page stands; its parts come after it, so that a tap is answered in between. */
const settled = useStages(() => true, 1)
/** All of it is there: what comes below has its turn. */
const whole = computed(() => lastStage.value > 0 && stage.value > lastStage.value)
const futures = computed(() =>
  columns.value.map((school, column) => {
    const chosen = chosenIn(column)
    if (column >= stage.value || !ways.value || !chosen.length || objection(ways.value.problem, chosen)) return null
    const summary = summaryOf(ways.value.problem, chosen, ways.value.told)
    const content = offerOf({ ...source.value!, ways: ways.value }, chosen, null)
    const price = priceOf(content, allTicked(content))
    return { school, chosen, summary, price, plan: own.value[column] ? null : (plans.value[school] ?? null) }
  }),
)
const ready = computed(() => futures.value.flatMap((one) => one ?? []))
const rooms = computed(() =>
  (site.value?.roomOrder ?? []).slice(0, stage.value).flatMap((id) => {
    const points = (ways.value?.problem.pointIds ?? []).filter((pointId) => job.value?.points[pointId]?.roomId === id)
    return points.length ? [{ id, name: site.value!.rooms[id]!.name, points: points.map((one) => job.value!.points[one]!) }] : []
  }),
)
const solved = computed(() => soldPoints(job.value!, site.value!))
const offRecord = computed(() => soldOffRecord(job.value!))
const sentence = computed(() => {
  if (soldSum.value !== null) {
    const done = solved.value.filter(({ stands }) => stands === 'done').length
    return `Agreed for ${money(soldSum.value)}: ${done} of ${counted(solved.value.length, 'point')} ${done === 1 ? 'is' : 'are'} done.`
  }
  if (ways.value && !ways.value.problem.pointIds.length) return 'There is no point left to plan: note points in the survey first.'
  if (!ready.value.length) return 'Working out what could be done at each point …'
  const sums = ready.value.map(({ price }) => price.sum.totalCents)
  if (ready.value.length === 3 && Math.min(...sums) === Math.max(...sums))
    return `${page.value?.site.name} comes to ${money(sums[0]!)} whichever way it is weighed.`
  return `${['No', 'One', 'Two', 'Three'][ready.value.length]} ${ready.value.length === 1 ? 'future' : 'futures'} of ${page.value?.site.name}, from ${money(Math.min(...sums))} to ${money(Math.max(...sums))}.`
})
const cellOf = (column: number, pointId: string) => futures.value[column]?.chosen.find(({ pointIds }) => pointIds.includes(pointId)) ?? null
const with_ = (solution: Solution, pointId: string) =>
  solution.pointIds
    .filter((id) => id !== pointId)
    .map((id) => job.value?.points[id]?.name)
    .join(', ')

const open = ref<{ column: number; pointId: string } | null>(null)
/** A way that somebody takes by hand, with all that it was said to change. */
const take = (column: number, chosen: Solution[]) => (own.value = { ...own.value, [column]: chosen.map(({ id }) => id) })
const picked = ref(1)
const labelOf = (column: number) => (own.value[column] ? 'as changed here' : schoolWords[columns.value[column]!])
const schoolItems = schoolIds.map((value) => ({ value, label: schoolWords[value] }))

const comfortIn = (solutions: Solution[]) => solutions.reduce((sum, { comfort, pointIds }) => sum + comfort * pointIds.length, 0)
/** What a fact or a price that changed made of the plans: against what stood here before. */
interface Stood {
  by: string
  columns: { sum: number; what: Record<string, string> }[]
}
const stood = shallowRef<Stood | null>(null)
const changedSince = ref<string | null>(null)
watch(busy, (now) => {
  if (now || stopped.value || !ways.value || ready.value.length !== columns.value.length) return
  const by = JSON.stringify([columns.value, over.value])
  const current: Stood = {
    by,
    columns: futures.value.map((future) => ({
      sum: future!.price.sum.totalCents,
      what: Object.fromEntries(future!.chosen.flatMap((one) => one.pointIds.map((id) => [id, ways.value!.told[one.id]!.what]))),
    })),
  }
  const before = stood.value
  stood.value = current
  if (!before || before.by !== by) return void (changedSince.value = null)
  const [was, will] = [before.columns[picked.value]!, current.columns[picked.value]!]
  const moved = Object.keys(will.what).filter((id) => will.what[id] !== was.what[id])
  if (!moved.length && was.sum === will.sum) return
  const names = moved.map(
    (id) => `${job.value!.points[id]!.name}: ${t(will.what[id]!)}${was.what[id] ? ` instead of ${t(was.what[id]!)}` : ''}`,
  )
  changedSince.value = `Something changed. ${[...names.slice(0, 4), ...(names.length > 4 ? [`and ${names.length - 4} more`] : [])].join('; ')}${names.length ? '. ' : ''}The sum goes from ${money(was.sum)} to ${money(will.sum)}.`
})
/** What so much more would buy, said of the column that is picked. */
const buys = computed(() => {
  const future = futures.value[picked.value]
  const ids = future && !own.value[picked.value] ? more.value[future.school] : undefined
  if (!future || !ids || !ways.value) return null
  const changes = differenceOf(future.chosen, solutionsOf(ids)).filter(({ from, to }) => comfortIn(to) > comfortIn(from) + 1)
  if (!changes.length) return `${money(5000)} more would buy nothing that does more.`
  const said = changes
    .slice(0, 3)
    .map(
      ({ pointIds, to }) => `${pointIds.map((id) => job.value!.points[id]!.name).join(' and ')}: ${t(ways.value!.told[to[0]!.id]!.what)}`,
    )
  return `${money(5000)} more would buy ${said.join('; ')}${changes.length > 3 ? `, and ${changes.length - 3} more` : ''}.`
})

// Offering it.
const optional = ref<number | null>(null)
const discount = ref('0')
const busyOffer = ref(false)
const problem = ref<Problem | null>(null)
const offer = shallowRef<{ offer: Offer; token: string } | null>(null)
async function makeOffer() {
  const future = futures.value[picked.value]
  if (!future || busyOffer.value) return
  const percent = typedNumber(discount.value)
  if (!Number.isFinite(percent) || percent < 0 || percent > 90) {
    problem.value = { status: 400, code: 'discount', message: 'A discount is a number from 0 to 90.', details: null }
    return
  }
  busyOffer.value = true
  const other = optional.value === null ? null : (futures.value[optional.value]?.chosen.map(({ id }) => id) ?? null)
  const answer = await api('POST /api/jobs/:id/quotes', {
    params: { id: page.value!.job.id },
    body: { chosen: future.chosen.map(({ id }) => id), optional: other, discountBasisPoints: Math.round(percent * 100) },
  })
  busyOffer.value = false
  problem.value = answer.ok ? null : answer.problem
  if (!answer.ok) {
    if (answer.problem.code === 'planOutOfDate') plan()
    return
  }
  // What comes in later would move the glass under the pen.
  if (planner.busy.value) planner.stop()
  void loadOffers()
  await showOffer(answer.value.link.split('/').at(-1)!)
}
async function showOffer(token: string) {
  const answer = await api('GET /api/offers/:token', { params: { token } })
  offer.value = answer.ok ? { offer: answer.value, token } : null
  if (!answer.ok) problem.value = answer.problem
}
async function decided() {
  await loadOffers()
  if (offer.value) await showOffer(offer.value.token)
}
const optionItems = computed(() => [
  { value: -1, label: 'no options' },
  ...columns.value.flatMap((_, column) =>
    column === picked.value || !futures.value[column] ? [] : [{ value: column, label: labelOf(column) }],
  ),
])
const changing = ref<string | null>(null)
async function changed() {
  changing.value = null
  await loadOffers()
}
const standsWords = {
  sold: 'to be done',
  done: 'done as agreed',
  otherwise: 'something else is installed',
  changed: 'changed, to be done',
  stays: 'stays',
} as const
</script>

<template>
  <div class="page plan">
    <div class="row wrap">
      <h1 class="sentence grow">{{ t(sentence) }}</h1>
      <UButton v-if="session.isOffice && soldSum === null" variant="link" @click="shown = !shown">{{
        shown ? 'Back to the office’s view' : 'Show the customer'
      }}</UButton>
    </div>
    <CommonProblem :problem="listProblem" />

    <section v-if="solved.length || offRecord.length" aria-label="Agreed" class="mb-4">
      <p v-if="offRecord.length" class="note amber">
        Agreed, and off the record since: {{ offRecord.join(', ') }}. Nobody does it; what was signed still holds its price. Settle it with
        the customer before the invoice.
      </p>
      <table class="plain">
        <thead>
          <tr>
            <th>Point</th>
            <th>Agreed</th>
            <th>Stands</th>
            <th><span class="sr-only">Change</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in solved" :key="one.pointId">
            <td>
              <b>{{ one.name }}</b>
            </td>
            <td>
              {{ one.what }} <span class="soft small mono">{{ one.number }}</span>
            </td>
            <td :class="{ good: one.stands === 'done', warn: one.stands === 'otherwise' || one.stands === 'changed' }">
              {{ standsWords[one.stands] }}
            </td>
            <td>
              <UButton
                v-if="(onCrew || session.isOffice) && (one.stands === 'sold' || one.stands === 'changed' || one.stands === 'stays')"
                variant="link"
                class="p-0"
                :aria-label="`Change ${one.name}`"
                @click="changing = one.pointId"
                >Change</UButton
              >
            </td>
          </tr>
        </tbody>
      </table>
    </section>

    <template v-else>
      <PlanHousehold v-if="settled && (onCrew || session.isOffice) && !shown" class="mb-3" />
      <p v-if="failed" class="note amber">The plan could not be worked out on this device. Reload the page to try again.</p>
      <p v-if="office && busy" class="row wrap soft" role="status">
        {{ ready.length ? 'A first plan stands; looking for better ones …' : 'Looking at every way for every point …' }}
        <UButton variant="link" class="p-0" @click="planner.stop()">Stop</UButton>
      </p>
      <p v-if="office && stopped" class="note amber small">
        Stopped: what was found until then. <UButton variant="link" class="p-0" @click="plan()">Go on</UButton>
      </p>

      <CommonToggles
        v-if="ready.length"
        class="one-at-a-time"
        spoken="Which future"
        :items="columns.map((_, value) => ({ value, label: labelOf(value) }))"
        :chosen="picked"
        @choose="picked = $event"
      />
      <div v-if="ready.length" class="scroller">
        <table class="futures" aria-label="Futures">
          <thead>
            <tr>
              <th scope="col" class="soft small">Point</th>
              <th v-for="(school, column) in columns" :key="column" scope="col" :class="{ picked: picked === column }">
                <label class="pick"
                  ><input v-model="picked" type="radio" name="future" :value="column" :aria-label="labelOf(column)" /><span>{{
                    office && !own[column] ? (picked === column ? 'this one' : 'or this') : labelOf(column)
                  }}</span></label
                >
                <USelect
                  v-if="office && column < stage"
                  :model-value="school"
                  :items="schoolItems"
                  :aria-label="`School of column ${column + 1}`"
                  size="sm"
                  class="w-full"
                  @update:model-value="(value: SchoolId) => (columns = columns.map((one, index) => (index === column ? value : one)))"
                />
              </th>
            </tr>
          </thead>
          <tbody v-for="room in rooms" :key="room.id">
            <tr>
              <th :colspan="columns.length + 1" scope="rowgroup" class="room">{{ room.name }}</th>
            </tr>
            <tr v-for="point in room.points" :key="point.id">
              <th scope="row">{{ point.name }}</th>
              <td v-for="(_, column) in columns" :key="column" :class="{ picked: picked === column }">
                <button v-if="cellOf(column, point.id)" type="button" class="cell" @click="open = { column, pointId: point.id }">
                  <PlanPicture :kind="cellOf(column, point.id)!.kind" />
                  <span
                    ><b>{{ solutionWords[cellOf(column, point.id)!.kind] }}</b
                    ><span class="small soft block"
                      >{{ cellOf(column, point.id)!.kind === 'leave' ? '' : t(ways!.told[cellOf(column, point.id)!.id]!.what)
                      }}<template v-if="with_(cellOf(column, point.id)!, point.id)">
                        · with {{ with_(cellOf(column, point.id)!, point.id) }}</template
                      ></span
                    ><span v-if="ways!.told[cellOf(column, point.id)!.id]!.loses.length" class="small warn block"
                      >gives up {{ t(ways!.told[cellOf(column, point.id)!.id]!.loses.join('; ')) }}</span
                    ></span
                  >
                </button>
              </td>
            </tr>
          </tbody>
          <tfoot>
            <tr>
              <th scope="row">Sum, with taxes</th>
              <td v-for="(future, column) in futures" :key="column" :class="{ picked: picked === column }">
                <b class="sum mono" :data-testid="`sum-${column}`">{{ future ? money(future.price.sum.totalCents) : '…' }}</b>
              </td>
            </tr>
            <tr>
              <th scope="row">Work</th>
              <td v-for="(future, column) in futures" :key="column" :class="{ picked: picked === column }">
                {{ future ? `${Math.round(future.price.minutes / 6) / 10} h, ${counted(future.price.visits, 'visit')}` : '' }}
              </td>
            </tr>
            <tr>
              <th scope="row">Apps</th>
              <td v-for="(future, column) in futures" :key="column" :class="{ picked: picked === column }">
                {{ future ? future.summary.apps.join(', ') || 'none' : '' }}
                <span v-if="future && Object.keys(future.price.hubs).length" class="soft small block">{{
                  counted(
                    Object.values(future.price.hubs).reduce((sum, count) => sum + count, 0),
                    'hub',
                  )
                }}</span>
              </td>
            </tr>
            <tr>
              <th scope="row">Without internet</th>
              <td v-for="(future, column) in futures" :key="column" :class="{ picked: picked === column }">
                <template v-if="future"
                  >{{ future.summary.offline.wall }} from the wall<template v-if="future.summary.offline.remote"
                    >, {{ future.summary.offline.remote }} from a remote</template
                  ><template v-if="future.summary.offline.nothing">, {{ future.summary.offline.nothing }} not at all</template></template
                >
              </td>
            </tr>
            <tr v-if="office">
              <th scope="row">Callbacks a year</th>
              <td v-for="(future, column) in futures" :key="column" :class="{ picked: picked === column }">
                {{ future ? Math.round(future.summary.callbacksPerYear * 100) / 100 : '' }}
                <span v-if="future?.plan" class="soft small block">{{
                  future.plan.gap === null
                    ? 'first plan'
                    : future.plan.gap < 0.0005
                      ? 'the best there is'
                      : `within ${Math.ceil(future.plan.gap * 1000) / 10} % of the best`
                }}</span>
              </td>
            </tr>
          </tfoot>
        </table>
      </div>

      <p v-if="changedSince && office" class="note amber mt-3" role="status" data-testid="plan-changed">
        {{ changedSince }} <UButton variant="link" class="p-0" @click="changedSince = null">Dismiss</UButton>
      </p>
      <p v-if="buys && office" class="note mt-3" data-testid="buys">{{ buys }}</p>

      <section v-if="office && futures[picked] && whole" class="stack offer-it mt-4" aria-label="Offer it">
        <h2 class="next-title">Offer “{{ labelOf(picked) }}”</h2>
        <div class="row wrap">
          <UFormField label="Options to tick come from"
            ><USelect
              :model-value="optional ?? -1"
              :items="optionItems"
              class="w-60"
              @update:model-value="(value: number) => (optional = value === -1 ? null : value)"
          /></UFormField>
          <UFormField label="Discount, %"><UInput v-model="discount" inputmode="decimal" class="w-24" /></UFormField>
          <UButton variant="solid" size="xl" class="self-end" :loading="busyOffer" @click="makeOffer">Make the offer</UButton>
        </div>
      </section>
    </template>
    <CommonProblem :problem="problem" />
    <section v-if="offer && offer.offer.status === 'open'" class="stack mt-4 signed" aria-label="The offer, to sign here">
      <h2 class="next-title">Offer {{ offer.offer.number }}, to sign here or on the customer’s page</h2>
      <OfferSheet :offer="offer.offer" :token="offer.token" @decided="decided" />
    </section>
    <PlanOffers v-if="settled" :quotes="offered?.quotes ?? []" @changed="loadOffers" />

    <section v-if="office && curve.length > 1 && soldSum === null && whole" class="mt-6 two" aria-label="Cost against comfort">
      <LazyPlanCurve
        :curve="curve"
        :named="
          ready.map((one) => ({
            name: labelOf(futures.indexOf(one)),
            moneyCents: one.summary.cost.moneyCents,
            comfort: one.summary.cost.comfort,
          }))
        "
        :currency="currency"
        :locale="region.locale"
        @pick="(spot) => (own = { ...own, [picked]: spot.ids })"
      />
      <PlanWeights v-model="over" :school="columns[picked]!" :years="household.years" :currency="currency" :locale="region.locale" />
    </section>

    <USlideover
      :open="open !== null"
      :title="open ? (job?.points[open.pointId]?.name ?? '') : ''"
      :description="open ? labelOf(open.column) : ''"
      @update:open="open = null"
    >
      <template #body>
        <PlanPoint
          v-if="open && ways && futures[open.column]"
          :point-id="open.pointId"
          :ways="ways"
          :chosen="futures[open.column]!.chosen"
          :school="columns[open.column]!"
          :over="over"
          :years="household.years"
          :currency="currency"
          :locale="region.locale"
          :office="office"
          @take="(chosen) => take(open!.column, chosen)"
        />
      </template>
    </USlideover>
    <USlideover
      :open="changing !== null"
      :title="changing ? `Change ${job?.points[changing]?.name ?? ''}` : ''"
      description="What is done instead, and what that adds to what was agreed"
      @update:open="changing = null"
    >
      <template #body>
        <LazyPlanChange v-if="changing" :key="changing" :point-id="changing" @done="changed" />
      </template>
    </USlideover>
    <p v-if="branch && !shown" class="soft small mt-6">
      What may be done, and by whom, local code and the licensed person decide. A neutral that nobody saw is a guess until the box is open.
    </p>
  </div>
</template>

<style scoped>
.scroller {
  overflow-x: auto;
}
.futures {
  width: 100%;
  border-collapse: collapse;
  min-width: 760px;
  table-layout: fixed;
}
.futures th:first-child {
  width: 15%;
}
.futures th,
.futures td {
  text-align: left;
  vertical-align: top;
  padding: 6px 10px;
}
.futures thead th {
  border-bottom: 1.5px solid var(--ink);
  vertical-align: bottom;
}
.futures tbody td,
.futures tbody th[scope='row'] {
  border-bottom: 1px solid var(--line);
}
.futures tbody th[scope='row'] {
  font-weight: 640;
}
.room {
  font-size: 13px;
  font-weight: 640;
  color: var(--soft);
  padding-top: 14px !important;
}
.picked {
  background: var(--sheet);
  box-shadow:
    inset 2px 0 0 var(--copper-bar),
    inset -2px 0 0 var(--copper-bar);
}
.pick {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  font-weight: 640;
}
.pick input {
  width: 20px;
  height: 20px;
  accent-color: var(--copper);
}
.cell {
  display: flex;
  gap: 10px;
  text-align: left;
  width: 100%;
  min-height: 48px;
}
.cell:hover b {
  text-decoration: underline;
}
tfoot tr:first-child > * {
  border-top: 2.5px solid var(--ink);
}
.sum {
  font-size: 20px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr);
  gap: 26px;
}
.signed {
  border: 1.5px solid var(--copper);
  padding: 16px;
  max-width: 860px;
}
.one-at-a-time {
  display: none;
}
@media (max-width: 760px) {
  .one-at-a-time {
    display: inline-flex;
    margin: 8px 0;
  }
  .futures {
    min-width: 0;
  }
  .futures th:first-child {
    width: 30%;
  }
  .futures thead,
  .futures td:not(.picked) {
    display: none;
  }
  .futures .picked {
    box-shadow: none;
    background: none;
  }
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
