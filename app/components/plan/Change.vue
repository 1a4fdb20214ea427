<script setup lang="ts">
import { solutionWords, waysOf, weightsOf } from '../../../core/plan'
import { replanKinds, replansOf, type Replan, type ReplanKind } from '../../../core/quote'
import { moneyIn } from '../../../core/money'
import { everywhere, partNeeds, reserved } from '../../../core/stock/needs'

/** A point turned out otherwise: what can be done instead, what that adds to what was agreed, and what of it is on the van. */
const props = defineProps<{ pointId: string }>()
const emit = defineEmits<{ done: [] }>()
const { page, job, settings, region } = injectJobRecord()
const { t } = useTrade()
const jobId = page.value!.job.id
const branchId = page.value!.job.branchId
const { source, problem: listProblem } = usePlanSource()
const { answer: known } = useList('GET /api/jobs/:id/agreed', () => ({ params: { id: jobId } }), ['sales'])
const { answer: stock } = useList('GET /api/stock', () => ({ query: { branchId } }), ['stock'])
const agreed = computed(() => known.value?.agreed ?? null)

/** Of this point and those it was solved with: the rest of the home stays as it was agreed. */
const ways = computed(() => (source.value ? waysOf(source.value) : null))
const line = computed(() => agreed.value?.lines.find(({ pointIds }) => pointIds.includes(props.pointId)) ?? null)
const together = computed(() => line.value?.pointIds ?? [props.pointId])

const places = computed(() => (stock.value?.places ?? []).filter(({ active }) => active))
const { toId: van } = usePickPlaces(places)
/** On the van, and not kept back for others: what lies there for their jobs is not taken away from them. */
function onVan(articleId: string): number {
  const line = stock.value?.lines.find((one) => one.articleId === articleId)
  if (!line) return 0
  const own = partNeeds(job.value!).find((need) => need.articleId === articleId)
  const forOthers = line.reserved - (own ? reserved(own) : 0)
  return Math.min(line.at[van.value] ?? 0, Math.max(0, everywhere(line.at) - forOthers))
}
const choices = computed((): Replan[] => {
  if (!ways.value || !agreed.value || !source.value) return []
  return replansOf({
    source: { ...source.value, ways: ways.value },
    agreed: agreed.value,
    pointId: props.pointId,
    weights: weightsOf(settings.value.school, source.value.household.years),
    noteOnlyMinutes: settings.value.money.noteOnlyMinutes,
    onVan,
  })
})
const picked = shallowRef<Replan | null>(null)
const groupWords: Record<ReplanKind, string> = {
  here: 'Within what was agreed, with what is on the van',
  dearer: 'Costs more: the customer signs for it',
  fetch: 'Parts have to be fetched',
}
const groups = computed(() =>
  replanKinds.flatMap((is) => {
    const its = choices.value.filter((choice) => choice.is === is)
    return its.length ? [{ is, its }] : []
  }),
)
/** What is done if nobody wants it otherwise: within, and not leaving it. */
const proposed = computed(() => choices.value.find(({ is, first }) => is === 'here' && first.kind !== 'leave') ?? null)
watch(proposed, (now) => (picked.value ??= now), { immediate: true })
const shut = computed(() => ways.value?.excluded.filter(({ pointIds }) => pointIds.includes(props.pointId)) ?? [])
const stillOpen = computed(() => line.value !== null && (ways.value?.problem.solutions.some(({ id }) => id === line.value!.id) ?? true))
const whyShut = computed(() =>
  line.value && !stillOpen.value ? (shut.value.find(({ kind }) => kind === line.value!.kind)?.why ?? null) : null,
)

const locale = computed(() => region.value.locale)
const money = (cents: number) => moneyIn(Math.abs(cents), agreed.value?.currency ?? 'USD', locale.value)
const adds = (cents: number) => (cents === 0 ? 'no new price' : cents > 0 ? `adds ${money(cents)}` : `takes ${money(cents)} off`)
const reason = ref('')
watch(whyShut, (why) => (reason.value ||= why ? t(why).slice(0, 500) : ''), { immediate: true })
const signer = ref(page.value?.customer.name ?? '')
const strokes = ref<[number, number][][]>([])
const { busy, problem, give: order } = useGiving()
const waiting = ref<{ id: string; number: string; totalCents: number } | null>(null)
async function put() {
  const made = await order(() =>
    api('POST /api/jobs/:id/changes', {
      params: { id: jobId },
      body: { solutions: picked.value!.solutions.map(({ id }) => id), reason: reason.value },
    }),
  )
  if (!made) return
  if (made.status === 'accepted') emit('done')
  else waiting.value = made
}
async function sign() {
  const signed = await order(() =>
    api('POST /api/quotes/:id/sign', {
      params: { id: waiting.value!.id },
      body: { totalCents: waiting.value!.totalCents, signer: signer.value, strokes: strokes.value },
    }),
  )
  if (signed) emit('done')
}
</script>

