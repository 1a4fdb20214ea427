<script setup lang="ts">
import { boxesOfJob, pointsOfBox } from '../../../../core/job'
import { boxName, type BoxState } from '../../../../core/site'
import { homeKnown, roomNamesLeft, unknownsOf, unknownWords, verdictOn, worthOpening } from '../../../../core/survey'
import type { GangMark } from '~/components/home/BoxPlate.vue'

/** The home as it is found, room by room: everything is one tap and waits on the phone where there is no network. */
const { page, job, site, settings, onCrew, offline, submitSite, submitJob } = injectJobRecord()
const session = useSession()
const { t } = useTrade()
const { refusal, inTurn } = useAction()

const known = computed(() => homeKnown(page.value))
const boxes = computed(() => (job.value && site.value ? boxesOfJob(job.value, site.value) : []))
const rooms = computed(() =>
  (site.value?.roomOrder ?? []).map((id) => {
    const inRoom = boxes.value.filter((box) => box.roomId === id)
    const others = site
      .value!.boxOrder.flatMap((one) => site.value!.boxes[one] ?? [])
      .filter((one) => one.roomId === id && !inRoom.includes(one))
    return {
      id,
      name: site.value!.rooms[id]!.name,
      boxes: inRoom,
      others,
      unknown: inRoom.reduce((sum, box) => sum + leftAt(box).length, 0),
    }
  }),
)
const leftAt = (box: BoxState) => unknownsOf(job.value!, site.value!, box)
const roomId = ref<string | null>(null)
const room = computed(() => rooms.value.find(({ id }) => id === roomId.value) ?? null)
watch(
  rooms,
  (all) => {
    if (!all.some(({ id }) => id === roomId.value)) roomId.value = all[0]?.id ?? null
  },
  { immediate: true },
)
const route = useRoute()
const adding = ref(false)
const boxId = ref<string | null>(null)
const box = computed(() => room.value?.boxes.find(({ id }) => id === boxId.value) ?? null)
watch(roomId, () => {
  if (site.value?.boxes[boxId.value ?? '']?.roomId !== roomId.value) boxId.value = null
  adding.value = false
})
/** Named in the address: somebody comes from that box. */
const asked = site.value?.boxes[String(route.query.box ?? '')]
if (asked) {
  roomId.value = asked.roomId
  boxId.value = asked.id
}
/** The box somebody was at before this one: what is there is most often here too. */
const last = ref<string | null>(null)
const look = useTemplateRef<HTMLElement>('look')
watch(boxId, (_, before) => {
  if (before) last.value = before
  void nextTick(() => look.value?.scrollIntoView({ block: 'start', behavior: 'auto' }))
})
const lastBox = computed(() => (last.value ? (site.value?.boxes[last.value] ?? null) : null))
const mayChange = computed(() => onCrew.value || session.isOffice)

const unknown = computed(() => rooms.value.reduce((sum, one) => sum + one.unknown, 0))
const worth = computed(() => (job.value && site.value ? worthOpening(job.value, site.value, known.value) : []))
const sentence = computed(() => {
  if (rooms.value.length === 0) return 'Begin with the first room.'
  if (boxes.value.length === 0) return 'Add the first box of this room.'
  if (unknown.value === 0) return 'Everything on the list was looked at.'
  const rest = rooms.value.filter(({ unknown: left }) => left > 0).length
  return `${counted(unknown.value, 'thing', 'things')} not looked at yet, in ${counted(rest, 'room')}.`
})
const named = ref('')
const naming = ref(false)
async function addRoom(called: string) {
  if (!called.trim()) return
  const id = newId()
  if (!(await inTurn(() => submitSite({ type: 'recordRoom', roomId: id, name: called.trim() })))) return
  named.value = ''
  naming.value = false
  roomId.value = id
}
const marks = (one: BoxState): GangMark[] =>
  Array.from({ length: one.gangs }, (_, index) => (pointsOfBox(job.value!, one.id, index + 1).length ? 'untested' : 'empty'))
