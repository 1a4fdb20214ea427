import type { Point } from '../model'
import { supplySchemes, schemeOf } from '../../units/scheme'
import type { AsFoundBox } from '../identify/found-box'
import { seenByInput } from './inputs'
import { checkLights } from './lights'
import { rolesInPlan, type PlanWire } from './other-locations'
import { circuitsOf, type KnownCable, type LightLoad } from './outside'
import { deviceId, homeOf, type PlannedDevice, type PlannedHome, type WiringPlan } from './plan'
import { emptyPlan } from './plan-words'
import { actuatorsOf, countPositions, Rows } from './positions'
import { solveStates } from './states'
import type { Judged, Say, Verdict } from './verdicts'

/** One box of a group that switches a light together, with the plan that was laid in it. */
export interface BoxOfGroup {
  name: string
  found: AsFoundBox
  cables: KnownCable[]
  plan: WiringPlan
  devices: PlannedDevice[]
  loads: LightLoad[]
}
/** Why the boxes of a group cannot be proven as one wiring. */
export type NotTogether = 'notLinked' | 'suppliedBetween' | 'tooMany'
export const notTogetherWords: Record<NotTogether, string> = {
  notLinked: 'it is not clear which cable joins the boxes: look at their cables again',
  suppliedBetween: 'the power or the lamp is joined in between, outside of these boxes',
  tooMany: 'there are too many switches to go through every position',
}
export type Together = { ok: true; verdicts: Verdict[]; states: number } | { ok: false; why: NotTogether }

/** So many states are solved where nothing waits for them: ways to join the cables, positions, breakers. */
const mostStates = 6_000
/** So many ways to join the cables are looked at; conductors of one colour make many. */
const mostWays = 24

const leadsAway = (cable: KnownCable) => typeof cable.far === 'number'
/** A conductor by its box: the boxes are numbered from 1, and no two things of the whole bear one name. */
const inBox = (box: number, letter: string) => `${box}${letter}`

/** Two cables that are one: which conductor of the first is which of the second. */
interface Link {
  a: { box: number; cable: KnownCable }
  b: { box: number; cable: KnownCable }
  wires: [string, string][]
}

function* permutations<T>(items: T[]): Generator<T[]> {
  if (items.length < 2) return yield items
  for (const [index, item] of items.entries())
    for (const rest of permutations([...items.slice(0, index), ...items.slice(index + 1)])) yield [item, ...rest]
}
/** Every way in which these two cables can be one: colour to colour; of conductors of one colour nobody knows which is which. */
function* sameCable(a: KnownCable, b: KnownCable): Generator<[string, string][]> {
  const colours = [...new Set(a.wires.map(({ colour }) => colour))]
  const of = (cable: KnownCable, colour: string) => cable.wires.filter((wire) => wire.colour === colour).map(({ letter }) => letter)
  if (a.wires.length !== b.wires.length || colours.some((colour) => of(a, colour).length !== of(b, colour).length)) return
  function* from(index: number): Generator<[string, string][]> {
    const colour = colours[index]
    if (colour === undefined) return yield []
    const mine = of(a, colour)
    for (const theirs of permutations(of(b, colour)))
      for (const rest of from(index + 1)) yield [...mine.map((letter, at): [string, string] => [letter, theirs[at]!]), ...rest]
  }
  yield* from(0)
}

/** Every way in which the cables that lead from box to box can be joined: each of them once, all boxes reached. */
function* linksOf(boxes: BoxOfGroup[]): Generator<Link[]> {
  const open = boxes.flatMap(({ cables }, index) => cables.filter(leadsAway).map((cable) => ({ box: index + 1, cable })))
  function* join(left: typeof open): Generator<Link[]> {
    const [first, ...rest] = left
    if (!first) return yield []
    for (const [index, other] of rest.entries()) {
      if (other.box === first.box) continue
      const further = [...rest.slice(0, index), ...rest.slice(index + 1)]
      for (const wires of sameCable(first.cable, other.cable))
        for (const links of join(further)) yield [{ a: first, b: other, wires }, ...links]
    }
  }
  for (const links of join(open)) {
    const reached = new Set([1])
    for (let grew = true; grew;) {
      grew = false
      for (const { a, b } of links)
        if (reached.has(a.box) !== reached.has(b.box)) {
          reached.add(a.box).add(b.box)
          grew = true
        }
    }
    if (reached.size === boxes.length) yield links
  }
}

