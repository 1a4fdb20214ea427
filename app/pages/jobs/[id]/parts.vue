<script setup lang="ts">
import { waitsForVisit } from '../../../../core/job'
import { judgeScan, partNeeds, scanWords, stillToPick, inHand, toolsFor, type Scan } from '../../../../core/stock'
import type { PickLine } from '../../../../core/protocol'

/** What this job needs, by shelf: picked onto the van, used, brought back. What is scanned is held against it. */
const { page, job, onCrew, submitJob } = injectJobRecord()
const session = useSession()
const { t } = useTrade()
const jobId = page.value!.job.id
const { answer, problem } = useList('GET /api/jobs/:id/picks', () => ({ params: { id: jobId } }), ['stock', 'sales', 'catalogue'], {
  keptAs: () => `picks ${jobId}`,
})
const mayMove = computed(() => onCrew.value || session.isOffice)
const places = computed(() => answer.value?.places ?? [])
const stores = computed(() => places.value.map(({ id, name }) => ({ value: id, label: name })))
const { fromId, toId } = usePickPlaces(places)
/** As the record on this device has it, unsent taps and all: the list itself may be older. */
const lines = computed(() => {
  const needs = job.value ? partNeeds({ sales: job.value.sales ?? [], partMoves: job.value.partMoves ?? [] }) : []
  const none = { sold: 0, picked: 0, used: 0 }
  return (answer.value?.lines ?? []).map((line) => {
    const { sold, picked, used } = needs.find(({ articleId }) => articleId === line.articleId) ?? none
    return { ...line, sold, picked, used }
  })
})
const counted_ = computed(() => lines.value.filter(({ bin }) => !bin))
const left = computed(() => counted_.value.reduce((sum, line) => sum + stillToPick(line), 0))
const short = computed(() =>
  counted_.value.filter((line) => stillToPick(line) > Object.values(line.at).reduce((sum, one) => sum + Math.max(0, one), 0)),
)
const sentence = computed(() => {
  if (!answer.value) return problem.value ? 'The list cannot be had just now.' : 'Asking for the list …'
  if (!lines.value.length) return 'Nothing was agreed for this job yet: parts follow from a signed offer.'
  const total = counted_.value.reduce((sum, { sold }) => sum + sold, 0)
  const more = short.value.length ? ` ${counted(short.value.length, 'article is', 'articles are')} short.` : ''
  return left.value ? `${total - left.value} of ${counted(total, 'part')} picked.${more}` : `All ${total} parts are picked.${more}`
})
/** What lies there is not enough for this job and the others. */
const wantedElsewhere = (line: PickLine) =>
  line.others > 0 && Object.values(line.at).reduce((sum, one) => sum + Math.max(0, one), 0) < line.others + stillToPick(line)
/** What the telephone has told to take along. */
const forCallbacks = computed(() =>
  Object.values(job.value?.callbacks ?? {}).filter((callback) => waitsForVisit(callback) && callback.call?.carry.length),
)
const tools = computed(() => (job.value ? toolsFor(job.value) : []))
const { refusal, inTurn } = useAction()
const last = shallowRef<{ line: PickLine; as: 'pick' | 'use' | 'return'; scanned: string } | null>(null)
const move = (line: PickLine, as: 'pick' | 'use' | 'return', quantity = 1, scanned = '', inHandNow = false) => {
  last.value = { line, as, scanned }
  return inTurn(() =>
    submitJob({
      type: 'movePart',
      moveId: newId(),
      articleId: line.articleId,
      name: line.name,
      quantity,
      as,
      fromId: as === 'pick' ? fromId.value : toId.value,
      toId: as === 'use' ? null : as === 'pick' ? toId.value : fromId.value,
      scanned,
      inHand: inHandNow,
    }),
  )
}
const found = () => last.value && move(last.value.line, last.value.as, 1, last.value.scanned, true)
const scan = shallowRef<Scan | null>(null)
async function read(text: string) {
  if (!answer.value) return
  const wanted = answer.value.known.filter(({ id }) => lines.value.some(({ articleId, sold }) => articleId === id && sold > 0))
  const result = judgeScan(text, wanted as never, answer.value.known as never, session.catalogue)
  scan.value = result
  if (result.is !== 'right') return
  const line = lines.value.find(({ articleId }) => articleId === result.article.id)!
  if (stillToPick(line) > 0 || line.bin) await move(line, 'pick', 1, text)
}
const enough = computed(() => {
  if (scan.value?.is !== 'right') return false
  const { id } = scan.value.article
  const line = lines.value.find(({ articleId }) => articleId === id)
  return Boolean(line && stillToPick(line) === 0 && !line.bin)
})
/** By shelf for whoever picks, by box for whoever makes things ready. */
const route = useRoute()
const by = computed(() => route.query.by ?? (job.value?.sales?.length ? 'shelf' : 'box'))
const views = [
  { value: 'shelf', label: 'By shelf' },
  { value: 'box', label: 'By box' },
] as const
const placeName = (id: string) => places.value.find((one) => one.id === id)?.name ?? ''
const where = (line: PickLine) =>
  places.value.flatMap(({ id, name }) => (line.at[id] ? [`${name} ${line.at[id]}`] : [])).join(', ') || 'nowhere here'
