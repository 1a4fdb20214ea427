<script setup lang="ts">
import { standing, type Change, type DayFile, type DayQuestion, type Proposal } from '../../../core/dispatch'
import type { WayId } from '~/utils/day-search'
import type { Region } from '~/utils/time'

/** Ways to plan or mend the day, each with what it changes for whom; taken over whole or in part. */
const props = defineProps<{
  ways: Partial<Record<WayId, { proposal: Proposal; done: boolean }>>
  searching: boolean
  share: number
  crews: DayQuestion['crews']
  file: DayFile
  nameOf: (siteId: string) => string
  region: Region
  busy: boolean
}>()
const emit = defineEmits<{ stop: []; close: []; take: [changes: Change[]] }>()
const chosen = defineModel<WayId | null>('chosen', { required: true })
const session = useSession()
const titles: Record<WayId, string> = {
  place: 'Only place what waits',
  close: 'Keep close to what was said',
  free: 'Whatever is best',
}
const sameAs = (a: Proposal, b: Proposal) => JSON.stringify(a.changes) === JSON.stringify(b.changes)
/** Ways that change something, each once. */
const list = computed(() =>
  (Object.keys(titles) as WayId[]).flatMap((id, index, ids) => {
    const way = props.ways[id]
    if (!way || (way.done && !way.proposal.changes.length && ids.some((other) => props.ways[other]?.proposal.changes.length))) return []
    const known = ids.slice(0, index).some((other) => props.ways[other] && sameAs(props.ways[other].proposal, way.proposal))
    return known ? [] : [{ id, ...way, words: wayWords(way.proposal) }]
  }),
)
const way = computed(() => list.value.find(({ id }) => id === chosen.value) ?? null)
watch(list, (now) => {
  if (!now.some(({ id }) => id === chosen.value)) chosen.value = now[0]?.id ?? null
})
const real = computed(() => way.value?.proposal.changes.filter(({ quiet }) => !quiet) ?? [])
const off = ref<string[]>([])
watch(chosen, () => (off.value = []))
const standingNow = computed(() =>
  standing(
    props.file,
    (way.value?.proposal.changes ?? []).filter(({ id }) => !off.value.includes(id)),
  ),
)
const taken = computed(() => standingNow.value.filter(({ quiet }) => !quiet))
/** Wanted still, and not to be had without what was taken off. */
const staysToo = (id: string) => !off.value.includes(id) && !taken.value.some((one) => one.id === id)
const broken = computed(() => taken.value.filter(({ breaksPromise }) => breaksPromise).length)
/** One that touches more promises asks first. */
const most = 3
const sure = ref(false)
watch([chosen, off], () => (sure.value = false))
const initials = (ids: string[]) => session.initials(ids)
const words = ({ was, personIds, startAt }: Change) =>
  was
    ? `${initials(personIds)} at ${clockTime(startAt, props.region)} instead of ${initials(was.personIds)} at ${clockTime(was.startAt, props.region)}`
    : `${initials(personIds)} at ${clockTime(startAt, props.region)}`
const crewName = (crew: number) => initials(props.crews[crew]?.personIds ?? [])
function take() {
  if (broken.value > most && !sure.value) return void (sure.value = true)
  emit('take', standingNow.value)
}
</script>

<template>
  <section class="ways" aria-label="Ways to plan the day">
    <div class="row wrap">
      <h2 class="kicker">Ways to plan the day</h2>
      <span class="grow" />
      <template v-if="searching">
        <progress :value="share" max="1" aria-label="Searched">{{ Math.round(share * 100) }} %</progress>
        <UButton @click="emit('stop')">Stop searching</UButton>
      </template>
      <UButton v-else variant="ghost" @click="emit('close')">Leave the day as it is</UButton>
    </div>
    <p v-if="!list.length && searching" class="soft">Looking for a first plan …</p>
    <p v-else-if="!searching && !list.some(({ proposal }) => proposal.changes.length)" class="note">
      The day is as good as it gets: nothing that was tried is better.
    </p>
    <div v-if="list.some(({ proposal }) => proposal.changes.length)" role="radiogroup" aria-label="Way" class="list">
      <button
        v-for="one in list"
        :key="one.id"
        type="button"
        role="radio"
        class="way"
        :class="{ chosen: one.id === chosen }"
        :aria-checked="one.id === chosen"
        @click="chosen = one.id"
      >
        <b>{{ titles[one.id] }}</b>
        <span>{{ one.words }}</span>
      </button>
    </div>
    <template v-if="way && real.length">
      <ul class="changes">
        <li v-for="change in real" :key="change.id">
          <UCheckbox
            :model-value="!off.includes(change.id)"
            :label="`${nameOf(change.siteId)}: ${words(change)}`"
            :description="
              staysToo(change.id)
                ? 'Stays as it is, too: somebody it needs is with what was taken off.'
                : change.breaksPromise
                  ? `Telephone first: promised anew is ${clockTime(change.windowFrom, region)}–${clockTime(change.windowTo, region)}.`
                  : change.was
                    ? undefined
                    : `To be promised: ${clockTime(change.windowFrom, region)}–${clockTime(change.windowTo, region)}.`
            "
            @update:model-value="off = toggled(off, change.id)"
          />
        </li>
      </ul>
      <p v-if="sure" class="note amber" role="alert">
        {{ counted(broken, 'promise') }} would have to be made anew. Take it over all the same?
      </p>
      <UButton variant="solid" :loading="busy" :disabled="!taken.length || searching" @click="take">{{
        sure ? `Yes, take over ${counted(taken.length, 'change')}` : `Take over ${counted(taken.length, 'change')}`
      }}</UButton>
    </template>
    <div v-if="way && way.proposal.leftOut.length" class="small">
      <b>Still without a visit</b>
      <ul class="plain">
        <li v-for="one in way.proposal.leftOut" :key="one.id">{{ nameOf(one.siteId) }}: {{ leftOutWords(one.why, crewName) }}</li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.ways {
  border-top: 1.5px solid var(--ink);
  margin-top: 14px;
  padding-top: 12px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.list {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(230px, 1fr));
  gap: 10px;
}
.way {
  text-align: left;
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding: 10px 12px;
  border: 1.5px dashed var(--soft);
  border-radius: 4px;
  font-size: 14px;
  background: var(--sheet);
}
.way.chosen {
  border: 2px dashed var(--copper);
}
.changes {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(380px, 100%), 1fr));
  gap: 2px 18px;
}
.plain {
  list-style: none;
}
progress {
  width: 140px;
  accent-color: var(--copper);
}
</style>
