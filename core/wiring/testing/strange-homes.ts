import type { Chance } from '../../chance'
import type { Fault, Part, Wiring } from '../model'
import type { AsFoundBox } from '../identify/found-box'

/**
 * Homes for trials of the identification: built conductor by conductor as an electrician would, and read with a meter that
 * has noise and people who misread. Knows nothing of the arrangements the identification looks for.
 */
export interface TrialBox {
  found: AsFoundBox
  wiring: Wiring
  /** What each conductor is, as the one who built it knows. */
  truth: Record<string, { role: string; circuit: string | null }>
  /** How it is built, and whether nobody would expect it. */
  story: string
  outside: boolean
}

export interface Make {
  chance: Chance
  volts: number
  cables: AsFoundBox['cables']
  joins: string[][]
  parts: Part[]
  truth: TrialBox['truth']
  splices: string[][]
  old: AsFoundBox['oldSwitches']
  grounds: string[]
  neutrals: string[]
  nextLetter: number
  earthed: boolean
  faults: Fault[]
  /** Joints somebody noted that are none. */
  notedOnly: string[][]
  /** Of the wider trials: more is left to chance. */
  wide: boolean
}

/** Colours an electrician takes for a job, by supply; 5 % of the conductors have another one. */
function colourFor(make: Make, use: 'hot' | 'second' | 'third' | 'return' | 'earth'): string {
  if (use === 'earth') return make.volts < 160 ? 'bare' : 'green-yellow'
  if (make.chance.is(0.05)) return make.chance.pick(['black', 'red', 'white', 'blue', 'brown', 'grey', 'yellow'])
  const na = { hot: 'black', second: 'red', third: 'black', return: 'white' }
  const iec = { hot: 'brown', second: 'black', third: 'grey', return: 'blue' }
  return (make.volts < 160 ? na : iec)[use]
}

export interface WireSpec {
  use: 'hot' | 'second' | 'third' | 'return'
  role: string
  circuit?: string
  /** What its far end is joined to. */
  to?: string
}
/** Runs a cable into the box; returns the letters of its conductors. */
export function run(make: Make, wires: WireSpec[], groundFromPanel: boolean): string[] {
  const order = [...wires.keys()]
  // Conductors lie in a cable in any order.
  for (let index = order.length - 1; index > 0; index--) {
    const other = make.chance.int(index + 1)
    ;[order[index], order[other]] = [order[other]!, order[index]!]
  }
  const letters: string[] = []
  const cores: { letter: string; colour: string }[] = []
  const letter = () => String.fromCharCode(65 + make.nextLetter++)
  for (const index of order) {
    const wire = wires[index]!
    const name = letter()
    letters[index] = name
    cores.push({ letter: name, colour: colourFor(make, wire.use) })
    make.truth[name] = { role: wire.role, circuit: wire.circuit ?? null }
    if (wire.to) make.joins.push([`${name}.far`, wire.to])
  }
  if (make.earthed) {
    const name = letter()
    cores.push({ letter: name, colour: colourFor(make, 'earth') })
    make.truth[name] = { role: 'ground', circuit: null }
    make.grounds.push(name)
    if (groundFromPanel) make.joins.push([`${name}.far`, 'earth'])
  }
  make.cables.push({ id: `cable ${make.cables.length + 1}`, cores })
  return letters
}
let lampCount = 0
export function lamp(make: Make, as?: Omit<Extract<Part, { kind: 'lamp' }>, 'id'>): { hot: string; cold: string } {
  const id = `lamp${lampCount++}`
  const kind = make.chance.next()
  make.parts.push(
    as
      ? { id, ...as }
      : kind < 0.15
        ? { id, kind: 'motor', watts: 30 + make.chance.int(60) }
        : {
            id,
            kind: 'lamp',
            lamp: kind < 0.6 ? 'led' : 'filament',
            watts: kind < 0.6 ? 5 + make.chance.int(30) : 25 + make.chance.int(150),
          },
  )
  return { hot: `${id}:hot`, cold: `${id}:cold` }
}
export const feed = (make: Make, circuit: string) =>
  run(
    make,
    [
      { use: 'hot', role: 'line', circuit, to: `${circuit}.line` },
      { use: 'return', role: 'neutral', circuit, to: `${circuit}.neutral` },
    ],
    true,
  ) as [string, string]
