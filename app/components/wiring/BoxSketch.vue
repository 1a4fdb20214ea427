<script setup lang="ts">
import { insulation } from '../../../core/connect/insulation'
import type { ConductorColour } from '../../../core/site'
import type { LayTarget } from '../../../core/wiring'

/**
 * A box as one sees it: cables from above, conductors in their insulation, splices, caps, device terminals.
 * The drawing is the place to work: a conductor is picked by tap, Enter, or dragged onto a terminal, a splice or another one.
 */
export interface SketchConductor {
  letter: string
  colour: ConductorColour
  cable: string
  /** Its role, once it is established. */
  word: string | null
}
export interface SketchTerminal {
  key: string
  word: string
  /** Its whole name, where the drawing has a short one. */
  spoken?: string
  letters: string[]
  done: boolean
}
export interface SketchDevice {
  /** `gang1`, or `old1` for an old switch that stays. */
  part: string
  name: string
  note: string
  chosen: boolean
  terminals: SketchTerminal[]
}
export type SketchTarget = LayTarget
const props = withDefaults(
  defineProps<{
    label: string
    open?: boolean
    conductors: SketchConductor[]
    splices: string[][]
    capped?: string[]
    devices: SketchDevice[]
    selected: string[]
    /** Short pieces of wire between ends: a letter, or `gang1:sense`. */
    jumpers?: { from: string; to: string }[]
    /** The terminal that is in the hand, to begin a jumper. */
    held?: string | null
    /** Conductors can be laid on terminals and into splices. */
    movable?: boolean
  }>(),
  { open: true, capped: () => [], jumpers: () => [], held: null, movable: false },
)
const emit = defineEmits<{ pick: [letter: string]; place: [target: SketchTarget]; drop: [letter: string, target: SketchTarget] }>()

const frame = ref<HTMLElement | null>(null)
const drawing = ref<SVGSVGElement | null>(null)
const { width: roomy } = useElementSize(frame)
// On a phone the drawing is as wide as the phone, so that tags stay as large as a thumb.
const width = computed(() => Math.round(Math.min(940, Math.max(360, roomy.value || 940))))
const narrow = computed(() => width.value < 620)
/** Words stand in the drawing where there is room; else a settled tag is filled, and the list below says what it is. */
const worded = computed(() => !narrow.value || props.conductors.length <= 7)
const deviceTop = 420
const rowHeight = 172
const side = computed(() => (narrow.value ? 10 : 60))
const tag = computed(() => (narrow.value ? 36 : 30))
const cables = computed(() => [...new Set(props.conductors.map((conductor) => conductor.cable || 'cable'))])
const lane = computed(() => (width.value - 2 * side.value - 30) / Math.max(1, cables.value.length))
const cableX = (name: string) => side.value + 15 + (cables.value.indexOf(name) + 0.5) * lane.value
const cableHalf = computed(() => Math.min(31, lane.value / 2 - 6))
const pitch = computed(() => Math.min(15, (2 * cableHalf.value - 8) / 3))