/** The home of all boxes: each as planned, and the cables between them as one. */
function homeOfAll(boxes: BoxOfGroup[], links: Link[]): { home: PlannedHome; plan: WiringPlan; wires: PlanWire[] } {
  const circuits = [...new Set(boxes.flatMap(({ found }) => found.circuits))]
  const first = boxes[0]!.found
  const home: PlannedHome = {
    devices: [],
    relays: [],
    outside: { parts: [], joins: [], lights: [], farSwitches: [] },
    wiring: {
      hertz: supplySchemes[schemeOf(first.nominalVolts)].frequencyHz,
      nominalVolts: first.nominalVolts,
      circuits: [],
      cables: [],
      joins: [],
      parts: [],
      faults: [],
    },
  }
  const plan: WiringPlan = structuredClone(emptyPlan)
  const wires: PlanWire[] = []
  /** The end of a shared conductor in the second box is the far end of the first one's. */
  const shared = new Map(
    links.flatMap(({ a, b, wires: pairs }) => pairs.map(([mine, theirs]) => [inBox(b.box, theirs), inBox(a.box, mine)])),
  )
  boxes.forEach((box, index) => {
    const number = index + 1
    const own = box.cables.filter((cable) => !leadsAway(cable))
    const alone = homeOf(box.found, own, { ...box.plan, elsewhere: [] }, box.devices, box.loads)
    const letters = new Set(box.cables.flatMap((cable) => cable.wires.map(({ letter }) => letter)))
    const part = (id: string) => {
      const [, kind, at] = /^(gang|old)(\d+)$/.exec(id) ?? []
      return kind ? `${kind}${number * 10 + Number(at)}` : `${id}@${number}`
    }
    const point = (one: Point): Point => {
      const [, letter = '', end] = /^(.+)\.(near|far)$/.exec(one) ?? []
      if (end && letters.has(letter)) {
        const joined = shared.get(inBox(number, letter))
        return joined ? `${joined}.far` : `${inBox(number, letter)}.${end}`
      }
      const [, id = '', terminal] = /^([^:]+):(.+)$/.exec(one) ?? []
      return terminal ? `${part(id)}:${terminal}` : one
    }
    const sharedHere = (cable: KnownCable) => links.some(({ b }) => b.box === number && b.cable === cable)
    const cables = box.cables.filter((cable) => !sharedHere(cable))
    home.wiring.cables.push(
      ...cables.map((cable) => ({
        id: `${number} ${cable.id}`,
        metres: 10,
        cores: cable.wires.map(({ letter, colour }) => ({ id: inBox(number, letter), colour })),
      })),
    )
    home.wiring.joins.push(...alone.wiring.joins.map((join) => join.map(point)))
    home.wiring.parts.push(...alone.wiring.parts.map((one) => ({ ...one, id: part(one.id) })))
    home.outside.parts.push(...alone.outside.parts.map((one) => ({ ...one, id: part(one.id) })))
    home.outside.joins.push(...alone.outside.joins.map((join) => join.map(point)))
    home.outside.farSwitches.push(...alone.outside.farSwitches.map(part))
    home.outside.lights.push(
      ...alone.outside.lights.map((light) => ({ ...light, id: part(light.id), letter: `${light.letter} in ${box.name}` })),
    )
    home.devices.push(...box.devices.map((device) => ({ ...device, gang: number * 10 + device.gang })))
    home.relays.push(
      ...alone.relays.map((relay) => ({
        ...relay,
        id: part(relay.id),
        lightId: part(relay.lightId),
        gang: number * 10 + relay.gang,
        letter: `${relay.letter} in ${box.name}`,
      })),
    )
    for (const circuit of circuitsOf(box.found, box.cables))
      if (!home.wiring.circuits.some(({ id }) => id === circuit.id)) home.wiring.circuits.push(circuit)
    plan.devices.push(
      ...box.plan.devices.map(({ gang, terminals }) => ({
        gang: number * 10 + gang,
        terminals: Object.fromEntries(Object.entries(terminals).map(([name, at]) => [name, at?.map((letter) => inBox(number, letter))])),
      })),
    )
    plan.splices.push(...box.plan.splices.map((splice) => ({ ...splice, letters: splice.letters.map((letter) => inBox(number, letter)) })))
    plan.kept.push(...box.plan.kept.map((one) => ({ ...one, old: number * 10 + one.old })))
    wires.push(...rolesInPlan(own, { elsewhere: [] }, circuits[0]!).map((wire) => ({ ...wire, letter: inBox(number, wire.letter) })))
  })
  return { home, plan, wires }
}

/** Every device has its power, what listens is signalled, what signals is heard: in every position of everything. */
function checkDevicesOfAll({ home, rows, actuators, say }: Judged) {
  const nameOf = ({ gang }: PlannedDevice) => `Gang ${gang}`
  const companions = home.devices.filter(({ model }) => model.signals === 'partner')
  const heard = new Set<number>()
  for (const device of home.devices) {
    const id = deviceId(device.gang)
    if (device.model.supply ?? device.model.throughLoad) {
      const dead = rows.all.filter((row) => !row.home.powered(id)).length
      if (dead) say('block', 'noPower', `${nameOf(device)} has no power in ${dead} of ${rows.all.length} positions.`)
    }
    if (device.model.signals === 'partner') continue
    for (const input of device.model.inputs) {
      const at = `${id}:${input.terminal}`
      if (!home.wiring.joins.some((join) => join.length > 1 && join.includes(at))) continue
      const signalling = companions.filter((one) => rows.all.every((row) => row.home.touching(at, `${deviceId(one.gang)}:sense`)))
      for (const one of signalling) heard.add(one.gang)
      const byHand = actuators.some((hand) => !hand.model && seenByInput(device, input, rows, hand).some(Boolean))
      if (!signalling.length && !byHand)
        say('block', 'notHeard', `${nameOf(device)}: nothing at the other locations reaches its switch input.`)
    }
  }
  for (const companion of companions) {
    const id = deviceId(companion.gang)
    if (!heard.has(companion.gang)) say('block', 'notHeard', `${nameOf(companion)}: its signal reaches no device that listens.`)
    const powered =
      !companion.model.terminals.includes('neutral') ||
      rows.all.every((row) => home.wiring.circuits.some((circuit) => row.home.touching(`${id}:neutral`, `${circuit.id}.neutral`)))
    if (!powered) say('block', 'noPower', `${nameOf(companion)} has no neutral.`)
  }
}

