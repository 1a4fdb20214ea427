<script setup lang="ts">
import { boxKinds, boxKindWords, inPanelOrder, type BoxKind } from '../../../core/site'
import { boxNamesLeft } from '../../../core/survey'

/** A box that is on no list yet, in as few taps as it takes: what feeds it, how wide it is, and its name stores it. */
const props = defineProps<{ roomId: string }>()
const emit = defineEmits<{ made: [boxId: string]; close: [] }>()
const { site, job, submitSite, submitJob } = injectJobRecord()
const { t } = useTrade()
const { refusal, inTurn } = useAction()

const kind = ref<BoxKind>('wall')
const gangs = ref(1)
const name = ref('')
const kinds = boxKinds.map((value) => ({ value, label: boxKindWords[value] }))
const breakers = computed(() =>
  Object.values(site.value!.breakers)
    .filter(({ role }) => role === 'branch')
    .sort(inPanelOrder)
    .map((breaker) => ({ value: breaker.id, label: markOf(site.value!, breaker.id) })),
)
/** As the last box of this room, else as the last of the home: most often it is the same. */
const feeds = ref<string[]>(lastFeeds())
function lastFeeds(): string[] {
  const boxes = site.value!.boxOrder.map((id) => site.value!.boxes[id]!)
  return (boxes.findLast(({ roomId }) => roomId === props.roomId) ?? boxes.at(-1))?.breakerIds ?? []
}
const toggle = (id: string) => (feeds.value = toggled(feeds.value, id).slice(-12))
const names = computed(() => boxNamesLeft(site.value!, props.roomId, kind.value))

async function make(called: string) {
  if (!called.trim()) return
  const boxId = newId()
  const command = {
    type: 'recordBox' as const,
    boxId,
    roomId: props.roomId,
    name: called.trim(),
    kind: kind.value,
    gangs: kind.value === 'wall' ? gangs.value : 1,
    breakerIds: feeds.value,
    farBoxIds: [],
  }
  if (!(await inTurn(() => submitSite(command)))) return
  await inTurn(() => submitJob({ type: 'takeInBox', boxId, part: true }))
  if (job.value) emit('made', boxId)
}
</script>

<template>
  <section class="new" aria-label="A box nobody has listed">
    <div class="row wrap">
      <CommonToggles spoken="What it is" :items="kinds" :chosen="kind" @choose="kind = $event" />
      <SurveyStepper v-if="kind === 'wall'" v-model="gangs" :min="1" :max="6" word="gang" />
    </div>
    <div>
      <p class="kicker">{{ t('Fed by, as the {panel} says') }}</p>
      <CommonToggles v-if="breakers.length" :spoken="t('{Breakers} that feed it')" :items="breakers" :chosen="feeds" @choose="toggle" />
      <p v-else class="soft small">{{ t('No {breakers} are on record yet: its feed stays unknown.') }}</p>
      <p v-if="!feeds.length && breakers.length" class="warn small">
        {{ t('None picked: its feed counts as unknown, and the {main} has to be opened for work there.') }}
      </p>
    </div>
    <div>
      <p class="kicker">Its name stores it</p>
      <div class="row wrap">
        <UButton v-for="one in names.slice(0, 6)" :key="one" @click="make(one)">{{ one }}</UButton>
      </div>
      <form class="row mt-2" @submit.prevent="make(name)">
        <UInput v-model="name" aria-label="Another name for the box" placeholder="another name" class="grow" maxlength="80" />
        <UButton type="submit" :disabled="!name.trim()">Add</UButton>
        <UButton variant="ghost" @click="emit('close')">Cancel</UButton>
      </form>
    </div>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.new {
  display: grid;
  gap: 12px;
  padding: 14px;
  border: 1.5px dashed var(--copper-bar);
  border-radius: 4px;
  background: var(--sheet);
}
</style>