/** Devices side by side, as many in a row as leave each terminal room for a thumb. */
const deviceRows = computed(() => {
  const room = Math.floor((width.value - 2 * side.value - 20) / (narrow.value ? 46 : 54))
  const rows: SketchDevice[][] = []
  let free = 0
  for (const device of props.devices) {
    const needs = Math.max(2, device.terminals.length)
    if (!rows.length || needs > free) {
      rows.push([])
      free = room
    }
    rows.at(-1)!.push(device)
    free -= needs
  }
  return rows
})
const height = computed(() => deviceTop + 170 + (deviceRows.value.length - 1) * rowHeight)
const laidOut = computed(() =>
  deviceRows.value.flatMap((row, line) => {
    const weights = row.map((device) => Math.max(2, device.terminals.length))
    const unit = (width.value - 2 * side.value - 20) / weights.reduce((sum, weight) => sum + weight, 0)
    let x = side.value + 10
    return row.map((device, index) => {
      const slot = weights[index]! * unit
      const left = x + 6
      x += slot
      const wide = slot - 12
      const pitchHere = wide / Math.max(1, device.terminals.length)
      return {
        ...device,
        x: left,
        y: deviceTop + line * rowHeight,
        wide,
        terminals: device.terminals.map((terminal, at) => ({
          ...terminal,
          x: left + (at + 0.5) * pitchHere,
          // Long words of close terminals stand in two lines.
          low: at % 2 === 1 && pitchHere < 70,
        })),
      }
    })
  }),
)
/** Splices of the box, and those that several conductors on one terminal make. */
const splices = computed(() => {
  const made = props.splices.map((letters, index) => ({ letters, index }))
  for (const device of props.devices)
    for (const terminal of device.terminals) {
      const loose = terminal.letters.filter((letter) => !props.splices.some((splice) => splice.includes(letter)))
      if (loose.length > 1) made.push({ letters: loose, index: -1 })
    }
  const startOf = (letter: string) => cableX(props.conductors.find((one) => one.letter === letter)?.cable || 'cable')
  const placed = made
    .map((splice) => ({ ...splice, x: splice.letters.reduce((sum, letter) => sum + startOf(letter), 0) / splice.letters.length }))
    .sort((a, b) => a.x - b.x)
  const gap = Math.min(110, (width.value - 2 * side.value - 60) / Math.max(1, placed.length))
  placed.forEach((splice, index) => {
    const least = side.value + 40 + index * gap
    const most = width.value - side.value - 40 - (placed.length - 1 - index) * gap
    splice.x = Math.min(most, Math.max(least, index ? Math.max(splice.x, placed[index - 1]!.x + gap) : splice.x))
  })
  return placed
})
const spliceY = 306
const ends = computed(() => {
  const at = new Map<string, { x: number; y: number; kind: 'splice' | 'terminal' }>()
  for (const splice of splices.value)
    splice.letters.forEach((letter, index) =>
      at.set(letter, { x: splice.x + (index - (splice.letters.length - 1) / 2) * 9, y: spliceY + 4, kind: 'splice' }),
    )
  for (const device of laidOut.value)
    for (const terminal of device.terminals)
      for (const letter of terminal.letters) if (!at.has(letter)) at.set(letter, { x: terminal.x, y: device.y - 3, kind: 'terminal' })
  return at
})
/** Pigtails: from a splice to the terminal that one of its conductors stands for. */
const pigtails = computed(() =>
  laidOut.value.flatMap((device) =>
    device.terminals.flatMap((terminal) => {
      const splice = splices.value.find((one) => terminal.letters.some((letter) => one.letters.includes(letter)))
      return splice ? [{ key: `${device.part} ${terminal.key}`, from: splice.x, to: terminal.x, y: device.y }] : []
    }),
  ),
)
const jumped = computed(() => new Set(props.jumpers.flatMap(({ from, to }) => [from, to])))
/** Jumpers, from end to end: arcs above the terminals; from a conductor's connector or terminal like a pigtail. */
const jumperPaths = computed(() => {
  const placeOf = (end: string) => {
    const [part, key] = end.split(':')
    if (!key) return ends.value.get(end) ?? null
    const device = laidOut.value.find((one) => one.part === part)
    const x = device?.terminals.find((terminal) => terminal.key === key)?.x
    return x === undefined ? null : { x, y: device!.y - 3 }
  }
  return props.jumpers.flatMap(({ from, to }, index) => {
    const a = placeOf(from)
    const b = placeOf(to)
    if (!a || !b) return []
    const lift = 34 + 12 * (index % 4)
    const path =
      a.y < deviceTop - 20 || b.y < deviceTop - 20
        ? `M${a.x} ${a.y + 30}C${a.x} ${a.y + 74} ${b.x} ${b.y - 56} ${b.x} ${b.y}`
        : `M${a.x} ${a.y}C${a.x} ${a.y - lift} ${b.x} ${b.y - lift} ${b.x} ${b.y}`
    return [{ key: `${from} ${to}`, path }]
  })
})
const wires = computed(() => {
  const taken: { x: number; y: number; wide: number }[] = []
  return props.conductors.map((conductor, index) => {
    const mates = props.conductors.filter((other) => (other.cable || 'cable') === (conductor.cable || 'cable'))
    const x0 = cableX(conductor.cable || 'cable') + (mates.indexOf(conductor) - (mates.length - 1) / 2) * pitch.value
    const loose = {
      x: side.value + 40 + ((index + 0.5) * (width.value - 2 * side.value - 80)) / props.conductors.length,
      y: 250 + (index % 3) * 26,
      kind: 'loose' as const,
    }
    const end = ends.value.get(conductor.letter) ?? loose
    const bend = (end.y - 92) * 0.5
    const path = `M${x0} 92C${x0} ${92 + bend} ${end.x} ${end.y - bend} ${end.x} ${end.y}`
    const bezier = (t: number, p: number, q: number, r: number, u: number) =>
      (1 - t) ** 3 * p + 3 * (1 - t) ** 2 * t * q + 3 * (1 - t) * t ** 2 * r + t ** 3 * u
    const along = (t: number) => ({ x: bezier(t, x0, x0, end.x, end.x), y: bezier(t, 92, 92 + bend, end.y - bend, end.y) })
    // Tags keep clear of each other: each takes the first free place on its conductor.
    const wide = tag.value + (conductor.word && worded.value ? conductor.word.length * 7 + 10 : 0)
    const free = (spot: { x: number; y: number }) =>
      taken.every((other) => Math.abs(other.y - spot.y) > tag.value + 3 || spot.x + wide < other.x - 3 || other.x + other.wide < spot.x - 3)
    const spots = [0.3, 0.42, 0.54, 0.66, 0.2, 0.76, 0.36, 0.48, 0.6, 0.24, 0.7, 0.84, 0.12, 0.8, 0.9].map(along)
    const label = spots.find(free) ?? spots[index % spots.length]!
    taken.push({ ...label, wide })
    return {
      conductor,
      path,
      end,
      label,
      thick: conductor.colour === 'bare' ? 4 : 7,
      paint: insulation[conductor.colour],
      picked: props.selected.includes(conductor.letter),
      capped: props.capped.includes(conductor.letter),
    }
  })
})
const isOn = (letters: string[]) => letters.some((letter) => props.selected.includes(letter))