export const light = (make: Make) => {
  const bulb = lamp(make)
  return run(
    make,
    [
      { use: 'hot', role: 'load', to: bulb.hot },
      { use: 'return', role: 'neutralOn', to: bulb.cold },
    ],
    false,
  ) as [string, string]
}
export const plain = (make: Make, a: string[], b: string[]) =>
  make.old.push({ contacts: 'single', terminals: make.chance.is(0.5) ? { a, b } : { a: b, b: a } })

/** One switch with its feed, its light, perhaps more of the circuit behind it. */
export function feedHere(make: Make, circuit: string, lights: number) {
  const [line, neutral] = feed(make, circuit)
  const hot = [line]
  make.neutrals.push(neutral)
  if (make.chance.is(0.3)) {
    const plug = make.chance.is(0.5) ? lamp(make) : null
    const onward = run(
      make,
      [
        { use: 'hot', role: 'lineOn', to: plug?.hot },
        { use: 'return', role: 'neutralOn', to: plug?.cold },
      ],
      false,
    )
    hot.push(onward[0]!)
    make.neutrals.push(onward[1]!)
  }
  const loads: string[] = []
  for (let index = 0; index < lights; index++) {
    const [load, back] = light(make)
    make.neutrals.push(back)
    loads.push(load)
  }
  return { hot, loads }
}
export function joinHot(make: Make, hot: string[], loads: string[]) {
  if (loads.length === 1) {
    // Feed-through on the old terminal, or a splice with a pigtail.
    if (hot.length > 1 && make.chance.is(0.5)) make.splices.push(hot)
    return plain(make, hot, [loads[0]!])
  }
  make.splices.push(hot.length > 1 ? hot : hot)
  for (const load of loads) plain(make, [hot[0]!], [load])
}

export const threeWay = (make: Make, common: string, travelers: string[]) =>
  make.old.push({
    contacts: 'threeWay',
    terminals: make.chance.is(0.5)
      ? { common: [common], t1: [travelers[0]!], t2: [travelers[1]!] }
      : { common: [common], t1: [travelers[1]!], t2: [travelers[0]!] },
  })
export function farSwitch(make: Make, index: number) {
  make.parts.push({ id: `far${index}`, kind: 'switch', contacts: 'threeWay' })
  // Nobody knows which way its lever stands when it picks which traveler.
  const [t1, t2] = make.wide && make.chance.is(0.5) ? ['t2', 't1'] : ['t1', 't2']
  return { common: `far${index}:common`, t1: `far${index}:${t1}`, t2: `far${index}:${t2}` }
}

