<script setup lang="ts">
import { currencyOf, moneyIn, typedCents } from '../../../core/money'
import { articleKinds, articleName, articleWords, contentsWords, lampColours, type ArticleKind } from '../../../core/quote/article-words'
import { lightColourWords } from '../../../core/plan/words'
import { numberIn } from '../../../core/units'
import type { ArticleBody } from '../../../core/quote/article.schema'
import { addArticle } from '../../../core/protocol/sales'
import type { Article } from '../../../core/protocol'

/** What a branch sells and keeps: prices, shelves, numbers under the bars, and where it is bought. */
const session = useSession()
const branch = computed(() => session.branch!)
const region = computed(() => session.regionAt(branch.value.id))
const currency = computed(() => currencyOf(branch.value.settings.money, branch.value.schemeId))
const { answer, problem, load } = useList('GET /api/articles', () => ({ query: { branchId: branch.value.id } }), ['catalogue'])
const kind = ref<ArticleKind>('device')
const kinds = articleKinds.map((value) => ({ value, label: articleWords[value] }))
const search = ref('')
const shown = computed(() => {
  const words = search.value.trim().toLowerCase()
  return (answer.value?.articles ?? []).filter((one) =>
    words ? `${one.maker} ${one.name} ${one.gtin} ${one.shelf}`.toLowerCase().includes(words) : one.kind === kind.value,
  )
})
const unpriced = computed(
  () => (answer.value?.articles ?? []).filter((one) => one.active && one.priceCents === null && one.kind !== 'kit').length,
)
const money = (cents: number) => moneyIn(cents, currency.value, region.value.locale)
const written = (cents: number) => numberIn(cents / 100, region.value.locale, 2)

const editing = ref<Article | 'new' | null>(null)
const blank = () => ({
  maker: '',
  name: '',
  gtin: '',
  price: '',
  bin: false,
  shelf: '',
  supplies: [] as { supplier: string; cost: string; leadDays: string; packOf: string }[],
  watts: '8',
  colour: 'warm' as (typeof lampColours)[number],
  works: [] as { with: string; triedOn: string }[],
  contents: [] as { articleId: string; quantity: string }[],
  holds: '50',
  mostWatts: '',
  active: true,
})
const form = ref(blank())
function edit(article: Article | 'new') {
  editing.value = article
  form.value = blank()
  if (article === 'new') return
  form.value = {
    ...blank(),
    maker: article.maker,
    name: article.name,
    gtin: article.gtin,
    price: article.priceCents === null ? '' : written(article.priceCents),
    bin: article.bin,
    shelf: article.shelf,
    supplies: article.supplies.map((one) => ({
      supplier: one.supplier,
      cost: written(one.costCents),
      leadDays: String(one.leadDays),
      packOf: String(one.packOf),
    })),
    works: article.works.map((one) => ({ with: one.with, triedOn: one.triedOn ?? '' })),
    contents: article.contents.map((one) => ({ articleId: one.articleId, quantity: String(one.quantity) })),
    watts: String(article.lamp?.watts ?? 8),
    colour: article.lamp?.colour ?? 'warm',
    holds: String(article.holds ?? 50),
    mostWatts: article.mostWatts === null ? '' : String(article.mostWatts),
    active: article.active,
  }
}
const own = computed(() => (editing.value === 'new' || !editing.value ? null : editing.value))
const ofKind = computed(() => own.value?.kind ?? kind.value)
const figure = (text: string) => (text.trim() === '' ? null : typedNumber(text))
const body = computed(() => ({
  branchId: branch.value.id,
  kind: ofKind.value,
  refId: own.value?.refId ?? null,
  maker: form.value.maker,
  name: form.value.name,
  gtin: form.value.gtin.replace(/\s/g, ''),
  // What is no amount is told at its field.
  priceCents: form.value.price.trim() === '' ? null : (typedCents(form.value.price) ?? -1),
  bin: form.value.bin,
  shelf: form.value.shelf,
  supplies: form.value.supplies.map((one) => ({
    supplier: one.supplier,
    costCents: typedCents(one.cost) ?? -1,
    leadDays: figure(one.leadDays),
    packOf: figure(one.packOf),
  })),
  works: form.value.works.map((one) => ({ with: one.with, triedOn: one.triedOn || null })),
  contents: ofKind.value === 'kit' ? form.value.contents.map((one) => ({ articleId: one.articleId, quantity: figure(one.quantity) })) : [],
  lamp: ofKind.value === 'smartLamp' ? { watts: figure(form.value.watts), colour: form.value.colour } : null,
  holds: ofKind.value === 'hub' ? figure(form.value.holds) : null,
  mostWatts: ofKind.value === 'plugIn' || ofKind.value === 'lampHolder' ? figure(form.value.mostWatts) : null,
}))
const store = ({ branchId, ...article }: ArticleBody & { branchId: string }): Promise<Answer<{ id: string }>> =>
  own.value
    ? api('PATCH /api/articles/:id', { params: { id: own.value.id }, body: { active: form.value.active, article } })
    : api('POST /api/articles', { body: { branchId, ...article } })
