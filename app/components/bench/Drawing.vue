<script setup lang="ts">
import { terminalWords } from '../../../core/connect'
import { rolesIn, stepsFor } from '../../../core/record'
import type { BoxState, Conductor } from '../../../core/safety'

/** The box as it is: cables, conductors in their insulation, splices, device terminals. A tap selects a conductor. */
const props = defineProps<{ box: BoxState }>()
const selected = defineModel<string | null>({ required: true })
const { job, settings } = injectJobRecord()

const width = 940
const deviceTop = 430
const cables = computed(() => [...new Set(props.box.conductors.map((conductor) => conductor.cable || 'cable'))])
const cableX = (name: string) => 130 + (cables.value.indexOf(name) + 0.5) * ((width - 260) / Math.max(1, cables.value.length))
const roles = computed(() => (job.value ? rolesIn(job.value, props.box.id) : {}))

const devices = computed(() => {
  const slot = (width - 160) / props.box.gangs
  return Array.from({ length: props.box.gangs }, (_, index) => {
    const gang = index + 1
    const model = job.value?.boxes[props.box.id]?.devices[gang]?.model ?? null
    const x = 80 + index * slot + 14
    const wide = slot - 28
    const steps = job.value && model ? stepsFor(job.value, props.box.id, gang, settings.value) : []
    const terminals = (model?.terminals ?? []).map((terminal, at, all) => {
      const step = steps.find((candidate) => candidate.terminal === terminal)
      return {
        terminal,
        x: x + ((at + 0.7) * wide) / (all.length + 0.4),
        letters: step?.letters ?? [],
        done: Boolean(step && job.value?.boxes[props.box.id]?.steps[`${gang}:${step.id}`]),
      }
    })
    return { gang, model, x, wide, terminals }
  })
})
const ends = computed(() => {
  const at = new Map<string, { x: number; y: number; splice: number | null }>()
  for (const device of devices.value)
    for (const terminal of device.terminals) {
      for (const letter of terminal.letters)
        at.set(
          letter,
          terminal.letters.length > 1
            ? { x: terminal.x + (terminal.letters.indexOf(letter) - (terminal.letters.length - 1) / 2) * 11, y: 318, splice: terminal.x }
            : { x: terminal.x, y: deviceTop - 3, splice: null },
        )
    }
  return at
})
const wires = computed(() =>
  props.box.conductors.map((conductor: Conductor) => {
    const mates = props.box.conductors.filter((other) => (other.cable || 'cable') === (conductor.cable || 'cable'))
    const x0 = cableX(conductor.cable || 'cable') + (mates.indexOf(conductor) - (mates.length - 1) / 2) * 15
    const index = props.box.conductors.indexOf(conductor)
    const loose = {
      x: 150 + (index * (width - 300)) / Math.max(1, props.box.conductors.length - 1),
      y: 300 + (index % 2) * 34,
      splice: null,
    }
    const end = ends.value.get(conductor.letter) ?? loose
    const path = `M${x0} 96C${x0} ${96 + (end.y - 96) * 0.55} ${end.x} ${96 + (end.y - 96) * 0.4} ${end.x} ${end.y}`
    // Letters sit at different heights so that neighbours do not cover each other.
    const t = 0.3 + (index % 4) * 0.13
    const bezier = (a: number, b: number, c: number, d: number) =>
      (1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t ** 2 * c + t ** 3 * d
    const label = { x: bezier(x0, x0, end.x, end.x), y: bezier(96, 96 + (end.y - 96) * 0.55, 96 + (end.y - 96) * 0.4, end.y) }
    return {
      conductor,
      path,
      end,
      label,
      role: roles.value[conductor.letter] ?? null,
      thick: conductor.colour === 'bare' ? 4 : 7,
      paint: insulation[conductor.colour],
      landed: ends.value.has(conductor.letter),
    }
  }),
)
const splices = computed(() => devices.value.flatMap((device) => device.terminals.filter((terminal) => terminal.letters.length > 1)))
</script>

<template>
  <svg class="drawing" :viewBox="`0 0 ${width} 600`" role="group" :aria-label="`${box.name}: ${box.conductors.length} conductors`">
    <rect
      x="60"
      y="84"
      width="820"
      height="506"
      rx="10"
      fill="var(--sheet)"
      stroke="var(--ink)"
      stroke-width="2"
      :stroke-dasharray="box.closure === 'opened' ? undefined : '10 6'"
    />
    <g v-for="cable in cables" :key="cable">
      <path :d="`M${cableX(cable)} 26V92`" stroke="var(--mute)" stroke-width="62" />
      <path :d="`M${cableX(cable) - 31} 26V94H${cableX(cable) + 31}V26`" fill="none" stroke="var(--ink)" stroke-width="1.6" />
      <text :x="cableX(cable)" y="17" text-anchor="middle" class="cable">{{ cable }}</text>
    </g>
    <g v-for="device in devices" :key="device.gang">
      <rect
        :x="device.x"
        :y="deviceTop"
        :width="device.wide"
        height="140"
        rx="8"
        :fill="device.model ? 'var(--paper)' : 'none'"
        stroke="var(--ink)"
        stroke-width="2"
        :stroke-dasharray="device.model ? undefined : '7 6'"
      />
      <text :x="device.x + device.wide / 2" :y="deviceTop + 88" text-anchor="middle" class="model">
        {{ device.model ? device.model.name : `gang ${device.gang}` }}
      </text>
      <text :x="device.x + device.wide / 2" :y="deviceTop + 110" text-anchor="middle" class="maker">
        {{ device.model ? device.model.maker : 'no device chosen' }}
      </text>
    </g>
    <g
      v-for="wire in wires"
      :key="wire.conductor.letter"
      class="wire"
      :class="{ sel: selected === wire.conductor.letter }"
      @click="selected = wire.conductor.letter"
    >
      <path :d="wire.path" fill="none" stroke="transparent" stroke-width="26" />
      <path
        :d="wire.path"
        fill="none"
        :stroke="selected === wire.conductor.letter ? 'var(--copper)' : 'var(--ink)'"
        :stroke-width="wire.thick + (selected === wire.conductor.letter ? 7 : 2.5)"
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
      <circle v-if="!wire.landed" :cx="wire.end.x" :cy="wire.end.y" r="8" fill="var(--amber-fill)" stroke="var(--ink)" stroke-width="1.8" />
    </g>
    <g v-for="splice in splices" :key="`${splice.terminal}${splice.x}`">
      <path :d="`M${splice.x} 345V${deviceTop - 3}`" stroke="var(--ink)" stroke-width="9.5" />
      <path :d="`M${splice.x} 345V${deviceTop - 3}`" stroke="var(--mute)" stroke-width="7" />
      <path :d="`M${splice.x - 18} 314h36l8 32h-52z`" fill="var(--amber-fill)" stroke="var(--ink)" stroke-width="1.8" />
    </g>
    <g v-for="device in devices" :key="`t${device.gang}`">
      <g v-for="terminal in device.terminals" :key="terminal.terminal">
        <circle
          :cx="terminal.x"
          :cy="deviceTop + 6"
          r="9"
          :fill="terminal.done ? 'var(--petrol)' : 'var(--copper-bar)'"
          stroke="var(--ink)"
          stroke-width="1.8"
        />
        <text :x="terminal.x" :y="deviceTop + 36" text-anchor="middle" class="terminal">{{ terminalWords[terminal.terminal] }}</text>
      </g>
    </g>
    <g
      v-for="wire in wires"
      :key="`l${wire.conductor.letter}`"
      class="label"
      role="button"
      tabindex="0"
      :aria-label="`Conductor ${wire.conductor.letter}, ${wire.conductor.colour}, ${wire.role ?? 'role not established'}`"
      @click="selected = wire.conductor.letter"
      @keydown.enter="selected = wire.conductor.letter"
    >
      <rect
        :x="wire.label.x - 14"
        :y="wire.label.y - 14"
        width="28"
        height="28"
        rx="4"
        fill="var(--sheet)"
        :stroke="selected === wire.conductor.letter ? 'var(--copper)' : 'var(--ink)'"
        :stroke-width="selected === wire.conductor.letter ? 3 : 1.6"
      />
      <text :x="wire.label.x" :y="wire.label.y + 5" text-anchor="middle" class="letter">{{ wire.conductor.letter }}</text>
      <g v-if="wire.role">
        <rect
          :x="wire.label.x + 17"
          :y="wire.label.y - 10"
          :width="wire.role.length * 7.4 + 8"
          height="20"
          fill="var(--sheet)"
          opacity="0.9"
        />
        <text :x="wire.label.x + 20" :y="wire.label.y + 5" class="role">{{ wire.role }}</text>
      </g>
    </g>
    <text v-if="!box.conductors.length" x="470" y="260" text-anchor="middle" class="cable">No conductors recorded yet</text>
  </svg>
</template>

<style scoped>
.drawing {
  width: 100%;
  display: block;
}
text {
  fill: var(--ink);
}
.cable {
  font-size: 14px;
  font-weight: 600;
}
.model {
  font-size: 15px;
  font-weight: 640;
}
.maker {
  font-size: 13px;
  fill: var(--soft);
}
.terminal {
  font-size: 12.5px;
}
.letter {
  font: 680 14px var(--font-mono);
}
.role {
  font-size: 13.5px;
  font-weight: 640;
  fill: var(--petrol);
}
.wire,
.label {
  cursor: pointer;
}
.label:focus-visible {
  outline: none;
}
.label:focus-visible rect {
  stroke: var(--copper);
  stroke-width: 3;
}
</style>
