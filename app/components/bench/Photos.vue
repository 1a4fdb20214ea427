<script setup lang="ts">
import type { photoKinds } from '../../../core/job'
import { photoWords } from '../../../core/job'
import { pictureLimitBytes } from '../../../core/units/picture'

type Kind = (typeof photoKinds)[number]
const props = defineProps<{
  /** Null: of the home, not of a box. */
  boxId: string | null
  /** Only this one is taken here, and none is shown. */
  only?: Kind
  /** What it shows, where that is not said by its kind. */
  label?: string
}>()
const emit = defineEmits<{ taken: [photoId: string] }>()
const kinds = computed((): Kind[] => (props.only ? [props.only] : ['asFound', 'beforeClosing']))
const { jobId, page, job, submitJob } = injectJobRecord()
const { refusal, inTurn } = useAction()
const all = computed(() => job.value?.photos.filter((photo) => photo.boxId === props.boxId) ?? [])
const photos = computed(() => all.value.filter(({ erased }) => !erased))
const session = useSession()
const { busy, problem, give } = useGiving()
/** About to be erased: asked once more. */
const doomed = ref<string | null>(null)
async function erase(id: string) {
  if (await give(() => api('POST /api/photos/:id/erase', { params: { id } }))) doomed.value = null
}

const tooLarge = {
  code: 'tooLarge',
  reasons: ['This picture has more than 8 MB, and this phone could not make it smaller.'],
  toYes: ['Set the camera to a lower resolution, and take it once more.'],
}
/** The next picture may be taken while the last is on its way: they are stored one after the other. */
function add(event: Event, kind: Kind) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  // Emptied at once, so that the same file can be chosen again after a refusal.
  input.value = ''
  const photoId = newId()
  const added = inTurn(async () => {
    const outbox = useOutbox()
    const feed = useFeed()
    const picture = await shrinkPicture(file)
    if (picture.size > pictureLimitBytes) return { ok: false, refusal: tooLarge }
    if (feed.status === 'lost' || outbox.pending.length > 0) {
      const refusal = await outbox.keepPhoto(jobId, photoId, picture, page.value?.site.name ?? '')
      return refusal ? { ok: false, refusal } : submitJob({ type: 'addPhoto', photoId, boxId: props.boxId, kind })
    }
    const sent = await api('POST /api/jobs/:id/photos', { params: { id: jobId }, query: { id: photoId }, raw: picture })
    if (!sent.ok) return { ok: false, refusal: { code: sent.problem.code, reasons: [sent.problem.message], toYes: [] } }
    return submitJob({ type: 'addPhoto', photoId: sent.value.id, boxId: props.boxId, kind })
  })
  return added.then((ok) => void (ok && emit('taken', photoId)))
}
</script>

<template>
  <div class="stack">
    <div class="row wrap">
      <label v-for="kind in kinds" :key="kind" class="shot"
        ><UIcon name="i-lucide-camera" /> {{ label ?? photoWords[kind]
        }}<span v-if="!label && photos.some((photo) => photo.kind === kind)" class="good"> ✓</span
        ><input
          type="file"
          accept="image/jpeg,image/png,image/webp"
          capture="environment"
          :aria-label="label ?? `Picture ${photoWords[kind]}`"
          @change="add($event, kind)"
      /></label>
    </div>
    <CommonRefusal :refusal="refusal" />
    <div v-if="photos.length && !only" class="row wrap">
      <div v-for="photo in photos" :key="photo.id">
        <a :href="`/api/photos/${photo.id}`" target="_blank" rel="noopener"
          ><img
            :src="`/api/photos/${photo.id}?size=small`"
            :alt="`${photoWords[photo.kind]}, by ${photo.by}`"
            class="thumb"
            loading="lazy"
          /><span class="small soft block">{{ photoWords[photo.kind] }}</span></a
        >
        <UButton
          v-if="session.isOffice"
          size="sm"
          variant="link"
          :aria-label="`Erase the picture ${photoWords[photo.kind]}, by ${photo.by}`"
          @click="doomed = photo.id"
          >Erase</UButton
        >
      </div>
    </div>
    <div v-if="doomed" class="note amber row wrap" role="group" aria-label="Erase a picture">
      <span class="grow"
        ><b>It goes for good,</b> everywhere and for everybody, with what was said of it. If it is the proof of something, that proof is
        gone, too.</span
      >
      <UButton :loading="busy" @click="erase(doomed)">Erase it</UButton><UButton variant="link" @click="doomed = null">Keep it</UButton>
    </div>
    <CommonProblem :problem="problem" />
    <p v-if="photos.length < all.length && !only" class="small soft">
      {{ counted(all.length - photos.length, 'picture was', 'pictures were') }} erased.
    </p>
  </div>
</template>

<style scoped>
.shot {
  display: inline-flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  padding: 0 14px;
  border: 1.5px solid var(--ink);
  border-radius: 4px;
  font-weight: 600;
  cursor: pointer;
  position: relative;
}
.shot input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.shot:focus-within {
  outline: 2.5px solid var(--copper);
}
.thumb {
  width: 96px;
  height: 72px;
  object-fit: cover;
  border: 1px solid var(--line);
}
</style>