const numbers = (one: BoxState) => (one.unknownFeed || !one.breakerIds.length ? ['?'] : one.breakerIds.map((id) => markOf(site.value!, id)))
const verdictAt = (one: BoxState) => verdictOn(job.value!, site.value!, one, { edition: settings.value.necEdition, known: known.value })
function made(id: string) {
  adding.value = false
  boxId.value = id
}
const roomName = ref('')
watch(room, (one) => (roomName.value = one?.name ?? ''), { immediate: true })
const correctRoom = () =>
  roomName.value.trim() && roomName.value.trim() !== room.value!.name
    ? inTurn(() => submitSite({ type: 'recordRoom', roomId: room.value!.id, name: roomName.value.trim() }))
    : undefined
const goTo = (one: BoxState) => {
  roomId.value = one.roomId
  boxId.value = one.id
}
const home = ref<'kind' | 'panel' | 'networks' | 'radio' | null>(null)
/** Out of the app: to read again, to work on in a spreadsheet, to print. */
const ways = [
  { as: 'pdf', label: 'as a paper (PDF)' },
  { as: 'tables', label: 'as tables (CSV)' },
  { as: 'json', label: 'as a file (JSON)' },
]
</script>

<template>
  <div class="page survey">
    <h1 class="sentence">{{ t(sentence) }}</h1>
    <p v-if="worth.length" class="worth">
      <span class="soft">Worth opening before anything is ordered:</span>
      <UButton v-for="one in worth" :key="one.box.id" variant="link" @click="goTo(one.box)">{{
        one.points ? `${boxName(site!, one.box)}: decides ${counted(one.points, 'point')}` : boxName(site!, one.box)
      }}</UButton>
    </p>
    <p v-if="!mayChange" class="note amber">You are not on a visit of this job: you can look, and nothing you tap is stored.</p>
    <CommonRefusal :refusal="refusal" />

    <nav class="rooms" aria-label="Rooms">
      <button v-for="one in rooms" :key="one.id" type="button" class="door" :aria-pressed="one.id === roomId" @click="roomId = one.id">
        {{ one.name }} <span class="left" :class="{ none: one.unknown === 0 }">{{ one.unknown || (one.boxes.length ? '✓' : '–') }}</span>
      </button>
      <button type="button" class="door plus" :aria-expanded="naming || rooms.length === 0" @click="naming = !naming">+ Room</button>
    </nav>
    <section v-if="naming || rooms.length === 0" class="new" aria-label="Another room">
      <div class="row wrap">
        <UButton v-for="one in roomNamesLeft(site!).slice(0, 9)" :key="one" @click="addRoom(one)">{{ one }}</UButton>
      </div>
      <form class="row mt-2" @submit.prevent="addRoom(named)">
        <UInput v-model="named" aria-label="Another name for the room" placeholder="another name" class="grow" maxlength="80" />
        <UButton type="submit" :disabled="!named.trim()">Add</UButton>
      </form>
    </section>

    <section v-if="room" :aria-label="room.name" class="room">
      <div class="plates">
        <div v-for="one in room.boxes" :key="one.id" class="plate-of">
          <HomeBoxPlate
            :box="one"
            :marks="marks(one)"
            :breakers="numbers(one)"
            :selected="boxId === one.id"
            @pick="boxId = boxId === one.id ? null : one.id"
          />
          <p v-if="!box" class="small said">
            {{ t(verdictAt(one).sentence) }}
            <span v-if="leftAt(one).length" class="soft"
              >Not looked at: {{ t(leftAt(one).map((kind) => unknownWords[kind])).join(', ') }}.</span
            >
          </p>
        </div>
        <div v-for="one in room.others" :key="one.id" class="plate-of other">
          <p class="small soft">{{ one.name }}: on record, not part of this job.</p>
          <UButton size="md" @click="inTurn(() => submitJob({ type: 'takeInBox', boxId: one.id, part: true }))">Take it in</UButton>
        </div>
        <button v-if="!adding" type="button" class="add-box" @click="adding = true">+ Box</button>
      </div>
      <SurveyNewBox v-if="adding" :key="room.id" :room-id="room.id" @made="made" @close="adding = false" />
      <!-- Not while another is added: the next tap would be about the wrong box. -->
      <div v-if="box && !adding" ref="look" class="at-box">
        <SurveyBoxLook :key="box.id" :box="box" :last="lastBox" />
        <SurveySignal :key="`signal ${box.id}`" :box="box" />
      </div>
      <details v-else-if="!adding" class="right">
        <summary class="opens">Put the room right</summary>
        <div class="row wrap">
          <UInput v-model="roomName" aria-label="Name of the room" maxlength="80" class="grow" @change="correctRoom" />
          <UButton
            v-if="!room.boxes.length && !room.others.length"
            color="error"
            @click="inTurn(() => submitSite({ type: 'retireRoom', roomId: room!.id }))"
            >Take the room off</UButton
          >
        </div>
      </details>
    </section>

    <div class="row wrap rule pt-3 mt-4" role="group" aria-label="Of the whole home">
      <UButton :aria-expanded="home === 'kind'" @click="home = home === 'kind' ? null : 'kind'">The home</UButton>
      <UButton :aria-expanded="home === 'panel'" @click="home = home === 'panel' ? null : 'panel'">{{
        t('{Panel} and {breakers}')
      }}</UButton>
      <UButton :aria-expanded="home === 'radio'" @click="home = home === 'radio' ? null : 'radio'">Signal</UButton>
      <UButton :aria-expanded="home === 'networks'" @click="home = home === 'networks' ? null : 'networks'">Networks</UButton>
    </div>
    <SurveyHomeLook v-if="home === 'kind'" />
    <SurveyPanelLook v-if="home === 'panel'" />
    <SurveyNetworks v-if="home === 'networks'" />
    <LazySurveyRadio v-if="home === 'radio'" />
    <p class="row wrap small">
      <span class="soft">This survey</span>
      <template v-if="offline"><span class="soft">can be taken out once there is a network.</span></template>
      <a
        v-for="one in ways"
        v-else
        :key="one.as"
        class="out"
        :href="`/api/jobs/${page!.job.id}/survey?as=${one.as}`"
        :data-paper="one.as === 'pdf' || undefined"
        target="_blank"
        >{{ one.label }}</a
      >
    </p>
  </div>