<template>
  <div class="stack" data-testid="change">
    <CommonProblem :problem="listProblem" />
    <template v-if="waiting">
      <p>
        <b>Change {{ waiting.number }} {{ adds(waiting.totalCents) }}, with taxes.</b> {{ reason }}
      </p>
      <p v-for="one in picked?.solutions" :key="one.id">{{ t(ways!.told[one.id]!.what) }}</p>
      <UFormField label="Name of the person signing" name="signer"><UInput v-model="signer" name="signer" maxlength="80" /></UFormField>
      <CommonSignature @change="strokes = $event" />
      <CommonProblem :problem="problem" />
      <UButton variant="solid" size="xl" :loading="busy" :disabled="!strokes.length || signer.trim().length < 2" @click="sign"
        >Take the signature</UButton
      >
    </template>
    <template v-else>
      <p v-if="line">
        Agreed: <b>{{ line.what }}</b><span v-if="together.length > 1" class="soft"> for {{ line.points.join(', ') }}</span>
      </p>
      <p v-if="whyShut" class="note amber">{{ t(whyShut) }}</p>
      <p v-if="ways && agreed && !choices.length" class="note amber">
        No other way is open here by what is known. Note in the survey what was found.
      </p>
      <p v-else-if="choices.length && !proposed" class="note amber" data-testid="not-within">
        Nothing that does the work is within what was agreed with what is on this van.
      </p>
      <UFormField v-if="choices.length && places.length" label="Parts are looked for on"
        ><USelect v-model="van" :items="places.map(({ id, name }) => ({ value: id, label: name }))" class="w-full"
      /></UFormField>
      <div role="radiogroup" aria-label="What is done instead">
        <template v-for="{ is, its } in groups" :key="is">
          <p class="kicker group">{{ groupWords[is] }}</p>
          <label v-for="choice in its" :key="choice.first.id" class="choice" :class="{ on: picked?.first.id === choice.first.id }">
            <input type="radio" name="change" :checked="picked?.first.id === choice.first.id" @change="picked = choice" />
            <span class="grow">
              <b>{{ solutionWords[choice.first.kind] }}</b><span class="block">{{
                choice.solutions.map((one) => t(ways!.told[one.id]!.what)).join('; ')
              }}</span>
              <span v-if="choice.solutions.some((one) => ways!.told[one.id]!.loses.length)" class="small warn block"
                >Given up: {{ t(choice.solutions.flatMap((one) => ways!.told[one.id]!.loses).join('; ')) }}.</span
              >
              <span v-if="choice === proposed" class="small good block">proposed: it does most of what was agreed</span>
            </span>
            <span class="mono price">{{ adds(choice.totalCents) }}</span>
          </label>
        </template>
      </div>
      <template v-if="picked">
        <UFormField label="What was found" name="reason"
          ><UTextarea v-model="reason" name="reason" maxlength="500" autoresize
        /></UFormField>
        <CommonProblem :problem="problem" />
        <UButton variant="solid" size="xl" :loading="busy" :disabled="reason.trim().length < 3" @click="put">{{
          picked.noteOnly ? 'Note it: no signature is needed' : 'To the customer’s signature'
        }}</UButton>
      </template>
    </template>
  </div>
</template>

<style scoped>
.group {
  margin: 14px 0 8px;
}
.choice {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  padding: 10px;
  border: 1.5px solid var(--line);
  margin-top: -1.5px;
  min-height: 48px;
}
.choice.on {
  border-color: var(--copper);
  position: relative;
  background: var(--sheet);
}
.choice input {
  width: 22px;
  height: 22px;
  accent-color: var(--copper);
  flex: none;
}
.price {
  text-align: right;
  max-width: 110px;
}
</style>
