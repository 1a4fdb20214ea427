<script setup lang="ts">
import type { RoomPlace } from '../../../core/site'

/** A rough plan of one floor: each room a rectangle, drawn with a finger on a grid of half metres, moved by dragging, or by keys. */
const props = defineProps<{ floor: number }>()
const { site, submitSite } = injectJobRecord()
const { refusal, inTurn } = useAction()
type OnPlan = Extract<RoomPlace, { kind: 'plan' }>
const columns = 32
const rows = 24
const half = 0.5
const snap = (metres: number) => Math.round(metres / half) * half
const drawn = computed(() =>
  site.value!.roomOrder.flatMap((id) => {
    const place = site.value!.places[id]
    return place?.kind === 'plan' && place.floor === props.floor ? [{ id, name: site.value!.rooms[id]!.name, place }] : []
  }),
)
const left = computed(() => site.value!.roomOrder.filter((id) => site.value!.places[id]?.kind !== 'plan'))
const selected = ref<string | null>(null)
const senders = computed(
  () =>
    new Map(
      Object.values(site.value!.networks).flatMap((one) => (one.roomId && one.kind !== 'hub' ? [[one.roomId, one.name] as const] : [])),
    ),
)
const canvas = useTemplateRef<SVGSVGElement>('canvas')
/** Being drawn or moved: shown at once, stored when the finger is lifted. */
const moving = ref<{ id: string; place: OnPlan; from: { x: number; y: number }; how: 'draw' | 'move' | 'size'; began: OnPlan } | null>(null)
const shown = (one: { id: string; place: OnPlan }) => (moving.value?.id === one.id ? moving.value.place : one.place)

function spotOf(event: PointerEvent) {
  const frame = canvas.value!.getBoundingClientRect()
  return { x: ((event.clientX - frame.left) / frame.width) * columns * half, y: ((event.clientY - frame.top) / frame.height) * rows * half }
}
const inside = (place: OnPlan): OnPlan => {
  const width = Math.min(Math.max(1, snap(place.width)), columns * half)
  const depth = Math.min(Math.max(1, snap(place.depth)), rows * half)
  return {
    ...place,
    width,
    depth,
    x: Math.min(Math.max(0, snap(place.x)), columns * half - width),
    y: Math.min(Math.max(0, snap(place.y)), rows * half - depth),
  }
}
function begin(event: PointerEvent, how: 'draw' | 'move' | 'size', id: string | null, place?: OnPlan) {
  if (!id) return
  const from = spotOf(event)
  const began: OnPlan = place ?? { kind: 'plan', floor: props.floor, x: snap(from.x), y: snap(from.y), width: 1, depth: 1 }
  selected.value = id
  moving.value = { id, from, how, began, place: began }
  canvas.value!.setPointerCapture(event.pointerId)
}
/** A room that is not on the plan yet is drawn where the finger goes down. */
const draw = (event: PointerEvent) => begin(event, 'draw', left.value.includes(selected.value ?? '') ? selected.value : null)
function drag(event: PointerEvent) {
  const now = moving.value
  if (!now) return
  const to = spotOf(event)
  const [dx, dy] = [to.x - now.from.x, to.y - now.from.y]
  const { began } = now
  if (now.how === 'move') now.place = inside({ ...began, x: began.x + dx, y: began.y + dy })
  else if (now.how === 'size') now.place = inside({ ...began, width: began.width + dx, depth: began.depth + dy })
  else
    now.place = inside({
      ...began,
      x: Math.min(now.from.x, to.x),
      y: Math.min(now.from.y, to.y),
      width: Math.abs(dx),
      depth: Math.abs(dy),
    })
}
const store = (id: string, place: OnPlan | null) => inTurn(() => submitSite({ type: 'placeRoom', roomId: id, place }))
async function end() {
  const now = moving.value
  if (!now) return
  const changed = JSON.stringify(now.place) !== JSON.stringify(now.began) || now.how === 'draw'
  // A tap alone draws nothing.
  if (changed && !(now.how === 'draw' && now.place.width <= 1 && now.place.depth <= 1)) await store(now.id, { ...now.place })
  moving.value = null
}
function keyed(event: KeyboardEvent, id: string, place: OnPlan) {
  const [dx, dy] = (
    { ArrowLeft: [-half, 0], ArrowRight: [half, 0], ArrowUp: [0, -half], ArrowDown: [0, half] } as Record<string, [number, number]>
  )[event.key] ?? [0, 0]
  if (!dx && !dy) return
  event.preventDefault()
  void store(
    id,
    inside(
      event.shiftKey ? { ...place, width: place.width + dx, depth: place.depth + dy } : { ...place, x: place.x + dx, y: place.y + dy },
    ),
  )
}
/** Without a finger: the next free place, four by three. */
function put(id: string) {
  selected.value = id
  const right = Math.max(0, ...drawn.value.map(({ place }) => place.x + place.width))
  void store(
    id,
    inside({
      kind: 'plan',
      floor: props.floor,
      x: right + 4 > columns * half ? 0 : right,
      y: right + 4 > columns * half ? 9 : 0,
      width: 4,
      depth: 3,
    }),
  )
}
</script>