</script>

<template>
  <div class="page parts">
    <CommonToggles
      spoken="How the parts are listed"
      :items="views"
      :chosen="by === 'box' ? 'box' : 'shelf'"
      class="mb-3"
      @choose="(by) => navigateTo({ query: { by } }, { replace: true })"
    />
    <StockBags v-if="by === 'box'" :may-prepare="mayMove" />
    <h1 v-else class="sentence">{{ sentence }}</h1>
    <CommonProblem :problem="problem" />
    <p v-for="one in forCallbacks" :key="one.id" class="note hot-edge">
      <b>For the callback, take along:</b> {{ one.call!.carry.join(', ') }}.
    </p>
    <p v-if="!mayMove && lines.length" class="note amber">
      You are not on a visit of this job: you can look, and nothing you tap is stored.
    </p>
    <template v-if="by !== 'box' && lines.length">
      <div v-if="mayMove" class="places my-3">
        <UFormField label="From"><USelect v-model="fromId" :items="stores" class="w-full" /></UFormField>
        <UFormField label="Onto"><USelect v-model="toId" :items="stores" class="w-full" /></UFormField>
      </div>
      <p v-if="!places.length" class="note amber">No store or van is on record yet: the office adds them under Stock.</p>
      <StockScanField v-if="mayMove && places.length" class="scan" @read="read" />
      <p
        v-if="scan"
        class="verdict note"
        :class="scan.is === 'right' ? 'petrol' : 'red'"
        :role="scan.is === 'right' ? 'status' : 'alert'"
        data-testid="scan-verdict"
      >
        <b>{{ t(scanWords(scan)) }}</b> <template v-if="enough && !refusal">All of them are picked.</template>
      </p>
      <CommonRefusal :refusal="refusal" />
      <UButton v-if="refusal?.code === 'notThere'" class="mt-1" @click="found">It is in my hand</UButton>

      <ul class="mt-3">
        <li v-for="line in lines" :key="line.articleId" class="list-row line" :data-testid="`part-${line.name}`">
          <span class="mono shelf">{{ line.shelf || '–' }}</span>
          <span>
            <b>{{ line.name }}</b>
            <span class="small block" :class="short.includes(line) ? 'warn' : 'soft'"
              >{{ line.bin ? 'a bin: refill it' : where(line)
              }}{{
                short.includes(line)
                  ? ' · short: on the list to buy'
                  : wantedElsewhere(line)
                    ? ` · ${line.others} kept back for other jobs`
                    : ''
              }}</span
            >
          </span>
          <span v-if="!line.bin" class="mono count" :class="{ good: stillToPick(line) === 0 }"
            >{{ line.picked }}/{{ line.sold }}<span class="small soft block">{{ line.used ? `${line.used} used` : '' }}</span></span
          >
          <span v-else />
          <span v-if="mayMove && !line.bin && places.length" class="row wrap acts">
            <UButton v-if="stillToPick(line) > 0" :aria-label="`Pick one ${line.name}`" @click="move(line, 'pick')">Pick</UButton>
            <UButton v-if="stillToPick(line) > 1" :aria-label="`Pick all ${line.name}`" @click="move(line, 'pick', stillToPick(line))"
              >All {{ stillToPick(line) }}</UButton
            >
            <UButton v-if="inHand(line) > 0" variant="link" :aria-label="`${line.name} is used`" @click="move(line, 'use')">Used</UButton>
            <UButton
              v-if="inHand(line) > 0"
              variant="link"
              :aria-label="`Bring ${line.name} back to ${placeName(fromId)}`"
              @click="move(line, 'return')"
              >Back</UButton
            >
          </span>
        </li>
      </ul>
      <p v-if="tools.length" class="mt-4" data-testid="tools"><b>Tools:</b> {{ tools.join(' · ') }}</p>
      <p class="soft small mt-4">
        A device that is recorded at its box counts as used by itself. What is made ready in the shop, and checked in its carton, is under
        By box.
      </p>
    </template>
  </div>
</template>

<style scoped>
.parts {
  max-width: 860px;
}
.line {
  grid-template-columns: 52px minmax(0, 1fr) 64px minmax(0, auto);
  min-height: 60px;
}
.count {
  text-align: right;
  font-size: 17px;
}
.places {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  max-width: 520px;
}
.scan {
  max-width: 520px;
}
.verdict {
  font-size: 17px;
  margin: 8px 0;
}
@media (max-width: 760px) {
  .line {
    grid-template-columns: 44px minmax(0, 1fr) 60px;
  }
  .acts {
    grid-column: 2 / -1;
  }
}
</style>