async function saved() {
  editing.value = null
  await load()
}
const filling = ref<Problem | null>(null)
const added = ref<number | null>(null)
async function fill() {
  const given = await api('POST /api/articles/fill', { body: { branchId: branch.value.id } })
  filling.value = given.ok ? null : given.problem
  added.value = given.ok ? given.value.added : null
  await load()
}
/** What a kit may hold: what is counted one by one. */
const pieces = computed(() =>
  (answer.value?.articles ?? [])
    .filter((one) => one.kind !== 'kit' && !one.bin && one.active)
    .map((one) => ({ value: one.id, label: articleName(one) })),
)
const colours = lampColours.map((value) => ({ value, label: lightColourWords[value] }))
</script>

<template>
  <section class="stack" aria-labelledby="articles-title">
    <h2 id="articles-title" class="next-title">Articles of {{ branch.name }}</h2>
    <p class="soft">Only what has a price goes into a plan. A device or part without an article is none that can be sold.</p>
    <p v-if="unpriced" class="note amber">{{ counted(unpriced, 'article has', 'articles have') }} no price yet.</p>
    <CommonProblem :problem="problem ?? filling" />
    <div class="row wrap">
      <UInput v-model="search" icon="i-lucide-search" aria-label="Find an article" placeholder="name, number, shelf" class="grow" />
      <UButton @click="fill">Take in the lists</UButton><span v-if="added !== null" role="status" class="soft">{{ added }} added.</span>
    </div>
    <CommonToggles v-if="!search.trim()" spoken="Kind of article" :items="kinds" :chosen="kind" @choose="kind = $event" />
    <table class="plain">
      <thead>
        <tr>
          <th>Article</th>
          <th>Price</th>
          <th>Shelf</th>
          <th>Under its bars</th>
          <th>Bought at</th>
          <th><span class="sr-only">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="article in shown" :key="article.id" :class="{ soft: !article.active }">
          <td>
            <b>{{ article.name }}</b><br /><span class="soft small"
              >{{ article.maker }}{{ article.bin ? ', a bin' : '' }}{{ article.active ? '' : ', off the list' }}</span
            >
          </td>
          <td v-if="article.kind === 'kit'" class="small">{{ contentsWords(article, answer?.articles ?? []) }}</td>
          <td v-else class="mono">{{ article.priceCents === null ? 'no price' : money(article.priceCents) }}</td>
          <td class="mono">{{ article.shelf }}</td>
          <td class="mono small">{{ article.gtin }}</td>
          <td class="small">
            <span v-for="one in article.supplies" :key="one.supplier" class="block"
              >{{ one.supplier }}, {{ money(one.costCents) }}, {{ counted(one.leadDays, 'day')
              }}{{ one.packOf > 1 ? `, packs of ${one.packOf}` : '' }}</span
            >
          </td>
          <td><UButton variant="link" class="p-0" :aria-label="`Change ${article.name}`" @click="edit(article)">change</UButton></td>
        </tr>
      </tbody>
    </table>
    <UButton
      v-if="!['device', 'plate', 'connector', 'lamp', 'box'].includes(kind)"
      icon="i-lucide-plus"
      class="self-start"
      @click="edit('new')"
      >A {{ articleWords[kind] }}</UButton
    >
    <USlideover
      :open="editing !== null"
      :title="own ? own.name : `A new ${articleWords[kind]}`"
      description="Prices are net"
      @update:open="editing = null"
    >
      <template #body>
        <CommonContractForm :schema="addArticle.body" :body="body" :send="store" @saved="saved">
          <template v-if="!own?.refId">
            <UFormField label="Maker" name="maker"><UInput v-model="form.maker" name="maker" /></UFormField>
            <UFormField label="Name" name="name"><UInput v-model="form.name" name="name" /></UFormField>
          </template>
          <fieldset v-if="ofKind === 'kit'" class="stack">
            <legend class="font-semibold">What is in it</legend>
            <p class="soft small">Bought where it costs less than its parts; it comes in as its parts, and is sold as they are.</p>
            <div v-for="(one, index) in form.contents" :key="index" class="works">
              <UFormField label="Article" :name="`contents.${index}.articleId`"
                ><USelect v-model="one.articleId" :items="pieces" class="w-full"
              /></UFormField>
              <UFormField label="How many" :name="`contents.${index}.quantity`"
                ><UInput v-model="one.quantity" :name="`contents.${index}.quantity`" inputmode="numeric"
              /></UFormField>
            </div>
            <div class="row wrap">
              <UButton
                v-if="form.contents.length < 12"
                icon="i-lucide-plus"
                variant="link"
                class="p-0"
                @click="form.contents.push({ articleId: '', quantity: '1' })"
                >Something in it</UButton
              >
              <UButton v-if="form.contents.length" variant="link" class="p-0" @click="form.contents.pop()">Without the last</UButton>
            </div>
          </fieldset>
          <UFormField v-else label="Price, net; empty: none yet" name="priceCents"
            ><UInput v-model="form.price" name="priceCents" inputmode="decimal"
          /></UFormField>
          <UFormField label="Number under its bars" name="gtin" help="8, 12, 13 or 14 digits; the last one checks the others."
            ><UInput v-model="form.gtin" name="gtin" inputmode="numeric"
          /></UFormField>
          <UFormField label="Shelf" name="shelf"><UInput v-model="form.shelf" name="shelf" maxlength="20" /></UFormField>
          <UCheckbox v-if="ofKind !== 'kit'" v-model="form.bin" label="A bin: refilled, not counted one by one" />
          <template v-if="ofKind === 'smartLamp'">
            <UFormField label="Watts" name="lamp.watts"><UInput v-model="form.watts" name="lamp.watts" inputmode="decimal" /></UFormField>
            <UFormField label="Its light"><USelect v-model="form.colour" :items="colours" class="w-full" /></UFormField>
          </template>
          <UFormField v-if="ofKind === 'hub'" label="Devices it holds" name="holds"
            ><UInput v-model="form.holds" name="holds" inputmode="numeric"
          /></UFormField>
          <UFormField v-if="ofKind === 'plugIn' || ofKind === 'lampHolder'" label="Switches at most, watts" name="mostWatts"
            ><UInput v-model="form.mostWatts" name="mostWatts" inputmode="numeric"
          /></UFormField>
          <fieldset class="stack">
            <legend class="font-semibold">Where it is bought</legend>
            <div v-for="(one, index) in form.supplies" :key="index" class="supply">
              <UFormField label="Supplier" :name="`supplies.${index}.supplier`"
                ><UInput v-model="one.supplier" :name="`supplies.${index}.supplier`"
              /></UFormField>
              <UFormField label="Costs, each" :name="`supplies.${index}.costCents`"
                ><UInput v-model="one.cost" :name="`supplies.${index}.costCents`" inputmode="decimal"
              /></UFormField>
              <UFormField label="Days" :name="`supplies.${index}.leadDays`"
                ><UInput v-model="one.leadDays" :name="`supplies.${index}.leadDays`" inputmode="numeric"
              /></UFormField>
              <UFormField label="Pack of" :name="`supplies.${index}.packOf`"
                ><UInput v-model="one.packOf" :name="`supplies.${index}.packOf`" inputmode="numeric"
              /></UFormField>
            </div>
            <UButton
              v-if="form.supplies.length < 6"
              icon="i-lucide-plus"
              variant="link"
              class="self-start p-0"
              @click="form.supplies.push({ supplier: '', cost: '', leadDays: '1', packOf: '1' })"
              >Another supplier</UButton
            >
          </fieldset>
          <fieldset v-if="ofKind !== 'kit'" class="stack">
            <legend class="font-semibold">Works with</legend>
            <p class="soft small">What a maker promises counts only once we have tried it.</p>
            <div v-for="(one, index) in form.works" :key="index" class="works">
              <UFormField label="What" :name="`works.${index}.with`"
                ><UInput v-model="one.with" :name="`works.${index}.with`" maxlength="40"
              /></UFormField>
              <UFormField label="Tried by us, on; empty: not yet" :name="`works.${index}.triedOn`"
                ><UInput v-model="one.triedOn" type="date" :name="`works.${index}.triedOn`"
              /></UFormField>
            </div>
            <UButton
              v-if="form.works.length < 12"
              icon="i-lucide-plus"
              variant="link"
              class="self-start p-0"
              @click="form.works.push({ with: '', triedOn: '' })"
              >Something it works with</UButton
            >
          </fieldset>
          <UCheckbox v-if="own" v-model="form.active" label="On the list" />
        </CommonContractForm>
      </template>
    </USlideover>
  </section>
</template>

<style scoped>
.works {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.supply {
  display: grid;
  grid-template-columns: 2fr 1fr 1fr 1fr;
  gap: 8px;
}
</style>
