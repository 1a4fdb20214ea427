import type { DeviceModel, TerminalKey } from '../../fit'
import { Chance } from '../../chance'
import type { AsFoundBox } from '../identify/found-box'
import type { Part, Point, Wiring } from '../model'
import { rebuiltOutside } from '../plan/other-locations'
import { circuitsOf, type LightLoad } from '../plan/outside'
import { emptyPlan, homeOf, type PlannedDevice, type PlannedHome, type WiringPlan } from '../plan/plan'
import { SimulatedMeter } from '../simulated-meter'
import { terminalModel } from '../terminal-model'

/** A box whose wiring is hidden, to practise on with the simulated meter. Invented, like the homes of the demo. */
export interface PracticeBox {
  id: string
  name: string
  place: string
  story: string
  found: AsFoundBox
  devices: PlannedDevice[]
  /** What hangs on its cables, as the job tells it. */
  loads: LightLoad[]
  otherLocation: 'companion' | null
  /** What nobody sees: where the far ends go. */
  hidden: { joins: Point[][]; parts: Part[]; lights: { id: string; name: string; letter: string }[]; farSwitches: string[] }
}

const device = (
  gang: number,
  name: string,
  terminals: TerminalKey[],
  kind: DeviceModel['kind'] = 'switch',
  metering = false,
): PlannedDevice => ({
  gang,
  name,
  model: terminalModel({ kind, terminals, multiWay: terminals.includes('traveler2') ? 'commonTravelers' : 'single', metering }),
})
const withNeutral = (gang: number) => device(gang, 'Tide switch, with neutral', ['ground', 'neutral', 'load', 'line'])
const noNeutral = (gang: number) => device(gang, 'Breakwater switch, no neutral', ['load', 'line'])
const multiWay = (gang: number) =>
  device(gang, 'Tide dimmer, with neutral', ['ground', 'neutral', 'common', 'traveler1', 'traveler2'], 'dimmer')

const led = (id: string, watts = 12): Part => ({ id, kind: 'lamp', lamp: 'led', watts })
const filament = (id: string, watts = 60): Part => ({ id, kind: 'lamp', lamp: 'filament', watts })
const far3 = (index: number): Part => ({ id: `far${index}`, kind: 'switch', contacts: 'threeWay' })
/** Conductors: letter, colour, and what the far end is joined to. */
type Core = [letter: string, colour: string, ...to: Point[]]
interface Sketch {
  id: string
  name: string
  place: string
  story: string
  volts: 120 | 230
  circuits: string[]
  far?: number
  guards?: AsFoundBox['guards']
  cables: Record<string, Core[]>
  splices: string[][]
  old: AsFoundBox['oldSwitches']
  parts: Part[]
  joins?: Point[][]
  lights: [id: string, name: string, letter: string][]
  devices: PlannedDevice[]
  loads?: LightLoad[]
  otherLocation?: 'companion'
}
const single = (a: string[], b: string[]) => ({ contacts: 'single' as const, terminals: { a, b } })
const threeWay = (common: string, t1: string, t2: string) => ({
  contacts: 'threeWay' as const,
  terminals: { common: [common], t1: [t1], t2: [t2] },
})