</template>

<style scoped>
.survey {
  display: grid;
  gap: 12px;
  align-content: start;
}
.worth {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: center;
}
.rooms {
  display: flex;
  gap: 0;
  overflow-x: auto;
  border-top: 3px solid var(--ink);
}
.door {
  min-height: 48px;
  padding: 8px 14px;
  border-right: 1px solid var(--line);
  white-space: nowrap;
}
.door[aria-pressed='true'] {
  background: var(--sheet);
  font-weight: 640;
  box-shadow: inset 0 -3px 0 var(--copper-bar);
}
.door.plus {
  color: var(--copper);
}
.left {
  font: 640 12px var(--font-mono);
  color: var(--amber);
}
.left.none {
  color: var(--petrol);
}
.new {
  padding: 12px 14px;
  border: 1.5px dashed var(--copper-bar);
  border-radius: 4px;
  background: var(--sheet);
}
.room {
  display: grid;
  gap: 14px;
}
.plates {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 18px;
  align-items: flex-start;
}
.plate-of {
  max-width: 250px;
}
.said {
  padding: 0 4px;
  max-width: 230px;
}
.at-box {
  display: grid;
  gap: 14px;
  scroll-margin-top: 120px;
}
.add-box {
  min-width: 64px;
  min-height: 86px;
  border: 1.5px dashed var(--copper-bar);
  border-radius: 5px;
  color: var(--copper);
  font-weight: 640;
}
.out {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  padding: 0 6px;
  text-decoration: underline;
}
</style>