<template>
  <section class="stack" aria-label="Plan of the floor">
    <p class="soft small">
      One square is half a metre. Pick a room below and draw it, or put it and drag it. With the keyboard: arrows move, with Shift they
      size.
    </p>
    <div v-if="left.length" class="row wrap" role="group" aria-label="Rooms that are not on the plan">
      <UButton
        v-for="id in left"
        :key="id"
        size="md"
        :variant="selected === id ? 'solid' : 'outline'"
        :aria-pressed="selected === id"
        @click="selected = selected === id ? null : id"
        >{{ site!.rooms[id]!.name }}</UButton
      >
      <UButton v-if="selected && left.includes(selected)" size="md" variant="link" @click="put(selected)">Put it on the plan</UButton>
    </div>
    <svg
      ref="canvas"
      class="plan"
      :viewBox="`0 0 ${columns} ${rows}`"
      @pointerdown="draw"
      @pointermove="drag"
      @pointerup="end"
      @pointercancel="moving = null"
    >
      <defs>
        <pattern id="half-metres" width="2" height="2" patternUnits="userSpaceOnUse">
          <path d="M 2 0 L 0 0 0 2" fill="none" stroke="var(--line)" stroke-width="0.06" />
        </pattern>
      </defs>
      <rect :width="columns" :height="rows" fill="url(#half-metres)" />
      <g
        v-for="one in drawn"
        :key="one.id"
        class="room"
        :class="{ selected: selected === one.id }"
        tabindex="0"
        role="button"
        :aria-pressed="selected === one.id"
        :aria-label="`${one.name}, ${shown(one).width} by ${shown(one).depth} metres`"
        @pointerdown.stop="begin($event, 'move', one.id, one.place)"
        @keydown="keyed($event, one.id, one.place)"
        @focus="selected = one.id"
      >
        <rect :x="shown(one).x * 2" :y="shown(one).y * 2" :width="shown(one).width * 2" :height="shown(one).depth * 2" />
        <text :x="shown(one).x * 2 + 0.5" :y="shown(one).y * 2 + 1.3">{{ one.name }}</text>
        <text
          v-if="senders.has(one.id)"
          class="sender"
          :x="(shown(one).x + shown(one).width / 2) * 2"
          :y="(shown(one).y + shown(one).depth / 2) * 2 + 0.5"
        >
          ◉ {{ senders.get(one.id) }}
        </text>
        <rect
          v-if="selected === one.id"
          class="handle"
          :x="(shown(one).x + shown(one).width) * 2 - 1.1"
          :y="(shown(one).y + shown(one).depth) * 2 - 1.1"
          width="1.6"
          height="1.6"
          @pointerdown.stop="begin($event, 'size', one.id, one.place)"
        />
      </g>
      <rect
        v-if="moving?.how === 'draw'"
        class="ghost"
        :x="moving.place.x * 2"
        :y="moving.place.y * 2"
        :width="moving.place.width * 2"
        :height="moving.place.depth * 2"
      />
    </svg>
    <UButton v-if="selected && drawn.some((one) => one.id === selected)" variant="link" class="self-start" @click="store(selected, null)"
      >Take {{ site!.rooms[selected]!.name }} off the plan</UButton
    >
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.plan {
  width: 100%;
  max-width: 760px;
  border: 1.5px solid var(--ink);
  background: var(--sheet);
  touch-action: none;
  user-select: none;
}
.room rect {
  fill: var(--mute);
  fill-opacity: 0.7;
  stroke: var(--ink);
  stroke-width: 0.18;
}
.room.selected > rect:first-child {
  stroke: var(--copper);
  stroke-width: 0.3;
}
.room {
  cursor: move;
}
.room:focus-visible {
  outline: none;
}
.room:focus-visible > rect:first-child {
  stroke: var(--copper);
  stroke-width: 0.4;
}
text {
  font-size: 1px;
  fill: var(--ink);
  pointer-events: none;
}
.sender {
  text-anchor: middle;
  font-weight: 640;
  fill: var(--copper);
}
.room .handle {
  fill: var(--copper-bar);
  fill-opacity: 1;
  stroke: none;
  cursor: nwse-resize;
}
.ghost {
  fill: none;
  stroke: var(--copper);
  stroke-width: 0.25;
  stroke-dasharray: 0.5 0.4;
}
</style>