export const inside: Stories = {
  'feed at the switch': (make, [one]) => {
    const { hot, loads } = feedHere(make, one!, 1)
    joinHot(make, hot, loads)
    return 0
  },
  'two lights from one feed': (make, [one]) => {
    const { hot, loads } = feedHere(make, one!, 2)
    joinHot(make, hot, loads)
    return 0
  },
  'fan and light on one cable': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const fan = lamp(make)
    const bulb = lamp(make)
    make.joins.push([fan.cold, bulb.cold])
    const [first, second, back] = run(
      make,
      [
        { use: 'hot', role: 'load', to: fan.hot },
        { use: 'second', role: 'load', to: bulb.hot },
        { use: 'return', role: 'neutralOn', to: fan.cold },
      ],
      false,
    )
    make.neutrals.push(neutral, back!)
    plain(make, [line], [first!])
    plain(make, [line], [second!])
    return 0
  },
  'switch loop': (make, [one]) => {
    const bulb = lamp(make)
    make.joins.push([bulb.cold, `${one}.neutral`])
    const [line, load] = run(
      make,
      [
        // In a loop the white one often carries the line.
        { use: make.chance.is(0.6) ? 'return' : 'hot', role: 'line', circuit: one, to: `${one}.line` },
        { use: 'hot', role: 'load', to: bulb.hot },
      ],
      true,
    )
    plain(make, [line!], [load!])
    return 0
  },
  'switch loop with neutral': (make, [one]) => {
    const bulb = lamp(make)
    make.joins.push([bulb.cold, `${one}.neutral`])
    const [line, load] = run(
      make,
      [
        { use: 'hot', role: 'line', circuit: one, to: `${one}.line` },
        { use: 'second', role: 'load', to: bulb.hot },
        { use: 'return', role: 'neutral', circuit: one, to: `${one}.neutral` },
      ],
      true,
    )
    plain(make, [line!], [load!])
    return 0
  },
  'loop for two switches': (make, [one]) => {
    const first = lamp(make)
    const second = lamp(make)
    make.joins.push([first.cold, second.cold, `${one}.neutral`])
    const [line, a, b] = run(
      make,
      [
        { use: 'hot', role: 'line', circuit: one, to: `${one}.line` },
        { use: 'second', role: 'load', to: first.hot },
        { use: 'third', role: 'load', to: second.hot },
      ],
      true,
    )
    plain(make, [line!], [a!])
    plain(make, [line!], [b!])
    return 0
  },
  'two circuits in one box': (make, [one, two]) => {
    for (const circuit of [one!, two!]) {
      const [line, neutral] = feed(make, circuit)
      const [load, back] = light(make)
      make.splices.push([neutral, back])
      plain(make, [line], [load])
    }
    return 0
  },
  '3-way, feed here, light there': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const there = farSwitch(make, 0)
    const bulb = lamp(make)
    make.joins.push([there.common, bulb.hot])
    const [t1, t2, back] = run(
      make,
      [
        { use: 'hot', role: 'traveler', to: there.t1 },
        { use: 'second', role: 'traveler', to: there.t2 },
        { use: 'return', role: 'neutralOn', to: bulb.cold },
      ],
      false,
    )
    make.neutrals.push(neutral, back!)
    threeWay(make, line, [t1!, t2!])
    return 1
  },
  '3-way, feed and light here': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const [load, back] = light(make)
    const there = farSwitch(make, 0)
    const [common, t1, t2] = run(
      make,
      [
        { use: 'return', role: 'farCommon', to: there.common },
        { use: 'hot', role: 'traveler', to: there.t1 },
        { use: 'second', role: 'traveler', to: there.t2 },
      ],
      false,
    )
    make.neutrals.push(neutral, back)
    if (make.chance.is(0.5)) {
      make.splices.push([line, common!])
      threeWay(make, load, [t1!, t2!])
    } else {
      make.splices.push([load, common!])
      threeWay(make, line, [t1!, t2!])
    }
    return 1
  },
  '3-way, feed there, light here': (make, [one]) => {
    const there = farSwitch(make, 0)
    const [load, back] = light(make)
    make.joins.push([there.common, `${one}.line`])
    const [t1, t2, neutral] = run(
      make,
      [
        { use: 'hot', role: 'traveler', to: there.t1 },
        { use: 'second', role: 'traveler', to: there.t2 },
        { use: 'return', role: 'neutral', circuit: one, to: `${one}.neutral` },
      ],
      true,
    )
    make.neutrals.push(neutral!, back)
    threeWay(make, load, [t1!, t2!])
    return 1
  },
  '3-way, feed and light there': (make, [one]) => {
    const there = farSwitch(make, 0)
    const bulb = lamp(make)
    make.joins.push([there.common, `${one}.line`], [bulb.cold, `${one}.neutral`])
    const [t1, t2, load] = run(
      make,
      [
        { use: 'hot', role: 'traveler', to: there.t1 },
        { use: 'second', role: 'traveler', to: there.t2 },
        { use: 'return', role: 'load', to: bulb.hot },
      ],
      true,
    )
    threeWay(make, load!, [t1!, t2!])
    return 1
  },
  '3-way, line comes along from the light': (make, [one]) => {
    const there = farSwitch(make, 0)
    const bulb = lamp(make)
    make.joins.push([there.common, bulb.hot], [bulb.cold, `${one}.neutral`])
    const [t1, t2, line] = run(
      make,
      [
        { use: 'second', role: 'traveler', to: there.t1 },
        { use: 'return', role: 'traveler', to: there.t2 },
        { use: 'hot', role: 'line', circuit: one, to: `${one}.line` },
      ],
      true,
    )
    threeWay(make, line!, [t1!, t2!])
    return 1
  },
  '4-way in the middle': (make, [one]) => {
    const before = farSwitch(make, 0)
    const behind = farSwitch(make, 1)
    const bulb = lamp(make)
    make.joins.push([before.common, `${one}.line`], [behind.common, bulb.hot])
    const [a1, a2, neutral] = run(
      make,
      [
        { use: 'hot', role: 'traveler', to: before.t1 },
        { use: 'second', role: 'traveler', to: before.t2 },
        { use: 'return', role: 'neutral', circuit: one, to: `${one}.neutral` },
      ],
      true,
    )
    const [b1, b2, back] = run(
      make,
      [
        { use: 'hot', role: 'traveler', to: behind.t1 },
        { use: 'second', role: 'traveler', to: behind.t2 },
        { use: 'return', role: 'neutralOn', to: bulb.cold },
      ],
      false,
    )
    make.neutrals.push(neutral!, back!)
    make.old.push({ contacts: 'fourWay', terminals: { a1: [a1!], a2: [a2!], b1: [b1!], b2: [b2!] } })
    return 2
  },
  'older 3-way, line and neutral switched': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const there = farSwitch(make, 0)
    const bulb = lamp(make)
    make.joins.push([there.common, bulb.cold])
    const [on, back, load] = run(
      make,
      [
        { use: 'hot', role: 'lineOn', to: there.t1 },
        { use: 'return', role: 'neutralOn', to: there.t2 },
        { use: 'second', role: 'load', to: bulb.hot },
      ],
      false,
    )
    make.splices.push([line, on!])
    make.neutrals.push(neutral, back!)
    make.old.push({ contacts: 'threeWay', terminals: { common: [load!], t1: [line], t2: [neutral] } })
    return 1
  },
}