/** Dragging: the conductor's end follows the finger; let go over a target it is laid there. */
const dragged = ref<{ letter: string; x: number; y: number } | null>(null)
let dragging: { unset(): void } | null = null
function targetAt(x: number, y: number): SketchTarget | null {
  const found = document.elementsFromPoint(x, y).flatMap((element) => element.closest<SVGElement>('[data-target]') ?? [])
  const words = found.map((element) => element.dataset.target!).find((word) => word !== `letter ${dragged.value?.letter}`)
  return words
    ? (JSON.parse(words.startsWith('letter ') ? JSON.stringify({ kind: 'letter', letter: words.slice(7) }) : words) as SketchTarget)
    : null
}
const mayDrag = computed(() => props.movable && frame.value !== null)
async function letDrag() {
  if (!mayDrag.value || dragging) return
  const { default: interact } = await import('interactjs')
  if (!mayDrag.value || dragging) return
  const place = (event: { clientX: number; clientY: number }) => {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(drawing.value!.getScreenCTM()!.inverse())
    if (dragged.value) dragged.value = { ...dragged.value, x: point.x, y: point.y }
  }
  dragging = interact('.sketch.movable .tag', { context: frame.value! }).draggable({
    listeners: {
      start(event) {
        dragged.value = { letter: (event.target as HTMLElement).dataset.letter!, x: 0, y: 0 }
        place(event)
      },
      move: place,
      end(event) {
        const target = targetAt(event.clientX, event.clientY)
        if (dragged.value && target) emit('drop', dragged.value.letter, target)
        dragged.value = null
      },
    },
  })
}
// Who may lay can change while the page is open: a dispatcher puts somebody on the visit.
watch(mayDrag, letDrag, { immediate: true, flush: 'post' })
onBeforeUnmount(() => dragging?.unset())
const draggedFrom = computed(() => wires.value.find((wire) => wire.conductor.letter === dragged.value?.letter))
const spoken = (wire: (typeof wires.value)[number]) =>
  `Conductor ${wire.conductor.letter}, ${wire.conductor.colour}, ${wire.conductor.cable || 'cable'}, ${wire.conductor.word ?? 'role not established'}`
defineExpose({ drawing })
</script>

