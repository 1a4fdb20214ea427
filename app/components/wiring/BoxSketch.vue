<script setup lang="ts">
import { insulation } from '../../../core/connect/insulation'
import type { PlaceTarget } from '../../../core/wiring'
import { layOutSketch, spliceY, wordWide, type LaidWire, type SketchConductor, type SketchDevice } from '../../../core/wiring/sketch-layout'

/**
 * A box as one sees it: cables from above, conductors in their insulation, splices, caps, device terminals.
 * The drawing is the place to work: a conductor is picked by tap, Enter, or dragged onto a terminal, a splice or another one.
 */
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
const emit = defineEmits<{ pick: [letter: string]; place: [target: PlaceTarget]; drop: [letter: string, target: PlaceTarget] }>()

const frame = ref<HTMLElement | null>(null)
const drawing = ref<SVGSVGElement | null>(null)
const { width: room } = useElementSize(frame)
const layout = computed(() => layOutSketch(props, room.value || 940))
const jumped = computed(() => new Set(props.jumpers.flatMap(({ from, to }) => [from, to])))
const isOn = (letters: string[]) => letters.some((letter) => props.selected.includes(letter))
const wires = computed(() =>
  layout.value.wires.map((wire) => ({
    ...wire,
    thick: wire.conductor.colour === 'bare' ? 4 : 7,
    paint: insulation[wire.conductor.colour],
    picked: props.selected.includes(wire.conductor.letter),
    capped: props.capped.includes(wire.conductor.letter),
  })),
)
const spoken = ({ conductor: { letter, colour, cable, word } }: LaidWire) =>
  `Conductor ${letter}, ${colour}, ${cable || 'cable'}, ${word ?? 'role not established'}`

const dragged = useConductorDrag(
  drawing,
  () => props.movable,
  (letter, target) =>
    emit('drop', letter, target.startsWith('letter ') ? { kind: 'letter', letter: target.slice(7) } : (JSON.parse(target) as PlaceTarget)),
)
const draggedFrom = computed(() => wires.value.find((wire) => wire.conductor.letter === dragged.value?.letter))
defineExpose({ drawing })
</script>

<template>
  <div ref="frame" class="frame">
    <svg
      ref="drawing"
      class="sketch"
      :class="{ movable }"
      :viewBox="`0 0 ${layout.width} ${layout.height}`"
      xmlns="http://www.w3.org/2000/svg"
      role="group"
      :aria-label="label"
    >
      <rect
        :x="layout.side"
        y="80"
        :width="layout.width - 2 * layout.side"
        :height="layout.height - 90"
        rx="10"
        fill="var(--sheet)"
        stroke="var(--ink)"
        stroke-width="2"
        :stroke-dasharray="open ? undefined : '10 6'"
      />
      <g v-for="{ name, x, raised } in layout.cables" :key="name">
        <path :d="`M${x} 30V88`" stroke="var(--mute)" :stroke-width="2 * layout.cableHalf" />
        <path :d="`M${x - layout.cableHalf} 30V90H${x + layout.cableHalf}V30`" fill="none" stroke="var(--ink)" stroke-width="1.6" />
        <text :x="x" :y="raised ? 10 : 24" text-anchor="middle" class="cable">{{ name }}</text>
      </g>
      <g v-for="device in layout.devices" :key="device.part">
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
          {{ layout.narrow && devices.length > 1 ? device.name.split(',')[0] : device.name }}
        </text>
        <text :x="device.x + device.wide / 2" :y="device.y + 120" text-anchor="middle" class="maker">{{ device.note }}</text>
      </g>
      <g v-for="pigtail in layout.pigtails" :key="pigtail.key">
        <path
          v-for="layer in 2"
          :key="layer"
          :d="pigtail.path"
          fill="none"
          :stroke="layer === 1 ? 'var(--ink)' : 'var(--mute)'"
          :stroke-width="layer === 1 ? 9.5 : 7"
        />
      </g>
      <g v-for="jumper in layout.jumpers" :key="jumper.key">
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
        v-for="splice in layout.splices"
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
      <g v-for="device in layout.devices" :key="`t${device.part}`">
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
          :x="wire.label.x - layout.tag / 2"
          :y="wire.label.y - layout.tag / 2"
          :width="layout.tag"
          :height="layout.tag"
          rx="4"
          :fill="wire.picked ? 'var(--copper-bar)' : wire.conductor.word && !layout.worded ? 'var(--petrol-fill)' : 'var(--sheet)'"
          :stroke="wire.picked ? 'var(--copper)' : 'var(--ink)'"
          :stroke-width="wire.picked ? 3 : 1.6"
        />
        <text :x="wire.label.x" :y="wire.label.y + 5" text-anchor="middle" class="letter">{{ wire.conductor.letter }}</text>
        <g v-if="wire.conductor.word && layout.worded">
          <rect
            :x="wire.label.x + layout.tag / 2 + 2"
            :y="wire.label.y - 10"
            :width="wordWide(wire.conductor.word)"
            height="20"
            rx="3"
            fill="var(--sheet)"
            opacity="0.92"
          />
          <text :x="wire.label.x + layout.tag / 2 + 6" :y="wire.label.y + 5" class="role">{{ wire.conductor.word }}</text>
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
      <text v-if="!conductors.length" :x="layout.width / 2" y="250" text-anchor="middle" class="cable">No conductors recorded yet</text>
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
/* By keyboard the stroke below says where one is; a tap needs no frame. */
.target:focus,
.label:focus {
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