/** Things nobody expects behind a switch. Each changes what a meter shows. */
export const surprises: Stories = {
  'an earth conductor used as a line': (make, [one]) => {
    make.earthed = true
    inside['feed at the switch']!(make, [one!])
    const earth = make.grounds.pop()!
    make.joins.push([`${earth}.far`, `${one}.line`])
    return 0
  },
  'a lamp in series somewhere upstream': (make, [one]) => {
    const upstream = lamp(make)
    make.parts[make.parts.length - 1] = { id: upstream.hot.split(':')[0]!, kind: 'lamp', lamp: 'filament', watts: 3 }
    const bulb = lamp(make)
    make.joins.push([upstream.hot, `${one}.line`], [bulb.cold, `${one}.neutral`])
    const [line, load] = run(
      make,
      [
        { use: 'hot', role: '?', to: upstream.cold },
        { use: 'hot', role: '?', to: bulb.hot },
      ],
      true,
    )
    plain(make, [line!], [load!])
    return 0
  },
  'two legs in one cable': (make, [one, two]) => {
    const [a, b] = run(
      make,
      [
        { use: 'hot', role: 'line', circuit: one, to: `${one}.line` },
        { use: 'return', role: 'line', circuit: two, to: `${two}.line` },
      ],
      true,
    )
    plain(make, [a!], [b!])
    return 0
  },
  'a shorted cable to the light': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const [load, back] = light(make)
    make.joins.push([`${load}.far`, `${back}.far`])
    make.neutrals.push(neutral, back)
    plain(make, [line], [load])
    return 0
  },
  'the neutral of the feed is broken': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    make.joins = make.joins.map((join) => (join.includes(`${neutral}.far`) ? [`${neutral}.far`] : join))
    const [load, back] = light(make)
    make.neutrals.push(neutral, back)
    plain(make, [line], [load])
    return 0
  },
  'the neutral is switched instead of the line': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const bulb = lamp(make)
    const [hot, cold] = run(
      make,
      [
        { use: 'hot', role: '?', to: bulb.hot },
        { use: 'return', role: '?', to: bulb.cold },
      ],
      false,
    )
    make.splices.push([line, hot!])
    plain(make, [neutral], [cold!])
    return 0
  },
  'travelers that go two ways': (make, [one]) => {
    const there = farSwitch(make, 0)
    make.joins.push([there.common, `${one}.line`])
    const [a, load] = run(
      make,
      [
        { use: 'hot', role: '?', to: there.t1 },
        { use: 'return', role: '?' },
      ],
      true,
    )
    const bulb = lamp(make)
    make.joins.push([`${load}.far`, bulb.hot], [bulb.cold, `${one}.neutral`])
    const [b, c] = run(
      make,
      [
        { use: 'hot', role: '?', to: there.t2 },
        { use: 'return', role: '?', to: `${one}.neutral` },
      ],
      true,
    )
    make.neutrals.push(c!)
    threeWay(make, load!, [a!, b!])
    return 1
  },
}