/** Every switch that stays moves its light from every position of the others, or is heard. */
function checkSwitchesOfAll({ home, rows, actuators, say }: Judged) {
  for (const hand of actuators.filter(({ model }) => !model)) {
    const [, old] = /^old(\d\d)$/.exec(hand.id) ?? []
    const name = old ? `Old switch ${old}` : 'The other switch'
    const heard = home.devices.some((device) => device.model.inputs.some((input) => seenByInput(device, input, rows, hand).some(Boolean)))
    const turns = (row: (typeof rows.all)[number]) =>
      home.outside.lights.some((light) => rows.flipped(row, hand)?.lights[light.id] !== row.lights[light.id])
    const often = rows.all.filter(turns).length
    if (often === rows.all.length || heard) continue
    if (often) say('block', 'deadInState', `${name} switches in ${often} of ${rows.all.length} positions only.`)
    else say('block', 'movesNothing', `${name} does nothing: it moves no light, and nothing hears it.`)
  }
}

/** Numbers of the whole in the words of its boxes. */
function inWords(text: string, boxes: BoxOfGroup[]): string {
  return text
    .replace(
      /\b(gang|Gang|old switch|Old switch) (\d)(\d)\b/g,
      (_, what: string, box: string, at: string) => `${what} ${at} in ${boxes[Number(box) - 1]?.name ?? box}`,
    )
    .replace(/\b(\d)([A-Z]{1,2})\b/g, (_, box: string, letter: string) => `${letter} in ${boxes[Number(box) - 1]?.name ?? box}`)
}

/**
 * Proves the plans of all boxes of a group as one wiring: every position of everything in all of them, and every combination of
 * breakers. Where it is open which conductor of one colour is which, it has to be right whichever it is.
 */
export function verifyTogether(boxes: BoxOfGroup[], most = mostStates): Together {
  if (boxes.length > 6) return { ok: false, why: 'notLinked' }
  const ways: Link[][] = []
  for (const links of linksOf(boxes)) {
    ways.push(links)
    if (ways.length > mostWays) return { ok: false, why: 'tooMany' }
  }
  if (!ways.length) return { ok: false, why: 'notLinked' }
  const verdicts: Verdict[] = []
  let states = 0
  for (const [index, links] of ways.entries()) {
    const { home, plan, wires } = homeOfAll(boxes, links)
    const supplied = home.wiring.circuits.every(({ id }) => home.outside.joins.some((join) => join.includes(`${id}.line`)))
    if (!supplied || !home.outside.lights.length) return { ok: false, why: 'suppliedBetween' }
    const circuits = home.wiring.circuits.map(({ id }) => id)
    if (ways.length * countPositions(home) * 2 ** circuits.length > most) return { ok: false, why: 'tooMany' }
    const said: Verdict[] = []
    const say: Say = (severity, code, text) => {
      const plain = inWords(text, boxes)
      if (!said.some((one) => one.text === plain)) said.push({ severity, code, text: plain })
    }
    const found: AsFoundBox = { ...boxes[0]!.found, circuits, cables: [], splices: [], oldSwitches: [] }
    const solved = solveStates(found, plan, wires, home, say)
    states += solved.states
    const rows = new Rows(solved.table)
    const moves: Judged['moves'] = (hand, lightId) =>
      solved.table.some((row) => {
        const other = rows.flipped(row, hand)
        return other !== undefined && row.lights[lightId] !== other.lights[lightId]
      })
    const actuators = actuatorsOf(home)
    const judged: Judged = { found, cables: [], plan, home, wires, rows, actuators, idle: [], moves, say }
    if (solved.table.length) {
      checkDevicesOfAll(judged)
      checkSwitchesOfAll(judged)
      checkLights(judged)
    }
    for (const one of said) {
      if (verdicts.some(({ text }) => text === one.text)) continue
      if (index === 0) verdicts.push(one)
      else if (one.severity === 'block')
        verdicts.push({ ...one, text: `${one.text} This is so if the conductors of one colour are the other way round: ring them out.` })
    }
  }
  const blocked = verdicts.some(({ severity }) => severity === 'block')
  return { ok: true, states, verdicts: blocked ? verdicts.filter(({ severity }) => severity !== 'good') : verdicts }
}