<template>
  <div ref="frame" class="frame">
    <svg
      ref="drawing"
      class="sketch"
      :class="{ movable }"
      :viewBox="`0 0 ${width} ${height}`"
      xmlns="http://www.w3.org/2000/svg"
      role="group"
      :aria-label="label"
    >
      <rect
        :x="side"
        y="80"
        :width="width - 2 * side"
        :height="height - 90"
        rx="10"
        fill="var(--sheet)"
        stroke="var(--ink)"
        stroke-width="2"
        :stroke-dasharray="open ? undefined : '10 6'"
      />
      <g v-for="cable in cables" :key="cable">
        <path :d="`M${cableX(cable)} 30V88`" stroke="var(--mute)" :stroke-width="2 * cableHalf" />
        <path
          :d="`M${cableX(cable) - cableHalf} 30V90H${cableX(cable) + cableHalf}V30`"
          fill="none"
          stroke="var(--ink)"
          stroke-width="1.6"
        />
        <text :x="cableX(cable)" :y="narrow && cables.indexOf(cable) % 2 ? 10 : 24" text-anchor="middle" class="cable">{{ cable }}</text>
      </g>
      <g v-for="device in laidOut" :key="device.part">
        <rect
          :x="device.x"
          :y="device.y"
          :width="device.wide"
          height="150"
          rx="8"
          :fill="device.chosen ? 'var(--paper)' : 'none'"
          stroke="var(--ink)"
          stroke-width="2"
          :stroke-dasharray="device.chosen ? undefined : '7 6'"
        />
        <text :x="device.x + device.wide / 2" :y="device.y + 98" text-anchor="middle" class="model">
          {{ narrow && devices.length > 1 ? device.name.split(',')[0] : device.name }}
        </text>
        <text :x="device.x + device.wide / 2" :y="device.y + 120" text-anchor="middle" class="maker">{{ device.note }}</text>
      </g>
      <g v-for="pigtail in pigtails" :key="pigtail.key">
        <path
          v-for="layer in 2"
          :key="layer"
          :d="`M${pigtail.from} ${spliceY + 36}C${pigtail.from} ${spliceY + 80} ${pigtail.to} ${pigtail.y - 60} ${pigtail.to} ${pigtail.y - 3}`"
          fill="none"
          :stroke="layer === 1 ? 'var(--ink)' : 'var(--mute)'"
          :stroke-width="layer === 1 ? 9.5 : 7"
        />
      </g>
      <g v-for="jumper in jumperPaths" :key="jumper.key">
        <path
          v-for="layer in 2"
          :key="layer"
          :d="jumper.path"
          fill="none"
          :stroke="layer === 1 ? 'var(--ink)' : 'var(--mute)'"
          :stroke-width="layer === 1 ? 7.5 : 5"
        />
      </g>
      <g v-for="wire in wires" :key="wire.conductor.letter" class="wire" @click="emit('pick', wire.conductor.letter)">
        <path :d="wire.path" fill="none" stroke="transparent" stroke-width="24" />
        <path
          :d="wire.path"
          fill="none"
          :stroke="wire.picked ? 'var(--copper)' : 'var(--ink)'"
          :stroke-width="wire.thick + (wire.picked ? 7 : 2.5)"
          stroke-linecap="round"
        />
        <path :d="wire.path" fill="none" :stroke="wire.paint.fill" :stroke-width="wire.thick" stroke-linecap="round" />
        <path
          v-if="wire.paint.stripe"
          :d="wire.path"
          fill="none"
          :stroke="wire.paint.stripe"
          stroke-width="2.4"
          :stroke-dasharray="wire.paint.dash"
        />
        <rect
          v-if="wire.end.kind === 'loose' && wire.capped"
          :x="wire.end.x - 7"
          :y="wire.end.y - 4"
          width="14"
          height="16"
          rx="3"
          fill="var(--petrol)"
          stroke="var(--ink)"
          stroke-width="1.8"
        />
        <circle
          v-else-if="wire.end.kind === 'loose'"
          :cx="wire.end.x"
          :cy="wire.end.y"
          r="7"
          fill="var(--amber-fill)"
          stroke="var(--ink)"
          stroke-width="1.8"
        />
      </g>
      <g
        v-for="splice in splices"
        :key="splice.letters.join()"
        class="target"
        :class="{ reach: selected.length && movable }"
        :data-target="splice.index < 0 ? undefined : JSON.stringify({ kind: 'splice', index: splice.index })"
        :role="movable && splice.index >= 0 ? 'button' : undefined"
        :tabindex="movable && splice.index >= 0 ? 0 : undefined"
        :aria-label="`Splice ${splice.letters.join(', ')}`"
        @click="splice.index >= 0 && emit('place', { kind: 'splice', index: splice.index })"
        @keydown.enter="splice.index >= 0 && emit('place', { kind: 'splice', index: splice.index })"
      >
        <path
          :d="`M${splice.x - 18 - splice.letters.length * 2} ${spliceY}h${36 + splice.letters.length * 4}l7 36h-${50 + splice.letters.length * 4}z`"
          :fill="isOn(splice.letters) ? 'var(--copper-bar)' : 'var(--amber-fill)'"
          stroke="var(--ink)"
          stroke-width="1.8"
        />
      </g>
      <g v-for="device in laidOut" :key="`t${device.part}`">
        <g
          v-for="terminal in device.terminals"
          :key="terminal.key"
          class="target"
          :class="{ reach: (selected.length || held) && movable, held: held === `${device.part}:${terminal.key}` }"
          :data-target="JSON.stringify({ kind: 'terminal', part: device.part, key: terminal.key })"
          :role="movable ? 'button' : undefined"
          :tabindex="movable ? 0 : undefined"
          :aria-label="`Terminal ${terminal.spoken ?? terminal.word}${devices.length > 1 ? ` of ${device.note || device.name}` : ''}: ${terminal.letters.join(', ') || (jumped.has(`${device.part}:${terminal.key}`) ? 'a jumper' : 'nothing')}`"
          @click="emit('place', { kind: 'terminal', part: device.part, key: terminal.key })"
          @keydown.enter="emit('place', { kind: 'terminal', part: device.part, key: terminal.key })"
        >
          <rect :x="terminal.x - 22" :y="device.y - 14" width="44" height="76" fill="transparent" />
          <circle
            :cx="terminal.x"
            :cy="device.y + 6"
            r="10"
            :fill="
              terminal.done
                ? 'var(--petrol)'
                : terminal.letters.length || jumped.has(`${device.part}:${terminal.key}`)
                  ? 'var(--copper-bar)'
                  : 'var(--sheet)'
            "
            stroke="var(--ink)"
            stroke-width="1.8"
          />
          <text :x="terminal.x" :y="device.y + (terminal.low ? 52 : 36)" text-anchor="middle" class="terminal">
            {{ terminal.word }}
          </text>
        </g>
      </g>
      <g
        v-for="wire in wires"
        :key="`l${wire.conductor.letter}`"
        class="label tag"
        role="button"
        tabindex="0"
        :data-letter="wire.conductor.letter"
        :data-target="`letter ${wire.conductor.letter}`"
        :data-testid="`tag-${wire.conductor.letter}`"
        :aria-label="spoken(wire)"
        :aria-pressed="wire.picked"
        @click.stop="emit('pick', wire.conductor.letter)"
        @keydown.enter="emit('pick', wire.conductor.letter)"
      >
        <rect :x="wire.label.x - 22" :y="wire.label.y - 22" width="44" height="44" fill="transparent" />
        <rect
          :x="wire.label.x - tag / 2"
          :y="wire.label.y - tag / 2"
          :width="tag"
          :height="tag"
          rx="4"
          :fill="wire.picked ? 'var(--copper-bar)' : wire.conductor.word && !worded ? 'var(--petrol-fill)' : 'var(--sheet)'"
          :stroke="wire.picked ? 'var(--copper)' : 'var(--ink)'"
          :stroke-width="wire.picked ? 3 : 1.6"
        />
        <text :x="wire.label.x" :y="wire.label.y + 5" text-anchor="middle" class="letter">{{ wire.conductor.letter }}</text>
        <g v-if="wire.conductor.word && worded">
          <rect
            :x="wire.label.x + tag / 2 + 2"
            :y="wire.label.y - 10"
            :width="wire.conductor.word.length * 7 + 8"
            height="20"
            rx="3"
            fill="var(--sheet)"
            opacity="0.92"
          />
          <text :x="wire.label.x + tag / 2 + 6" :y="wire.label.y + 5" class="role">{{ wire.conductor.word }}</text>
        </g>
      </g>
      <g v-if="dragged && draggedFrom" pointer-events="none">
        <path
          :d="`M${draggedFrom.label.x} ${draggedFrom.label.y}L${dragged.x} ${dragged.y}`"
          stroke="var(--copper)"
          stroke-width="5"
          stroke-dasharray="8 6"
        />
        <circle :cx="dragged.x" :cy="dragged.y" r="9" fill="var(--copper-bar)" stroke="var(--ink)" stroke-width="1.8" />
      </g>
      <text v-if="!conductors.length" :x="width / 2" y="250" text-anchor="middle" class="cable">No conductors recorded yet</text>
    </svg>
  </div>
</template>

<style scoped>
.frame,
.sketch {
  width: 100%;
  display: block;
}
.sketch {
  max-height: inherit;
  touch-action: pan-y;
}
.movable .tag {
  touch-action: none;
}
text {
  fill: var(--ink);
  font-family: var(--font-sans);
  user-select: none;
}
.cable {
  font-size: 13px;
  font-weight: 600;
}
.model {
  font-size: 14px;
  font-weight: 640;
}
.maker {
  font-size: 12.5px;
  fill: var(--soft);
}
.terminal {
  font-size: 12px;
}
.letter {
  font: 680 15px var(--font-mono);
}
.role {
  font-size: 13px;
  font-weight: 640;
  fill: var(--petrol);
}
.wire,
.label,
.movable .target {
  cursor: pointer;
}
.target:focus-visible,
.label:focus-visible {
  outline: none;
}
.label:focus-visible rect:nth-of-type(2),
.target:focus-visible circle,
.target:focus-visible path {
  stroke: var(--copper);
  stroke-width: 4;
}
.held circle {
  fill: var(--copper);
}
.reach circle {
  stroke: var(--copper);
  stroke-width: 3;
}
</style>
