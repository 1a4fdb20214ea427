<script setup lang="ts">
import { articleKinds, articleName, articleWords, contentsWords, type ArticleKind } from '../../core/quote/article-words'
import { placeWords, scanWords, judgeScan, everywhere, stockMoveWords, type Scan, type StockMoveKind } from '../../core/stock'
import { dateIn } from '../../core/units'
import type { Article, PurchaseLine, StockMoveLine } from '../../core/protocol'

/** What lies where, what is on its way, and what to buy. */
const session = useSession()
const { t } = useTrade()
const branch = computed(() => session.branch!)
const region = computed(() => session.regionAt(branch.value.id))
const query = () => ({ query: { branchId: branch.value.id } })
const { answer: stock, problem, load } = useList('GET /api/stock', query, ['stock', 'sales', 'catalogue'])
const { answer: listed } = useList('GET /api/articles', query, ['catalogue'])
const { answer: coming, load: loadComing } = useList('GET /api/stock/purchases', query, ['stock'])

const places = computed(() => (stock.value?.places ?? []).filter(({ active }) => active))
const search = ref('')
const kind = ref<ArticleKind>('device')
const kindItems = computed(() => {
  const here = new Set(
    (listed.value?.articles ?? []).filter(({ active, bin, kind }) => active && !bin && kind !== 'kit').map((one) => one.kind),
  )
  return articleKinds.filter((value) => here.has(value)).map((value) => ({ value, label: articleWords[value] }))
})
const lines = computed(() => {
  const words = search.value.trim().toLowerCase()
  return (listed.value?.articles ?? [])
    .filter((article) => article.active && !article.bin && article.kind !== 'kit')
    .map((article) => {
      const line = stock.value?.lines.find(({ articleId }) => articleId === article.id)
      const at = line?.at ?? {}
      const onHand = everywhere(at)
      return { article, at, onHand, reserved: line?.reserved ?? 0, ordered: line?.ordered ?? 0 }
    })
    .filter(({ article }) =>
      words
        ? `${article.maker} ${article.name} ${article.shelf} ${article.gtin}`.toLowerCase().includes(words)
        : article.kind === kind.value,
    )
})
const shortLines = computed(() => (stock.value?.lines ?? []).filter(({ at, reserved }) => reserved > everywhere(at)))
const sentence = computed(() => {
  if (!stock.value) return 'Asking what lies where …'
  if (!places.value.length) return 'Begin with a store and the vans.'
  const coming = shortLines.value.filter(({ at, reserved, ordered }) => everywhere(at) + ordered >= reserved)
  if (coming.length && coming.length === shortLines.value.length)
    return `${counted(coming.length, 'article')} for what was agreed ${coming.length === 1 ? 'is' : 'are'} on the way.`
  if (shortLines.value.length) return `${counted(shortLines.value.length, 'article is', 'articles are')} short for what was agreed.`
  const there = stock.value.lines.filter(({ at }) => Object.values(at).some((one) => one > 0)).length
  return `${counted(there, 'article')} in ${counted(places.value.length, 'place')}; enough for what was agreed.`
})

// One move.
const moving = shallowRef<Article | null>(null)
/** A kit comes in, and lies here as what is in it. */
const kinds = computed(() =>
  (moving.value?.kind === 'kit' ? (['receive'] as const) : (['receive', 'move', 'count', 'loan', 'back', 'scrap'] as const)).map(
    (value) => ({
      value,
      label: stockMoveWords[value],
    }),
  ),
)
const inside = computed(() => (moving.value ? contentsWords(moving.value, listed.value?.articles ?? []) : ''))
const form = reactive({
  kind: 'receive' as 'receive' | 'move' | 'count' | 'loan' | 'back' | 'scrap',
  fromId: '',
  toId: '',
  quantity: '1',
  note: '',
})
const purchase = shallowRef<PurchaseLine | null>(null)
const history = shallowRef<StockMoveLine[]>([])
const moveProblem = ref<Problem | null>(null)
const busy = ref(false)
let moveId = ''
async function begin(article: Article, kind: typeof form.kind = 'receive', of: PurchaseLine | null = null) {
  moving.value = article
  purchase.value = of
  moveProblem.value = null
  moveId = newId()
  Object.assign(form, {
    kind,
    fromId: places.value.find((one) => one.kind === 'store')?.id ?? '',
    toId: places.value.find((one) => one.kind === (kind === 'move' ? 'van' : 'store'))?.id ?? '',
    quantity: String(of ? of.quantity - of.arrived : 1),
    note: '',
  })
  history.value = []
  const answer = await api('GET /api/stock/articles/:id/moves', { params: { id: article.id } })
  if (answer.ok) history.value = answer.value.moves
}
const needs = computed(() => ({
  from: ['move', 'loan', 'scrap'].includes(form.kind),
  to: ['receive', 'back', 'count', 'move'].includes(form.kind),
}))
async function store(inHand: boolean) {
  if (!moving.value || busy.value) return
  const quantity = typedNumber(form.quantity)
  if (!Number.isInteger(quantity)) {
    moveProblem.value = { status: 400, code: 'typed', message: 'How many is a whole number.', details: null }
    return
  }
  busy.value = true
  const answer = await api('POST /api/stock/moves', {
    body: {
      id: moveId,
      branchId: branch.value.id,
      articleId: moving.value.id,
      kind: form.kind,
      fromId: needs.value.from ? form.fromId : null,
      toId: needs.value.to ? form.toId : null,
      quantity,
      note: form.note,
      inHand,
      purchaseId: form.kind === 'receive' ? (purchase.value?.id ?? null) : null,
    },
  })
  busy.value = false
  moveProblem.value = answer.ok ? null : answer.problem
  if (!answer.ok) return
  moving.value = null
  await Promise.all([load(), loadComing()])
}
// Receiving by the bars: what is on its way is what is expected.
const scan = shallowRef<Scan | null>(null)
function read(text: string) {
  const articles = listed.value?.articles ?? []
  const expected = articles.filter(({ id }) => coming.value?.purchases.some(({ articleId }) => articleId === id))
  scan.value = judgeScan(text, expected.length ? expected : articles, articles, session.catalogue)
  if (scan.value.is === 'right') receive(scan.value.article.id)
}
function receive(id: string) {
  void begin(
    listed.value!.articles.find((one) => one.id === id)!,
    'receive',
    coming.value?.purchases.find(({ articleId }) => articleId === id) ?? null,
  )
}
/** Known, and on no order: a delivery may bring it all the same. */
const unexpected = computed(() => (scan.value?.is === 'lookAlike' || scan.value?.is === 'notWanted' ? scan.value.article : null))

