<script setup lang="ts">
import Panzoom, { type PanzoomObject } from '@panzoom/panzoom'
import { pointsOfBox, type Photo } from '../../../core/job'
import type { BoxState } from '../../../core/site'

/** Where conductor A, B, C … is on the picture as found: the letters of the drawing, tapped onto it. Two fingers zoom. */
const props = defineProps<{ box: BoxState }>()
const { job, submitJob } = injectJobRecord()
const { refusal, inTurn } = useAction()
const urlOf = usePhotoUrl()
const photos = computed(() =>
  job.value!.photos.filter((photo) => photo.boxId === props.box.id && photo.kind === 'asFound' && !photo.erased),
)
const open = ref<Photo | null>(null)
type Mark = { letter: string; x: number; y: number }
/** Set, and on their way: shown at once, so that the next letter is at hand. */
const onTheWay = shallowRef<Mark[]>([])
const stored = computed<Mark[]>(() => (open.value ? (job.value!.letters[open.value.id] ?? []) : []))
const marks = computed<Mark[]>(() => [
  ...stored.value.filter((one) => !onTheWay.value.some(({ letter }) => letter === one.letter)),
  ...onTheWay.value,
])
/** The box's own letters; before any is recorded, the next in the alphabet. */
const letters = computed(() => {
  const known = props.box.conductors.map(({ letter }) => letter)
  if (known.length) return known
  const used = marks.value.map(({ letter }) => letter)
  return [...'ABCDEFGHIJKLMNOPQRST'].slice(0, Math.min(20, used.length + 1))
})
const letter = ref('A')
const free = computed(() => letters.value.filter((one) => !marks.value.some((mark) => mark.letter === one)))
watch(free, (left) => {
  if (left.length && !left.includes(letter.value)) letter.value = left[0]!
})
const worth = computed(
  () => props.box.conductors.length >= 4 || pointsOfBox(job.value!, props.box.id).some(({ controls }) => controls.length > 1),
)

const frame = useTemplateRef<HTMLElement>('frame')
const sheet = useTemplateRef<HTMLElement>('sheet')
let zoom: PanzoomObject | null = null
function ready() {
  if (!sheet.value || zoom) return
  zoom = Panzoom(sheet.value, { minScale: 1, maxScale: 6, contain: 'outside', cursor: 'crosshair' })
  frame.value!.addEventListener('wheel', zoom.zoomWithWheel)
}
watch(open, () => {
  zoom?.destroy()
  zoom = null
})
onBeforeUnmount(() => zoom?.destroy())
let down = { x: 0, y: 0 }
const began = (event: PointerEvent) => (down = { x: event.clientX, y: event.clientY })
const store = (make: (now: Mark[]) => Mark[]) =>
  inTurn(() => submitJob({ type: 'markLetters', photoId: open.value!.id, marks: make(stored.value) }))
/** A tap sets the letter; a finger that moved was moving the picture. */
function tapped(event: PointerEvent) {
  if (Math.hypot(event.clientX - down.x, event.clientY - down.y) > 8 || !free.value.includes(letter.value)) return
  const on = sheet.value!.getBoundingClientRect()
  const [x, y] = [(event.clientX - on.left) / on.width, (event.clientY - on.top) / on.height]
  if (x >= 0 && x <= 1 && y >= 0 && y <= 1)
    void place({ letter: letter.value, x: Math.round(x * 1000) / 1000, y: Math.round(y * 1000) / 1000 })
}
async function place(mark: Mark) {
  onTheWay.value = [...onTheWay.value, mark]
  await store((now) => [...now.filter((one) => one.letter !== mark.letter), mark])
  onTheWay.value = onTheWay.value.filter((one) => one !== mark)
}
const drop = (one: string) => store((now) => now.filter((mark) => mark.letter !== one))
</script>

<template>
  <div v-if="photos.length" class="row wrap">
    <button
      v-for="photo in photos"
      :key="photo.id"
      type="button"
      class="thumb"
      :aria-label="`Letters on the picture by ${photo.by}`"
      @click="open = photo"
    >
      <img :src="urlOf(photo.id, 'small')" alt="" loading="lazy" />
      <span v-if="job!.letters[photo.id]?.length" class="mono">{{ job!.letters[photo.id]!.map((mark) => mark.letter).join(' ') }}</span>
    </button>
    <span v-if="worth && !photos.some((photo) => job!.letters[photo.id]?.length)" class="soft small"
      >Four conductors or more: letters on the picture help whoever comes after you.</span
    >
    <UModal
      :open="open !== null"
      fullscreen
      :title="`Letters on the picture of ${box.name}`"
      description="Pick a letter, tap where its conductor is. Two fingers zoom."
      @update:open="open = null"
    >
      <template #body>
        <div class="row wrap mb-2" role="group" aria-label="Letter">
          <UButton
            v-for="one in letters"
            :key="one"
            size="md"
            :variant="one === letter && free.includes(one) ? 'solid' : 'outline'"
            :aria-pressed="one === letter"
            :disabled="!free.includes(one)"
            @click="letter = one"
            >{{ one }}</UButton
          >
          <UButton v-for="mark in marks" :key="`off ${mark.letter}`" size="md" variant="link" @click="drop(mark.letter)"
            >Take {{ mark.letter }} off</UButton
          >
        </div>
        <div ref="frame" class="frame" @pointerdown.capture="began" @pointerup.capture="tapped">
          <div ref="sheet" class="sheet" data-testid="photo-sheet">
            <img v-if="open" :src="urlOf(open.id)" :alt="`${box.name} as found`" draggable="false" @load="ready" />
            <span v-for="mark in marks" :key="mark.letter" class="mark" :style="{ left: `${mark.x * 100}%`, top: `${mark.y * 100}%` }">{{
              mark.letter
            }}</span>
          </div>
        </div>
        <CommonRefusal :refusal="refusal" />
      </template>
    </UModal>
  </div>
</template>

<style scoped>
.thumb {
  display: grid;
  min-height: 44px;
  border: 1px solid var(--line);
}
.thumb img {
  width: 96px;
  height: 72px;
  object-fit: cover;
}
.frame {
  overflow: hidden;
  border: 1.5px solid var(--ink);
  max-height: 74dvh;
}
.sheet {
  position: relative;
  touch-action: none;
}
.sheet img {
  width: 100%;
  display: block;
  user-select: none;
}
.mark {
  position: absolute;
  transform: translate(-50%, -50%);
  min-width: 26px;
  padding: 1px 5px;
  border: 2px solid #1d2421;
  border-radius: 4px;
  background: #fffdf8;
  color: #1d2421;
  font: 700 15px var(--font-mono);
  text-align: center;
  pointer-events: none;
}
</style>
