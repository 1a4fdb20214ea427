<script setup lang="ts">
import { boxesOfJob } from '../../../core/job'
import { meshChannelPlan, radioVerdictWords, radioPlanOf, type RadioBand } from '../../../core/radio'
import { boxName, type RoomPlace } from '../../../core/site'
import type { RadioTalk } from '~/workers/radio'

/** What the signal is at each box, from the few readings there are and what lies between; what to measure next, and what would help. */
const { site, job, submitSite } = injectJobRecord()
const { t } = useTrade()
const { refusal, inTurn } = useAction()
const boxes = computed(() => boxesOfJob(job.value!, site.value!))
const { put, answer, thinking, failed } = useNewestAnswer<RadioTalk>(
  () => new Worker(new URL('../../workers/radio.ts', import.meta.url), { type: 'module' }),
  { cancels: true },
)
/** Switches join on 2.4 GHz; a camera or a set may not. */
const band = ref<RadioBand>('2.4')
const bands = (['2.4', '5'] as const).map((value) => ({ value, label: `${value} GHz` }))
watch(
  [() => site.value?.seq, band],
  () => {
    if (site.value) void put({ site: toRaw(site.value), boxIds: boxes.value.map(({ id }) => id), band: band.value })
  },
  { immediate: true },
)
const plan = computed(() => radioPlanOf(site.value!))
const way = ref<'between' | 'plan'>(plan.value.rooms.length ? 'plan' : 'between')
const ways = [
  { value: 'between' as const, label: 'walls between' },
  { value: 'plan' as const, label: 'rough plan' },
]
const floor = ref(0)
const rooms = computed(() =>
  site.value!.roomOrder.map((id) => ({ id, name: site.value!.rooms[id]!.name, place: site.value!.places[id] ?? null })),
)
const betweenOf = (place: RoomPlace | null) => (place?.kind === 'between' ? place : null)
const from: Extract<RoomPlace, { kind: 'between' }> = { kind: 'between', metres: 5, walls: 1, floors: 0 }
/** Changed by a step, from what the record shows when its turn comes: a tap on a slow line writes over none before it. */
const step = (roomId: string, key: 'metres' | 'walls' | 'floors', more: number) =>
  inTurn(() => {
    const now = betweenOf(site.value!.places[roomId] ?? null) ?? from
    return submitSite({ type: 'placeRoom', roomId, place: { ...now, [key]: Math.max(0, (now[key] ?? 0) + more) } })
  })
const counts = [
  { key: 'metres', word: 'm', words: 'm', max: 60 },
  { key: 'walls', word: 'wall', words: 'walls', max: 12 },
  { key: 'floors', word: 'floor', words: 'floors', max: 5 },
] as const
const say = (roomId: string) => inTurn(() => submitSite({ type: 'placeRoom', roomId, place: from }))
const lines = computed(() =>
  (answer.value?.home.boxes ?? []).flatMap((one) => (site.value!.boxes[one.boxId] ? [{ ...one, box: site.value!.boxes[one.boxId]! }] : [])),
)
const next = computed(() => (answer.value?.home.next ? (site.value!.boxes[answer.value.home.next] ?? null) : null))
const sentence = computed(() => {
  const judged = lines.value.filter(({ verdict }) => verdict)
  if (judged.length === 0) return 'Say where the rooms are, and the signal can be judged.'
  const good = judged.filter(({ verdict }) => verdict === 'good' || verdict === 'likely').length
  return `${good} of ${counted(judged.length, 'box', 'boxes')} ${good === 1 ? 'has' : 'have'} signal enough${next.value ? `; measure next: ${boxName(site.value!, next.value)}` : ''}.`
})
const wifi = computed(() =>
  Object.values(site.value!.networks).flatMap(({ kind, bands, channel }) =>
    kind !== 'hub' && bands.includes('2.4') && channel ? [channel] : [],
  ),
)
const mesh = computed(() => (wifi.value.length ? meshChannelPlan(wifi.value).slice(0, 3) : []))
const full = computed(() =>
  Object.values(site.value!.networks).filter(
    ({ holds, holdsMost }) => holds !== null && holdsMost !== null && holds + boxes.value.length > holdsMost,
  ),
)
const tone = { good: 'good', likely: 'good', measure: 'warn', fails: 'bad' } as const
</script>