/** Ways to wire a box, by their story: each says how many other switches there are. */
export type Stories = Record<string, (make: Make, circuits: string[]) => number>

/** One box of a trial. */
export const makeTrialBox = (chance: Chance, outside: boolean): TrialBox => boxOf(chance, outside ? surprises : inside, outside)

export function boxOf(chance: Chance, kinds: Stories, outside: boolean, wide = false): TrialBox {
  const volts = chance.is(0.5) ? 120 : 230
  const make: Make = {
    chance,
    volts,
    cables: [],
    joins: [],
    parts: [],
    truth: {},
    splices: [],
    old: [],
    grounds: [],
    neutrals: [],
    nextLetter: 0,
    earthed: chance.is(0.85),
    faults: [],
    notedOnly: [],
    wide,
  }
  const story = chance.pick(Object.keys(kinds))
  const two = story.startsWith('two ') || story.includes('two circuits')
  const circuits = two && story !== 'two lights from one feed' ? ['2', '4'] : ['2']
  const farSwitches = kinds[story]!(make, circuits)
  if (chance.is(0.1) && make.nextLetter < 20)
    run(
      make,
      [
        { use: 'hot', role: 'spare' },
        { use: 'return', role: 'spare' },
      ],
      false,
    )
  if (make.grounds.length > 1) make.splices.push(make.grounds)
  else if (make.grounds.length === 1) make.joins.push([`${make.grounds[0]}.near`, 'earth'])
  if (make.neutrals.length > 1) make.splices.push(make.neutrals)
  for (const splice of make.splices) make.joins.push(splice.map((letter) => `${letter}.near`))
  for (const old of make.old)
    for (const group of Object.values(old.terminals)) if (group.length > 1) make.joins.push(group.map((letter) => `${letter}.near`))
  // The rest of the circuit: something else often hangs on it.
  for (const circuit of circuits) {
    if (!chance.is(0.5)) continue
    const id = `else${circuit}`
    make.parts.push({ id, kind: 'lamp', lamp: chance.is(0.5) ? 'led' : 'filament', watts: 20 + chance.int(80) })
    make.joins.push([`${id}:hot`, `${circuit}.line`], [`${id}:cold`, `${circuit}.neutral`])
  }
  return {
    found: {
      nominalVolts: volts,
      circuits,
      farSwitches,
      cables: make.cables,
      splices: [...make.splices.filter((splice) => splice.length > 1), ...make.notedOnly],
      oldSwitches: make.old,
      complete: true,
    },
    wiring: {
      hertz: volts < 160 ? 60 : 50,
      nominalVolts: volts,
      circuits: circuits.map((id, index) => ({
        id,
        volts,
        degrees: index === 0 ? 0 : volts < 160 ? chance.pick([0, 180]) : chance.pick([0, 120]),
        amps: 15,
        guard: 'none' as const,
      })),
      cables: make.cables.map((cable) => ({
        id: cable.id,
        metres: 3 + chance.next() * 25,
        cores: cable.cores.map((core) => ({ id: core.letter, colour: core.colour })),
      })),
      joins: make.joins,
      parts: make.parts,
      faults: make.faults,
    },
    truth: make.truth,
    story,
    outside,
  }
}
