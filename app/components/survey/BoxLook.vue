<script setup lang="ts">
import { gangsOf, plateOf, pointsInOrder, rowIsKnown } from '../../../core/job'
import { platesFor } from '../../../core/fit'
import { boxKinds, boxKindWords, type BoxState, type Noted } from '../../../core/site'
import { homeKnown, likeBox, verdictOn } from '../../../core/survey'

/** One box under the thumb: what sits in each gang and what it feeds, then what is behind the plate. One tap each. */
const props = defineProps<{ box: BoxState; last: BoxState | null }>()
const { job, site, page, settings, submitSite, submitJob } = injectJobRecord()
const { t } = useTrade()
const { refusal, inTurn } = useAction()

const survey = computed(() => site.value!.surveys[props.box.id] ?? {})
const kind = computed(() => survey.value.kind ?? 'wall')
const verdict = computed(() =>
  verdictOn(job.value!, site.value!, props.box, { edition: settings.value.necEdition, known: homeKnown(page.value) }),
)
const tone = computed(() => ({ fits: 'good', likely: 'soft', open: 'warn', no: 'bad' })[verdict.value.kind])
const plate = computed(() => plateOf(job.value!, site.value!, props.box))
const session = useSession()
/** The company's list holds no plate for this row. */
const noPlate = computed(
  () =>
    plate.value.plate !== null &&
    platesFor(session.parts, site.value!.schemeId, props.box.gangs, survey.value.plate ?? 'standard')?.length === 0,
)
/** Made when its turn comes, from what the record shows then: a second tap does not write over the first on a slow line. */
const note = (make: () => Noted) => inTurn(() => submitSite({ type: 'noteBox', boxId: props.box.id, noted: make() }))
/** Offered until something of its own was seen here. */
const like = computed(() => {
  const from = props.last
  const { looked, cables, neutral } = survey.value
  if (!from || from.id === props.box.id || looked === 'inside' || cables || neutral) return null
  return Object.keys(likeBox(site.value!, from, props.box)).length > 3 ? from : null
})
function takeOver() {
  const from = like.value!
  void note(() => likeBox(site.value!, from, props.box))
}
/** Of a box at a fixture: which points hang there. */
const points = computed(() => pointsInOrder(job.value!).map((point) => ({ value: point.id, label: point.name })))
const hanging = computed(() => pointsInOrder(job.value!).flatMap(({ id, fixtureBoxId }) => (fixtureBoxId === props.box.id ? [id] : [])))
const hang = (pointId: string) =>
  inTurn(() => {
    const point = job.value!.points[pointId]!
    return submitJob({ type: 'recordPoint', point: { ...point, fixtureBoxId: point.fixtureBoxId === props.box.id ? null : props.box.id } })
  })
const kinds = boxKinds.map((value) => ({ value, label: boxKindWords[value] }))
</script>

<template>
  <section class="look" :aria-label="box.name">
    <header class="row wrap">
      <h2 class="next-title grow">{{ box.name }}</h2>
      <UButton v-if="like" variant="outline" class="ghost" @click="takeOver">Like {{ like.name }}</UButton>
      <BenchPhotos :box-id="box.id" only="asFound" />
    </header>
    <SurveyPhotoLetters :box="box" />
    <p data-testid="verdict">
      <b :class="tone">{{ t(verdict.sentence) }}</b> <span class="soft">{{ t(verdict.changes) }}</span>
    </p>
    <p v-if="kind === 'wall'" class="small" data-testid="plate">
      <span v-if="plate.plate && rowIsKnown(job!, site!, box)" class="soft"
        >Plate as it would stand: {{ plate.plate }}{{ noPlate ? '; none on your list' : '' }}.</span
      >
      <span v-for="one in plate.breaks" :key="one.why" class="bad">Gang {{ one.gang }}: {{ one.why }} </span>
      <span v-for="one in plate.warnings" :key="one" class="warn">{{ one }} </span>
    </p>
    <CommonRefusal :refusal="refusal" />
    <CommonToggles v-if="kind !== 'wall'" spoken="What it is" :items="kinds" :chosen="kind" @choose="note(() => ({ kind: $event }))" />
    <div v-if="kind === 'fixture' && points.length">
      <p class="kicker">What hangs here</p>
      <CommonToggles spoken="Points that hang here" :items="points" :chosen="hanging" @choose="hang" />
      <p class="soft small">
        A relay or dimmer module for it can be chosen at this box; every conductor is read in all positions of its switches.
      </p>
    </div>
    <template v-if="kind === 'wall'"><SurveyGang v-for="gang in gangsOf(box)" :key="gang" :box="box" :gang="gang" @note="note" /></template>
    <SurveyInside :box="box" :survey="survey" @note="note" />
    <SurveyPutRight :box="box" />
  </section>
</template>

<style scoped>
.look {
  display: grid;
  gap: 14px;
}
/* The last answer stands there faintly, to be accepted whole. */
.ghost {
  border-style: dashed;
  color: var(--copper);
}
</style>
