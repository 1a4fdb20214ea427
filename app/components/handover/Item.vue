<script setup lang="ts">
import { evidenceKinds, evidenceWords, restsOn, type EvidenceKind, type HandoverItem } from '../../../core/job'

/** One line of the handover: what follows from the record, or what was shown, and on what that rests. */
const props = defineProps<{ item: HandoverItem; open: boolean }>()
const { job, region, submitJob } = injectJobRecord()
const { t } = useTrade()
const { refusal, inTurn } = useAction()
const tick = (done: boolean, more: { rests?: EvidenceKind; photoId?: string | null; note?: string } = {}) =>
  inTurn(() =>
    submitJob({ type: 'tickHandover', itemId: props.item.id, done, ...{ rests: 'seen' as const, photoId: null, note: '' }, ...more }),
  )
const kinds = evidenceKinds.map((value) => ({ value, label: evidenceWords[value] }))
const otherwise = ref(false)
const rests = ref<EvidenceKind>('word')
const note = ref('')
const said = computed(() => (props.item.tick ? restsOn(props.item.tick, (iso) => dayAndTime(iso, region.value)) : ''))
const begin = () => {
  rests.value = props.item.tick?.rests ?? 'word'
  note.value = props.item.tick?.note ?? ''
  otherwise.value = !otherwise.value
}
async function store(photoId: string | null = null) {
  if (await tick(true, { rests: rests.value, photoId, note: note.value })) otherwise.value = false
}
const photoId = computed(() => props.item.tick?.photoId ?? null)
</script>

<template>
  <div class="item">
    <template v-if="item.auto"
      ><svg width="24" height="24" viewBox="0 0 24 24" fill="none" :aria-label="item.done ? 'done' : 'not done'" role="img">
        <path v-if="item.done" d="M4 13l6 6L21 5" stroke="var(--petrol)" stroke-width="3.4" />
        <circle v-else cx="12" cy="12" r="8" stroke="var(--amber)" stroke-width="2" stroke-dasharray="4 3" /></svg
      ><span class="grow"
        >{{ t(item.text) }}<span class="small block" :class="item.done ? 'soft' : 'warn'">{{ t(item.why) }}</span></span
      ></template
    >
    <div v-else class="grow">
      <UCheckbox
        :model-value="item.done"
        :label="t(item.text)"
        :description="t(item.why)"
        :disabled="!open"
        @update:model-value="(value) => tick(value === true)"
      />
      <p v-if="item.tick" class="small soft rests">
        {{ said }}
        <a
          v-if="photoId && job!.photos.some(({ id, erased }) => id === photoId && !erased)"
          :href="`/api/photos/${photoId}`"
          target="_blank"
          rel="noopener"
          >the picture</a
        >
        <UButton
          v-if="open"
          variant="link"
          class="p-0"
          :aria-expanded="otherwise"
          :aria-label="`What rests it on: ${t(item.text)}`"
          @click="begin"
          >What shows it</UButton
        >
      </p>
      <div v-if="otherwise && open" class="stack rests mt-1">
        <CommonToggles :spoken="`What shows it: ${t(item.text)}`" :items="kinds" :chosen="rests" @choose="rests = $event" />
        <UInput v-model="note" maxlength="500" placeholder="a number, a name, what is on it" :aria-label="`Note: ${t(item.text)}`" />
        <BenchPhotos v-if="rests === 'picture'" :box-id="null" only="other" label="Take the picture" @taken="store" />
        <UButton v-else class="self-start" @click="store()">Store it</UButton>
      </div>
      <CommonRefusal :refusal="refusal" />
    </div>
  </div>
</template>

<style scoped>
.item {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
  min-height: 52px;
}
.rests {
  margin-left: 32px;
}
</style>