const sketches: Sketch[] = [
  {
    id: 'print-shop-door',
    name: 'Print shop door',
    place: 'School of Studios, Port Sallow',
    story: 'One old switch, one cable of two. The white one is on the switch.',
    volts: 120,
    circuits: ['3'],
    cables: {
      'cable from above': [
        ['A', 'white', '3.line'],
        ['B', 'black', 'lamp:hot'],
        ['C', 'bare', 'earth'],
      ],
    },
    splices: [],
    old: [single(['A'], ['B'])],
    parts: [filament('lamp', 100)],
    joins: [['lamp:cold', '3.neutral']],
    lights: [['lamp', 'cable from above', 'B']],
    devices: [noNeutral(1)],
  },
  {
    id: 'reading-nook',
    name: 'Reading nook',
    place: 'The Net Loft, Port Sallow',
    story: 'Two switches in a row. No neutral in sight behind the left one.',
    volts: 120,
    circuits: ['7'],
    cables: {
      'left cable': [
        ['A', 'black', 'nook:hot'],
        ['B', 'white', 'nook:cold'],
        ['C', 'bare'],
      ],
      'middle cable': [
        ['D', 'white', '7.neutral'],
        ['E', 'black', '7.line'],
        ['F', 'bare', 'earth'],
      ],
      'right cable': [
        ['G', 'black', 'shelf:hot'],
        ['H', 'white', 'shelf:cold'],
        ['I', 'bare'],
      ],
    },
    splices: [
      ['B', 'D', 'H'],
      ['C', 'F', 'I'],
    ],
    old: [single(['E'], ['A']), single(['E'], ['G'])],
    parts: [led('nook', 9), filament('shelf', 40)],
    lights: [
      ['nook', 'left cable', 'A'],
      ['shelf', 'right cable', 'G'],
    ],
    devices: [withNeutral(1), withNeutral(2)],
  },
  {
    id: 'stair-foot',
    name: 'Stair foot',
    place: 'The Net Loft, Port Sallow',
    story: 'A 3-way. The feed comes down from the light; one cable of three.',
    volts: 120,
    circuits: ['5'],
    far: 1,
    cables: {
      'cable of three': [
        ['A', 'black', '5.line'],
        ['B', 'red', 'far0:t1'],
        ['C', 'white', 'far0:t2'],
        ['D', 'bare', 'earth'],
      ],
    },
    splices: [],
    old: [threeWay('A', 'C', 'B')],
    parts: [far3(0), filament('stair')],
    joins: [
      ['far0:common', 'stair:hot'],
      ['stair:cold', '5.neutral'],
    ],
    lights: [['stair', 'cable of three', 'B']],
    devices: [device(1, 'Tide dimmer, without neutral', ['ground', 'common', 'traveler1', 'traveler2'], 'dimmer')],
  },
  {
    id: 'landing',
    name: 'Landing',
    place: 'Lock Cottage, Port Sallow',
    story: 'A 3-way whose line comes in here; the load leaves from the other box.',
    volts: 120,
    circuits: ['6'],
    far: 1,
    cables: {
      'cable from panel': [
        ['A', 'white', '6.neutral'],
        ['B', 'black', '6.line'],
        ['C', 'bare', 'earth'],
      ],
      'cable to the other switch': [
        ['D', 'red', 'far0:t1'],
        ['E', 'white', 'landing:cold'],
        ['F', 'black', 'far0:t2'],
        ['G', 'bare'],
      ],
    },
    splices: [
      ['A', 'E'],
      ['C', 'G'],
    ],
    old: [threeWay('B', 'D', 'F')],
    parts: [far3(0), led('landing', 14)],
    joins: [['far0:common', 'landing:hot']],
    lights: [['landing', 'cable to the other switch', 'D']],
    devices: [multiWay(1)],
  },
  {
    id: 'sail-room',
    name: 'Sail room',
    place: 'The Boathouse, Port Sallow',
    story: 'Two switches, two feeds: one breaker off is not enough here.',
    volts: 120,
    circuits: ['2', '4'],
    cables: {
      'left feed': [
        ['A', 'black', '2.line'],
        ['B', 'white', '2.neutral'],
        ['C', 'bare', 'earth'],
      ],
      'left light': [
        ['D', 'black', 'bench:hot'],
        ['E', 'white', 'bench:cold'],
        ['F', 'bare'],
      ],
      'right feed': [
        ['G', 'red', '4.line'],
        ['H', 'white', '4.neutral'],
        ['I', 'bare', 'earth'],
      ],
      'right light': [
        ['J', 'black', 'rack:hot'],
        ['K', 'white', 'rack:cold'],
        ['L', 'bare'],
      ],
    },
    splices: [
      ['B', 'E'],
      ['H', 'K'],
      ['C', 'F', 'I', 'L'],
    ],
    old: [single(['A'], ['D']), single(['G'], ['J'])],
    parts: [led('bench', 18), filament('rack', 75)],
    lights: [
      ['bench', 'left light', 'D'],
      ['rack', 'right light', 'J'],
    ],
    devices: [withNeutral(1), withNeutral(2)],
  },
  {
    id: 'mud-room',
    name: 'Mud room',
    place: 'Lock Cottage, Port Sallow',
    story: 'It worked for years. The new breaker trips as soon as the second light is on.',
    volts: 120,
    circuits: ['8', '9'],
    guards: { '8': 'residualCurrent', '9': 'residualCurrent' },
    cables: {
      'first feed': [
        ['A', 'black', '8.line'],
        ['B', 'white', '8.neutral'],
        ['C', 'bare', 'earth'],
      ],
      'first light': [
        ['D', 'black', 'boots:hot'],
        ['E', 'white', 'boots:cold'],
        ['F', 'bare'],
      ],
      'second feed': [
        ['G', 'black', '9.line'],
        ['H', 'white', '9.neutral'],
        ['I', 'bare', 'earth'],
      ],
      'second light': [
        ['J', 'red', 'coats:hot'],
        ['K', 'white', 'coats:cold'],
        ['L', 'bare'],
      ],
    },
    splices: [
      ['B', 'E', 'K'],
      ['C', 'F', 'I', 'L'],
    ],
    old: [single(['A'], ['D']), single(['G'], ['J'])],
    parts: [filament('boots'), filament('coats')],
    lights: [
      ['boots', 'first light', 'D'],
      ['coats', 'second light', 'J'],
    ],
    devices: [withNeutral(1), withNeutral(2)],
  },
  {
    id: 'tide-room',
    name: 'Tide room',
    place: 'Heron House, Port Sallow',
    story: 'Somebody used what was in the van: red goes on in blue, and white is not what it seems.',
    volts: 120,
    circuits: ['11'],
    cables: {
      'upper cable': [
        ['A', 'red', '11.neutral'],
        ['B', 'white', '11.line'],
        ['C', 'bare', 'earth'],
      ],
      'lower cable': [
        ['D', 'blue', 'tide:cold'],
        ['E', 'white', 'tide:hot'],
        ['F', 'bare'],
      ],
    },
    splices: [
      ['A', 'D'],
      ['C', 'F'],
    ],
    old: [single(['B'], ['E'])],
    parts: [filament('tide', 75)],
    lights: [['tide', 'lower cable', 'E']],
    devices: [withNeutral(1)],
  },
  {
    id: 'boathouse-door',
    name: 'Boathouse door',
    place: 'The Slip, Marram Quay',
    story: 'A double switch on one cable of three; no neutral anywhere.',
    volts: 230,
    circuits: ['B4'],
    cables: {
      'cable of three': [
        ['A', 'brown', 'B4.line'],
        ['B', 'black', 'slip:hot'],
        ['C', 'grey', 'quay:hot'],
        ['D', 'green-yellow', 'earth'],
      ],
    },
    splices: [],
    old: [single(['A'], ['B']), single(['A'], ['C'])],
    parts: [filament('slip', 60), filament('quay', 100)],
    joins: [['slip:cold', 'quay:cold', 'B4.neutral']],
    lights: [
      ['slip', 'cable of three', 'B'],
      ['quay', 'cable of three', 'C'],
    ],
    devices: [noNeutral(1), noNeutral(2)],
  },
  {
    id: 'net-loft-fan',
    name: 'Net loft fan',
    place: 'The Net Loft, Port Sallow',
    story: 'A fan and its light on one cable, from one feed.',
    volts: 120,
    circuits: ['12'],
    cables: {
      'cable from panel': [
        ['A', 'black', '12.line'],
        ['B', 'white', '12.neutral'],
        ['C', 'bare', 'earth'],
      ],
      'cable to the fan': [
        ['D', 'red', 'bulb:hot'],
        ['E', 'black', 'fan:hot'],
        ['F', 'white', 'fan:cold'],
        ['G', 'bare'],
      ],
    },
    splices: [
      ['B', 'F'],
      ['C', 'G'],
    ],
    old: [single(['A'], ['D']), single(['A'], ['E'])],
    parts: [{ id: 'fan', kind: 'motor', watts: 65 }, led('bulb', 15)],
    joins: [['fan:cold', 'bulb:cold']],
    lights: [
      ['bulb', 'cable to the fan', 'D'],
      ['fan', 'cable to the fan', 'E'],
    ],
    devices: [withNeutral(1), withNeutral(2)],
  },
  {
    id: 'weaving-room',
    name: 'Weaving room',
    place: 'Foundry Lane Studios, Port Sallow',
    story: 'The two old switches stay; one module behind them takes the light and the fan.',
    volts: 120,
    circuits: ['14'],
    cables: {
      'cable from panel': [
        ['A', 'black', '14.line'],
        ['B', 'white', '14.neutral'],
        ['C', 'bare', 'earth'],
      ],
      'cable to the fan': [
        ['D', 'black', 'fan:hot'],
        ['E', 'red', 'bulb:hot'],
        ['F', 'white', 'fan:cold'],
        ['G', 'bare'],
      ],
    },
    splices: [
      ['B', 'F'],
      ['C', 'G'],
    ],
    old: [single(['A'], ['D']), single(['A'], ['E'])],
    parts: [{ id: 'fan', kind: 'motor', watts: 65 }, filament('bulb', 60)],
    joins: [['fan:cold', 'bulb:cold']],
    lights: [
      ['fan', 'cable to the fan', 'D'],
      ['bulb', 'cable to the fan', 'E'],
    ],
    loads: [
      { technology: 'fan', watts: 65, letter: 'D' },
      { technology: 'filament', watts: 60, letter: 'E' },
    ],
    devices: [device(1, 'Relay module, lamp and fan', ['neutral', 'load', 'fan', 'line', 'sense', 'sense2'], 'relayModule')],
  },
  {
    id: 'cellar-stairs',
    name: 'Cellar stairs',
    place: 'Tide House, Port Sallow',
    story: 'Two handles for one lamp, done long ago by somebody with ideas of his own.',
    volts: 120,
    circuits: ['13'],
    far: 1,
    cables: {
      'cable from panel': [
        ['A', 'black', '13.line'],
        ['B', 'white', '13.neutral'],
        ['C', 'bare', 'earth'],
      ],
      'cable up the stairs': [
        ['D', 'black', 'far0:t1'],
        ['E', 'white', 'far0:t2'],
        ['F', 'red', 'stairs:hot'],
        ['G', 'bare'],
      ],
    },
    splices: [
      ['A', 'D'],
      ['B', 'E'],
      ['C', 'G'],
    ],
    old: [threeWay('F', 'A', 'B')],
    parts: [far3(0), filament('stairs')],
    joins: [['stairs:cold', 'far0:common']],
    lights: [['stairs', 'cable up the stairs', 'F']],
    devices: [withNeutral(1)],
  },
  {
    id: 'quay-stairs',
    name: 'Quay stairs',
    place: 'The Slip, Marram Quay',
    story: 'The load leaves from here, the line comes in at the other box. The new dimmer takes its signal from the other switch.',
    volts: 230,
    circuits: ['B7'],
    far: 1,
    cables: {
      'cable from the other switch': [
        ['A', 'blue', 'B7.neutral'],
        ['B', 'brown', 'far0:t1'],
        ['C', 'black', 'far0:t2'],
        ['D', 'green-yellow', 'earth'],
      ],
      'cable to the light': [
        ['E', 'brown', 'stairs:hot'],
        ['F', 'blue', 'stairs:cold'],
        ['G', 'green-yellow'],
      ],
    },
    splices: [
      ['A', 'F'],
      ['D', 'G'],
    ],
    old: [threeWay('E', 'B', 'C')],
    parts: [far3(0), filament('stairs', 60)],
    joins: [['far0:common', 'B7.line']],
    lights: [['stairs', 'cable to the light', 'E']],
    devices: [device(1, 'Breakwater dimmer', ['ground', 'neutral', 'load', 'line', 'sense'], 'dimmer')],
  },
  {
    id: 'back-stairs',
    name: 'Back stairs',
    place: 'Heron House, Port Sallow',
    story: 'Line and light are both here. The other switch becomes a companion on its own conductor.',
    volts: 120,
    circuits: ['10'],
    far: 1,
    otherLocation: 'companion',
    cables: {
      'cable from panel': [
        ['A', 'black', '10.line'],
        ['B', 'white', '10.neutral'],
        ['C', 'bare', 'earth'],
      ],
      'cable to the other switch': [
        ['D', 'black', 'far0:t1'],
        ['E', 'red', 'far0:t2'],
        ['F', 'white', 'back:cold'],
        ['G', 'bare'],
      ],
    },
    splices: [
      ['B', 'F'],
      ['C', 'G'],
    ],
    old: [threeWay('A', 'D', 'E')],
    parts: [far3(0), led('back', 12)],
    joins: [['far0:common', 'back:hot']],
    lights: [['back', 'cable to the other switch', 'D']],
    devices: [device(1, 'Tide dimmer, with companion', ['ground', 'neutral', 'load', 'line', 'sense'], 'dimmer')],
  },
  {
    id: 'chart-room',
    name: 'Chart room',
    place: 'The Slip, Marram Quay',
    story: 'Two switches, no neutral. A sender behind them signals a relay at each fixture.',
    volts: 230,
    circuits: ['B2'],
    cables: {
      'cable of three': [
        ['A', 'brown', 'B2.line'],
        ['B', 'black', 'chart:hot'],
        ['C', 'grey', 'desk:hot'],
        ['D', 'green-yellow', 'earth'],
      ],
    },
    splices: [],
    old: [single(['A'], ['B']), single(['A'], ['C'])],
    parts: [led('chart', 20), filament('desk', 40)],
    joins: [['chart:cold', 'desk:cold', 'B2.neutral']],
    lights: [
      ['chart', 'cable of three', 'B'],
      ['desk', 'cable of three', 'C'],
    ],
    devices: [device(1, 'Sender for two switches', ['sense', 'sense2', 'senseReturn'], 'sender')],
  },
  {
    id: 'pump-house',
    name: 'Pump house',
    place: 'Marram Quay',
    story: 'A pump that must run, behind an old switch. The relay measures what it takes.',
    volts: 230,
    circuits: ['B9'],
    cables: {
      'cable from panel': [
        ['A', 'brown', 'B9.line'],
        ['B', 'blue', 'B9.neutral'],
        ['C', 'green-yellow', 'earth'],
      ],
      'cable to the pump': [
        ['D', 'brown', 'pump:hot'],
        ['E', 'blue', 'pump:cold'],
        ['F', 'green-yellow'],
      ],
    },
    splices: [
      ['B', 'E'],
      ['C', 'F'],
    ],
    old: [single(['A'], ['D'])],
    parts: [{ id: 'pump', kind: 'motor', watts: 120 }],
    lights: [['pump', 'cable to the pump', 'D']],
    loads: [{ technology: 'motor', watts: 120 }],
    devices: [device(1, 'Metering relay', ['neutral', 'load', 'line', 'sense'], 'relayModule', true)],
  },
]