<template>
  <section class="stack" aria-label="Signal in the home">
    <p>
      <b>{{ sentence }}</b> <span v-if="thinking" class="soft">Computing …</span>
    </p>
    <p v-if="failed" class="note amber">The computation could not be started here. Reload the page to try again.</p>
    <CommonToggles spoken="Band" :items="bands" :chosen="band" @choose="band = $event" />
    <CommonToggles spoken="How rooms are placed" :items="ways" :chosen="way" @choose="way = $event" />
    <template v-if="way === 'between'">
      <p class="soft small">From the router to the middle of each room.</p>
      <div v-for="room in rooms" :key="room.id" class="row wrap between">
        <b class="name">{{ room.name }}</b>
        <template v-if="betweenOf(room.place)">
          <SurveyStepper
            v-for="{ key, word, words, max } in counts"
            :key="key"
            :model-value="betweenOf(room.place)![key] ?? 0"
            :min="0"
            :max="max"
            :word="word"
            :words="words"
            :spoken="`${room.name}: ${key}`"
            @update:model-value="step(room.id, key, $event - (betweenOf(room.place)![key] ?? 0))"
          />
        </template>
        <UButton v-else size="md" @click="say(room.id)">{{ room.place ? 'on the plan; count instead' : 'Say it' }}</UButton>
      </div>
    </template>
    <template v-else>
      <SurveyStepper v-model="floor" :min="-2" :max="10" word="floor" words="floor" spoken="Floor of the plan" />
      <SurveyPlan :key="floor" :floor="floor" />
      <p v-if="plan.rooms.length && !plan.senders.length" class="note amber">
        No router has a room yet: say under Networks in which room it stands.
      </p>
    </template>
    <LazySurveyHeatMap v-for="grid in answer?.grids ?? []" :key="grid.floor" :grid="grid" />
    <ul>
      <li v-for="line in lines" :key="line.boxId" class="row">
        <span class="grow">{{ boxName(site!, line.box) }}</span>
        <span class="mono small">{{
          line.read !== null
            ? `${line.read} dBm read`
            : line.prediction
              ? `${Math.round(line.prediction.dbm)} ± ${Math.round(line.prediction.spreadDb)} dBm`
              : '–'
        }}</span>
        <b :class="line.verdict ? tone[line.verdict] : 'soft'" class="small verdict">{{
          line.verdict ? radioVerdictWords[line.verdict] : 'not judged'
        }}</b>
      </li>
    </ul>
    <p v-if="answer?.place" class="note" data-testid="best-place">
      One more access point or extender helps most in <b>{{ answer.place.roomName }}</b>: {{ answer.place.after }} instead of
      {{ answer.place.before }} of {{ counted(boxes.length, 'box', 'boxes') }} with signal enough.
    </p>
    <p v-for="one in full" :key="one.networkId" class="note amber">
      {{ one.name }} holds {{ one.holds }} of {{ one.holdsMost }} devices: with {{ counted(boxes.length, 'box', 'boxes') }} here
      {{ one.holds! + boxes.length - one.holdsMost! }} too many.
    </p>
    <p v-if="mesh.length" class="soft small">
      Mesh channel clear of this Wi-Fi ({{ wifi.join(', ') }}):
      {{ mesh.map(({ channel, covered }) => (covered ? `${channel}, partly covered` : String(channel))).join('; ') }}.
    </p>
    <p class="soft small">
      Predicted, not measured: free space with counted walls, fitted to what was read here. A reading at the box says more.
      {{ t('Metal boxes and plates cost some dB: measure with the plate on.') }}
    </p>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.between {
  border-bottom: 1px solid var(--line);
  padding: 4px 0;
}
.name {
  min-width: 110px;
}
li {
  border-bottom: 1px solid var(--line);
  min-height: 40px;
}
.verdict {
  min-width: 150px;
  text-align: right;
}
</style>
