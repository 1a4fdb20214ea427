<script setup lang="ts">
import { inPanelOrder, type BoxState } from '../../../core/site'
import { boxesOfJob } from '../../../core/job'

/** What was mistyped, and what is not there at all. */
const props = defineProps<{ box: BoxState }>()
const { job, site, asker, offline, submitSite, submitJob } = injectJobRecord()
const { t } = useTrade()
const { refusal, busy, run, inTurn } = useAction()
const name = ref(props.box.name)
watch(
  () => props.box.name,
  (said) => (name.value = said),
)
const rooms = computed(() => site.value!.roomOrder.map((id) => ({ value: id, label: site.value!.rooms[id]!.name })))
const correct = (facts: object) => run(() => submitSite({ type: 'correctBox', boxId: props.box.id, ...facts }))
const gangs = computed({
  get: () => props.box.gangs,
  set(value) {
    const more = value - props.box.gangs
    void inTurn(() => submitSite({ type: 'correctBox', boxId: props.box.id, gangs: Math.min(6, Math.max(1, props.box.gangs + more)) }))
  },
})
const others = computed(() =>
  boxesOfJob(job.value!, site.value!)
    .filter(({ id }) => id !== props.box.id && !props.box.farBoxIds.includes(id))
    .map((box) => ({ value: box.id, label: `${box.name}, ${site.value!.rooms[box.roomId]?.name ?? ''}` })),
)
const other = ref<string>()
async function tie() {
  if (other.value && (await correct({ farBoxIds: [other.value] }))) other.value = undefined
}
/** A feed that nobody had on the list: what adds a path is a fact, and ends what was proven here. */
const otherFeeds = computed(() =>
  Object.values(site.value!.breakers)
    .filter(({ id, role }) => role === 'branch' && !props.box.breakerIds.includes(id))
    .sort(inPanelOrder)
    .map(({ id }) => ({ value: id, label: markOf(site.value!, id) })),
)
const alsoBy = ref<string>()
async function feed() {
  const { breakerIds, unknownFeed, id } = props.box
  const given = {
    type: 'setFeeds' as const,
    boxId: id,
    breakerIds: [...breakerIds, alsoBy.value!],
    unknownFeed,
    basis: 'found in the survey',
  }
  if (await run(() => submitSite(given))) alsoBy.value = undefined
}
const tied = computed(() => props.box.farBoxIds.flatMap((id) => site.value!.boxes[id] ?? []))
const notTied = ref('')
const untie = (otherId: string) =>
  run(() => submitSite({ type: 'untieSwitches', boxId: props.box.id, otherId, reason: notTied.value.trim() }))
/** Listed as two and one in the wall, or the other way. */
const twins = computed(() =>
  boxesOfJob(job.value!, site.value!)
    .filter((box) => box.id !== props.box.id && box.roomId === props.box.roomId && (site.value!.surveys[box.id]?.kind ?? 'wall') === 'wall')
    .map((box) => ({ value: box.id, label: box.name })),
)
const isWall = computed(() => (site.value!.surveys[props.box.id]?.kind ?? 'wall') === 'wall')
const twin = ref<string>()
async function merge() {
  const reason = 'one box in the wall'
  if (await run(() => submitJob({ type: 'mergeBoxes', intoId: props.box.id, fromId: twin.value!, reason }))) twin.value = undefined
}
const stay = ref(1)
const rest = ref('')
async function split() {
  if (await run(() => submitJob({ type: 'splitBox', boxId: props.box.id, newId: newId(), name: rest.value.trim(), stay: stay.value })))
    rest.value = ''
}
const isPart = computed(() => job.value!.boxIds.includes(props.box.id))
const retire = (reason: string) => run(() => submitSite({ type: 'retireBox', boxId: props.box.id, reason }))
</script>

<template>
  <details class="right">
    <summary class="opens">Put something right</summary>
    <div class="stack">
      <p v-if="box.closure !== 'closed'" class="note amber">
        The box is open: under another name or in another room its proof ends, and whoever relies on it is alarmed.
      </p>
      <form class="row wrap" @submit.prevent="correct({ name: name.trim() })">
        <UInput v-model="name" aria-label="Name of the box" class="grow" maxlength="80" />
        <UButton type="submit" :loading="busy" :disabled="!name.trim() || name.trim() === box.name">Rename</UButton>
      </form>
      <div class="row wrap">
        <SurveyStepper v-model="gangs" :min="1" :max="6" word="gang" />
        <USelect
          :model-value="box.roomId"
          :items="rooms"
          aria-label="Room of the box"
          class="grow"
          @update:model-value="correct({ roomId: $event })"
        />
      </div>
      <form v-if="otherFeeds.length" class="row wrap" @submit.prevent="feed">
        <USelect
          v-model="alsoBy"
          :items="otherFeeds"
          :aria-label="t('Another {breaker} that feeds it')"
          placeholder="fed also by …"
          class="grow"
        />
        <UButton type="submit" :disabled="!alsoBy" :loading="busy">Add the feed</UButton>
      </form>
      <form v-if="others.length" class="row wrap" @submit.prevent="tie">
        <USelect
          v-model="other"
          :items="others"
          aria-label="A switch elsewhere acts on something in here"
          placeholder="switched also from …"
          class="grow"
        />
        <UButton type="submit" :disabled="!other" :loading="busy">Add it</UButton>
      </form>
      <div v-if="tied.length" class="row wrap">
        <span class="soft grow">Switched together with {{ tied.map(({ name: one }) => one).join(', ') }}.</span>
        <template v-if="asker.licensed && !offline">
          <UInput
            v-model="notTied"
            aria-label="How you know that it is not"
            placeholder="traced: another light"
            class="grow"
            maxlength="200"
          />
          <UButton
            v-for="one in tied"
            :key="one.id"
            color="error"
            :loading="busy"
            :disabled="notTied.trim().length < 3"
            @click="untie(one.id)"
            >Not with {{ one.name }}</UButton
          >
        </template>
      </div>
      <form v-if="isWall && twins.length" class="row wrap" @submit.prevent="merge">
        <USelect v-model="twin" :items="twins" aria-label="It is one box with" placeholder="it is one box with …" class="grow" />
        <UButton type="submit" :loading="busy" :disabled="offline || !twin">One box: put them together</UButton>
      </form>
      <form v-if="isWall && box.gangs > 1" class="row wrap" @submit.prevent="split">
        <SurveyStepper
          v-model="stay"
          :min="1"
          :max="box.gangs - 1"
          word="gang stays"
          words="gangs stay"
          spoken="Gangs that stay in this box"
        />
        <UInput
          v-model="rest"
          aria-label="Name of the box with the rest"
          placeholder="the rest is called …"
          class="grow min-w-44"
          maxlength="80"
        />
        <UButton type="submit" :loading="busy" :disabled="offline || !rest.trim()">It is two boxes</UButton>
      </form>
      <SurveyTakeOff asks="Why it comes off the record" placeholder="listed twice, not there …" :busy="busy" :act="retire" />
      <UButton
        v-if="isPart"
        variant="link"
        class="self-start"
        :loading="busy"
        @click="run(() => submitJob({ type: 'takeInBox', boxId: box.id, part: false }))"
        >It is not part of this job</UButton
      >
      <CommonRefusal :refusal="refusal" />
    </div>
  </details>
</template>