export const practiceBoxes: PracticeBox[] = sketches.map((sketch) => ({
  id: sketch.id,
  name: sketch.name,
  place: sketch.place,
  story: sketch.story,
  devices: sketch.devices,
  loads: sketch.loads ?? [{ technology: 'filament', watts: 60 }],
  otherLocation: sketch.otherLocation ?? null,
  found: {
    nominalVolts: sketch.volts,
    circuits: sketch.circuits,
    farSwitches: sketch.far ?? 0,
    cables: Object.entries(sketch.cables).map(([id, cores]) => ({ id, cores: cores.map(([letter, colour]) => ({ letter, colour })) })),
    splices: sketch.splices,
    oldSwitches: sketch.old,
    complete: true,
    guards: sketch.guards,
  },
  hidden: {
    joins: [
      ...(sketch.joins ?? []),
      ...Object.values(sketch.cables).flatMap((cores) =>
        cores.flatMap(([letter, , ...to]) => (to.length ? [[`${letter}.far`, ...to]] : [])),
      ),
    ],
    parts: sketch.parts,
    lights: sketch.lights.map(([id, name, letter]) => ({ id, name, letter })),
    farSwitches: Array.from({ length: sketch.far ?? 0 }, (_, index) => `far${index}`),
  },
}))

/** The truly wired home behind a practice box, with its conductors apart and its splices as found; or as a plan has it. */
export function trueHome(box: PracticeBox, plan?: WiringPlan): PlannedHome {
  const { found, hidden } = box
  const cables = found.cables.map((cable) => ({
    id: cable.id,
    run: 'spare' as const,
    wires: cable.cores.map((core) => ({ ...core, role: 'spare' as const, circuit: null })),
  }))
  const asFound: WiringPlan = { ...emptyPlan, splices: found.splices.map((letters) => ({ letters, holds: null })) }
  const used = plan ?? asFound
  const home = homeOf(found, cables, { ...used, fixtureRelays: [], elsewhere: [] }, plan ? box.devices : [], [])
  const { outside, relays } = rebuiltOutside(
    { parts: hidden.parts, joins: hidden.joins, lights: hidden.lights, farSwitches: hidden.farSwitches },
    used,
    cables,
  )
  const wiring: Wiring = {
    ...home.wiring,
    circuits: circuitsOf(found, []),
    joins: [...home.wiring.joins, ...outside.joins],
    parts: [...home.wiring.parts, ...outside.parts],
  }
  return {
    devices: home.devices,
    wiring,
    outside,
    relays,
  }
}
export const practiceMeter = (box: PracticeBox, seed: number) => new SimulatedMeter(trueHome(box).wiring, new Chance(seed), 0, box.found)