const placeName = ref('')
const placeKind = ref<'store' | 'van'>('van')
const placeProblem = ref<Problem | null>(null)
async function addPlace() {
  if (!placeName.value.trim()) return
  const answer = await api('POST /api/stock/places', { body: { branchId: branch.value.id, name: placeName.value, kind: placeKind.value } })
  placeProblem.value = answer.ok ? null : answer.problem
  if (answer.ok) placeName.value = ''
  await load()
}
async function endPlace(id: string) {
  const answer = await api('PATCH /api/stock/places/:id', { params: { id }, body: { active: false } })
  placeProblem.value = answer.ok ? null : answer.problem
  await load()
}
const day = (date: string | null) => (date ? dateIn(date, region.value.locale) : 'no day yet')
const said = (move: StockMoveLine) =>
  `${stockMoveWords[move.kind as StockMoveKind]} ${move.quantity}${move.from ? ` from ${move.from}` : ''}${move.to ? ` to ${move.to}` : ''}${move.job ? `, job ${move.job}` : ''}${move.note ? `: ${move.note}` : ''}`
useHead({ title: 'Stock · Circuitry' })
</script>

<template>
  <div class="page">
    <h1 class="sentence mb-3">{{ sentence }}</h1>
    <CommonProblem :problem="problem" />
    <StockScanField v-if="places.length" class="scan" label="Receive: scan or type the number under the bars" @read="read" />
    <p v-if="scan && scan.is !== 'right'" class="note red mt-2 row wrap" role="alert" data-testid="scan-verdict">
      <b class="grow">{{ scan.is === 'notWanted' ? `${articleName(scan.article)} is on no order.` : t(scanWords(scan)) }}</b>
      <UButton v-if="unexpected" @click="receive(unexpected.id)">Receive it all the same</UButton>
    </p>

    <StockToBuy v-if="session.isOffice" />

    <section v-if="coming?.purchases.length" aria-labelledby="coming-title" class="mt-6">
      <h2 id="coming-title" class="next-title mb-1">On its way</h2>
      <div v-for="line in coming.purchases" :key="line.id" class="list-row coming">
        <b>{{ line.name }}</b>
        <span>{{ line.quantity - line.arrived }} from {{ line.supplier }}, due {{ day(line.dueOn) }}</span>
        <UButton
          variant="link"
          class="p-0"
          @click="
            begin(
              listed!.articles.find(({ id }) => id === line.articleId)!,
              'receive',
              line,
            )
          "
          >It is here</UButton
        >
      </div>
    </section>

    <section v-if="places.length" aria-labelledby="lies-title" class="mt-6">
      <h2 id="lies-title" class="next-title mb-2">What lies where</h2>
      <div class="row wrap mb-2">
        <UInput v-model="search" icon="i-lucide-search" aria-label="Find an article" placeholder="name, shelf, number" class="grow" />
        <CommonToggles v-if="!search.trim()" spoken="Kind of article" :items="kindItems" :chosen="kind" @choose="kind = $event" />
      </div>
      <div class="scroller">
        <table class="plain lies">
          <thead>
            <tr>
              <th>Article</th>
              <th v-for="place in places" :key="place.id" class="num">{{ place.name }}</th>
              <th class="num">Kept back</th>
              <th class="num">Coming</th>
              <th class="num">Free</th>
              <th><span class="sr-only">What can be done</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in lines" :key="line.article.id">
              <td>
                <b>{{ line.article.name }}</b><span class="soft small block"
                  >{{ line.article.maker }} · {{ articleWords[line.article.kind]
                  }}{{ line.article.shelf ? ` · ${line.article.shelf}` : '' }}</span
                >
              </td>
              <td v-for="place in places" :key="place.id" class="mono num" :data-label="place.name">{{ line.at[place.id] || '' }}</td>
              <td class="mono num" data-label="kept back">{{ line.reserved || '' }}</td>
              <td class="mono num" data-label="coming">{{ line.ordered || '' }}</td>
              <td class="mono num" data-label="free" :class="{ bad: line.onHand < line.reserved }">{{ line.onHand - line.reserved }}</td>
              <td>
                <UButton variant="link" class="p-0" :aria-label="`Move ${line.article.name}`" @click="begin(line.article)">Move</UButton>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="!lines.length" class="soft">No article of this kind.</p>
    </section>

    <section v-if="session.isOffice && stock" aria-labelledby="places-title" class="mt-6 stack">
      <h2 id="places-title" class="next-title">Stores and vans</h2>
      <CommonProblem :problem="placeProblem" />
      <p v-for="place in places" :key="place.id" class="row">
        <b>{{ place.name }}</b><span class="soft">{{ placeWords[place.kind] }}</span>
        <UButton variant="link" class="p-0" :aria-label="`Take ${place.name} off`" @click="endPlace(place.id)">take off</UButton>
      </p>
      <form class="row wrap" @submit.prevent="addPlace">
        <UInput v-model="placeName" aria-label="Name of the store or van" placeholder="Van of …" maxlength="80" />
        <CommonToggles
          spoken="Kind of place"
          :items="[
            { value: 'van', label: 'van' },
            { value: 'store', label: 'store' },
          ]"
          :chosen="placeKind"
          @choose="placeKind = $event as 'van' | 'store'"
        />
        <UButton type="submit" :disabled="!placeName.trim()">Add</UButton>
      </form>
    </section>

    <USlideover
      :open="moving !== null"
      :title="moving?.name ?? ''"
      :description="moving ? `${moving.maker}${moving.shelf ? `, shelf ${moving.shelf}` : ''}` : ''"
      @update:open="moving = null"
    >
      <template #body>
        <form class="stack" @submit.prevent="store(false)">
          <CommonToggles spoken="What is done" :items="kinds" :chosen="form.kind" @choose="form.kind = $event" />
          <p v-if="inside" class="note petrol">Each comes in as {{ inside }}.</p>
          <UFormField v-if="needs.from" label="From"
            ><USelect v-model="form.fromId" :items="places.map(({ id, name }) => ({ value: id, label: name }))" class="w-full"
          /></UFormField>
          <UFormField v-if="needs.to" :label="form.kind === 'count' ? 'Where' : 'To'"
            ><USelect v-model="form.toId" :items="places.map(({ id, name }) => ({ value: id, label: name }))" class="w-full"
          /></UFormField>
          <UFormField :label="form.kind === 'count' ? 'There are' : 'How many'" name="quantity"
            ><UInput v-model="form.quantity" name="quantity" inputmode="numeric"
          /></UFormField>
          <UFormField label="Note" name="note"><UInput v-model="form.note" name="note" maxlength="500" /></UFormField>
          <CommonProblem :problem="moveProblem" />
          <div class="row wrap">
            <UButton type="submit" variant="solid" size="xl" :loading="busy">Store it</UButton>
            <UButton v-if="moveProblem?.code === 'notThere'" @click="store(true)">It is in my hand</UButton>
          </div>
        </form>
        <h3 class="kicker mt-6">What happened to it</h3>
        <p v-for="move in history" :key="move.id" class="small history">
          {{ said(move) }} <span class="soft">{{ move.who }}, {{ dayAndTime(move.at, region) }}</span>
        </p>
        <p v-if="!history.length" class="soft small">Nothing yet.</p>
      </template>
    </USlideover>
  </div>
</template>

<style scoped>
.scan {
  max-width: 620px;
}
.scroller {
  overflow-x: auto;
}
.num {
  text-align: right !important;
}
.coming {
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1.4fr) auto;
}
.history {
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.lies td {
  vertical-align: middle;
}
@media (max-width: 760px) {
  /* A row tells where it lies in words: a phone has no room for a column of each van. */
  .lies thead {
    display: none;
  }
  .lies tr {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 2px 14px;
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
  }
  .lies td {
    border: 0;
    padding: 0;
  }
  .lies td:first-child {
    flex-basis: 100%;
  }
  .lies td:empty {
    display: none;
  }
  .lies td:last-child {
    margin-left: auto;
  }
  .lies td[data-label]::before {
    content: attr(data-label) ' ';
    font-family: var(--font-sans, inherit);
    color: var(--soft);
  }
  .coming {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
