import { terminalWords, type ConnectionOrder } from '../../connect'
import { magnitude } from '../circuit/complex-lu'
import { solveHome, type HomeSolution, type Light } from '../home'
import type { FoundBox } from '../identify/found-box'
import { isChangeover, loadTerminalOf } from '../terminal-model'
import { connectionList, pigtailsOf } from './connection-list'
import { elsewhereWords, rolesInPlan, type PlanWire } from './elsewhere'
import { checkCompanion, checkInputs, heardOf } from './hearing'
import type { KnownCable } from './outside'
import { deviceId, oldSwitchId, type PlannedDevice, type PlannedHome, type WiringPlan } from './plan'
import { everyPosition, handsOf, positionWords, Rows, type Hand } from './positions'

export const verdictCodes = [
  'works',
  'deadInState',
  'alwaysOn',
  'glowsWhenOff',
  'nobodySwitches',
  'noPower',
  'lineLoadSwapped',
  'short',
  'trips',
  'neutralOfOther',
  'circuitsTied',
  'groundAsNeutral',
  'leftBare',
  'outsideListing',
  'listingUnknown',
  'didNotSettle',
  'heard',
  'notHeard',
  'dryInputLive',
  'wrongChannel',
  'overChannel',
  'staysLive',
  'olderWay',
] as const
export interface Verdict {
  code: (typeof verdictCodes)[number]
  severity: 'good' | 'warn' | 'block'
  text: string
}
export type Say = (severity: Verdict['severity'], code: Verdict['code'], text: string) => void

/** One line of the table of functional tests: how everything stands, and what each light then does. */
export interface Prediction {
  positions: Record<string, number>
  words: string
  lights: Record<string, Light>
  /** Circuits whose breaker trips. */
  trips: string[]
  /** What devices that measure should show, watts. */
  metered: { gang: number; watts: number }[]
}
/** One state of the home, solved. */
export interface SolvedRow extends Omit<Prediction, 'words' | 'metered'> {
  home: HomeSolution
}
export interface Verification {
  verdicts: Verdict[]
  table: Prediction[]
  /** States that were looked at. */
  states: number
  /** Terminals of the devices (`gang1`) and of old switches that stay (`old1`), in order. */
  connections: { part: string; gang: number | null; terminal: string; letters: string[]; text: string }[]
  /** What is done at the other locations and at the fixtures. */
  elsewhere: string[]
  pigtails: { colour: string; gauge: string; length: string; use: string }[]
}

/**
 * Solves a plan in every combination of positions and says what is right and wrong with it.
 * @param metric lengths and gauges as the branch writes them
 */
export function verify(
  found: FoundBox,
  cables: KnownCable[],
  plan: WiringPlan,
  home: PlannedHome,
  options: { order: ConnectionOrder; metric: boolean; gauge: string },
): Verification {
  const verdicts: Verdict[] = []
  const say = (severity: Verdict['severity'], code: Verdict['code'], text: string) => {
    if (!verdicts.some((verdict) => verdict.text === text)) verdicts.push({ severity, code, text })
  }
  const wires = rolesInPlan(cables, plan, found.circuits[0]!)
  const roleOf = (letter: string) => wires.find((wire) => wire.letter === letter)?.role
  const table: SolvedRow[] = []
  const unpowered = new Map<string, number>()
  let states = 0
  /** Positions in which a breaker trips, other than at once. */
  const tripped = new Map<string, string[]>()
  let rowsSeen = 0
  for (const positions of everyPosition(home)) {
    states++
    rowsSeen++
    const answer = solveHome(home.wiring, { closed: found.circuits, positions })
    const words = positionWords(home, positions)
    if (!answer.ok) {
      say('block', 'didNotSettle', `${words || 'As drawn'}: ${answer.sentence}`)
      continue
    }
    const solution = answer.home
    const trips = solution.trips()
    for (const trip of trips)
      if (trip.why === 'short')
        say('block', 'short', `Short when energised: breaker ${trip.circuitId} trips at once${words ? ` (${words})` : ''}.`)
      else {
        const key = `${trip.circuitId} ${trip.why}`
        tripped.set(key, [...(tripped.get(key) ?? []), words])
      }
    if (!trips.some((trip) => trip.why === 'short')) checkReturns(solution, found.circuits, plan, wires, say)
    // One breaker open, the others closed: nothing of its circuit may be live, and what the others carry still comes home.
    for (const closed of partlyClosed(found.circuits)) {
      states++
      const partly = solveHome(home.wiring, { closed, positions })
      if (!partly.ok) continue
      checkReturns(partly.home, found.circuits, plan, wires, say)
      checkOpened(partly.home, found, say)
    }
    for (const device of home.devices)
      if ((device.model.supply || device.model.throughLoad) && !solution.powered(deviceId(device.gang)))
        unpowered.set(deviceId(device.gang), (unpowered.get(deviceId(device.gang)) ?? 0) + 1)
    table.push({
      positions,
      lights: Object.fromEntries(home.outside.lights.map((light) => [light.id, solution.light(light.id)])),
      trips: trips.map((trip) => trip.circuitId),
      home: solution,
    })
  }
  for (const [key, positions] of tripped) {
    const [circuit, why] = key.split(' ')
    const when = `in ${positions.length} of ${rowsSeen} positions, such as ${positions[0]}`
    say(
      'block',
      'trips',
      why === 'residual'
        ? `Breaker ${circuit} trips ${when}: current of its line comes back another way.`
        : `Breaker ${circuit} is overloaded ${when}.`,
    )
  }
  const rows = new Rows(table)
  const hands = handsOf(home)
  const moves = (hand: Hand, lightId: string) =>
    table.some((row) => {
      const other = rows.flipped(row, hand)
      return other !== undefined && row.lights[lightId] !== other.lights[lightId]
    })
  // Switches that move no light by themselves: heard by a device, or for nothing.
  const idle = hands.filter((hand) => !hand.model && home.outside.lights.every((light) => !moves(hand, light.id)))
  const nameOf = (device: PlannedDevice) => (home.devices.length > 1 ? `Gang ${device.gang}` : 'The device')
  for (const device of home.devices) {
    const name = nameOf(device)
    const at = plan.devices.find((one) => one.gang === device.gang)?.terminals ?? {}
    const swapped =
      at.line?.some((letter) => roleOf(letter) === 'load') && at.load?.some((letter) => ['line', 'lineOn'].includes(roleOf(letter) ?? ''))
    const dead = unpowered.get(deviceId(device.gang)) ?? 0
    if (swapped && !device.model.interchangeable) say('block', 'lineLoadSwapped', `${name}: line and load are exchanged.`)
    else if (dead === table.length && table.length) say('block', 'noPower', `${name} never has power: look at its line and its neutral.`)
    else if (dead) say('block', 'noPower', `${name} loses its power in ${dead} of ${table.length} positions.`)
    checkInputs(device, home, rows, hands, say, name)
    if (device.model.speaksTo === 'partner') checkCompanion(device, plan, wires, say, name)
  }
  for (const one of plan.kept) {
    const id = oldSwitchId(one.old)
    const hand = hands.find((candidate) => candidate.id === id)
    const used = home.devices.some((device) =>
      device.model.inputs.some((input) => hand && heardOf(device, input, rows, hand).some(Boolean)),
    )
    if ((!hand || idle.includes(hand)) && !used) say('block', 'notHeard', `Old switch ${one.old} does nothing: no input hears it.`)
  }
  for (const relay of home.relays) {
    const sender = home.devices.find((device) => device.gang === relay.gang)
    const input = sender?.model.inputs.find((one) => one.terminal === relay.input)
    const heard = sender && input && hands.some((hand) => !hand.model && heardOf(sender, input, rows, hand).every(Boolean))
    if (!heard)
      say('block', 'notHeard', `The relay at the fixture on ${relay.letter} is moved by no switch: its sender’s input hears none.`)
    if (table.length && table.some((row) => !row.home.powered(relay.id)))
      say('block', 'noPower', `The relay at the fixture on ${relay.letter} loses its power: splice line and ${relay.letter} for good.`)
    say('warn', 'staysLive', `The fixture on ${relay.letter} stays live when it is off: whoever opens it needs the breaker.`)
  }
  const elsewhereOnly = plan.elsewhere.some((other) => other.becomes === 'partner')
  const fedBy = new Map<string, { watts: number; lights: string[] }>()
  for (const light of home.outside.lights) {
    const on = table.filter((row) => row.lights[light.id] === 'on')
    const name = `The ${light.motor ? 'motor' : 'light'} on ${light.letter}`
    if (!table.length) continue
    if (on.length === table.length) {
      say('block', 'alwaysOn', `${name} is always on.`)
      continue
    }
    // Who moves it: channels of devices, relays, old switches, other switches.
    const movers = hands.filter((hand) => moves(hand, light.id))
    const mine = movers.filter((hand) => hand.model)
    if (!movers.length || (home.devices.length && !mine.length)) {
      // Switched at the other location: the bench of that box proves it.
      if (!elsewhereOnly) say('block', 'nobodySwitches', `${name} is dead: nothing switches it.`)
      continue
    }
    const part = home.outside.parts.find((one) => one.id === light.id)
    for (const hand of mine) {
      const key = `${hand.id} ${hand.bit}`
      const load = fedBy.get(key) ?? { watts: 0, lights: [] }
      load.watts += part && 'watts' in part ? part.watts : 0
      load.lights.push(light.id)
      fedBy.set(key, load)
      const terminal = loadTerminalOf(hand.model!, hand.bit)
      if (hand.model!.terminals.includes('fan') && (terminal === 'fan') !== (part?.kind === 'motor'))
        say(
          'block',
          'wrongChannel',
          part?.kind === 'motor' ? `${name} is a motor on a channel for lamps: it goes on fan.` : `${name} is a lamp on the fan’s channel.`,
        )
    }
    let wrong = 0
    let glowing = 0
    for (const row of table) {
      const here = row.lights[light.id]!
      const lit = here === 'on'
      const half = here === 'glow' || here === 'dim'
      if (half) glowing++
      for (const hand of mine) {
        if (isChangeover(hand.model!)) {
          // Two 3-ways: from every position of the others, exactly one side of this one lights it.
          const other = rows.flipped(row, hand)
          if (other && (other.lights[light.id] === 'on') === lit) wrong++
        } else if (((row.positions[hand.id]! >> hand.bit) & 1) !== Number(lit) && !half) wrong++
      }
    }
    if (wrong) say('block', 'deadInState', `${name} does not follow in ${wrong} of ${table.length} positions.`)
    if (glowing)
      say(
        'warn',
        'glowsWhenOff',
        `${name} glows or flickers in ${glowing} of ${table.length} positions: below the minimum load, or not dimmable.`,
      )
    if (!wrong && !glowing) say('good', 'works', `${name} works in ${table.length} of ${table.length} positions.`)
  }
  for (const device of home.devices)
    for (let channel = 0; channel < device.model.channels; channel++) {
      const load = fedBy.get(`${deviceId(device.gang)} ${channel}`)
      const amps = (load?.watts ?? 0) / found.nominalVolts
      if (device.model.channelAmps && amps > device.model.channelAmps)
        say(
          'block',
          'overChannel',
          `${nameOf(device)}: ${amps.toFixed(1)} A on ${terminalWords[loadTerminalOf(device.model, channel)!]}, its channel carries ${device.model.channelAmps} A.`,
        )
    }
  const meteredIn = (row: SolvedRow): Prediction['metered'] =>
    home.devices
      .filter((device) => device.model.metering)
      .map(({ gang }) => {
        const own = [...fedBy].filter(([key]) => key.startsWith(`${deviceId(gang)} `)).flatMap(([, load]) => load.lights)
        return { gang, watts: Math.round(own.reduce((sum, light) => sum + row.home.watts(light), 0)) }
      })
  for (const cable of cables)
    if (cable.course === 'farOlder' && !plan.elsewhere.some((other) => other.far === cable.far && other.becomes !== 'asItWas'))
      say(
        'block',
        'olderWay',
        'The other location is wired the older way, line and neutral on one switch: a dark lamp can have a live shell, and nothing new may be built on it. Let the licensed lead rewire it; what becomes of it is chosen below.',
      )
  checkEnds(plan, wires, say)
  return {
    verdicts,
    // Idle switches need no rows of their own.
    table: table
      .filter((row) => idle.every((hand) => row.positions[hand.id] === 0))
      .map((row) => {
        const { positions, lights, trips } = row
        const told = Object.fromEntries(Object.entries(positions).filter(([id]) => !idle.some((hand) => hand.id === id)))
        return { positions, words: positionWords(home, told), lights, trips, metered: meteredIn(row) }
      }),
    states,
    connections: connectionList(home, plan, options.order),
    elsewhere: elsewhereWords(cables, plan),
    pigtails: pigtailsOf(plan, wires, found.nominalVolts, options),
  }
}

/** The combinations of breakers in which some are open and some closed. */
function partlyClosed(circuits: string[]): string[][] {
  return Array.from({ length: 2 ** circuits.length }, (_, closed) => circuits.filter((__, index) => (closed >> index) & 1)).filter(
    (closed) => closed.length > 0 && closed.length < circuits.length,
  )
}

/** Current that comes home another way than by its own neutral. */
function checkReturns(solution: HomeSolution, circuits: string[], plan: WiringPlan, wires: PlanWire[], say: Say) {
  for (const circuit of circuits) {
    const residual = solution.residualAmps(circuit)
    // Who borrows shows where this circuit alone carries a load: its own neutral brings less back than its line sends out.
    const own = magnitude(solution.lineAmps(circuit))
    const alone = circuits.every((other) => other === circuit || magnitude(solution.lineAmps(other)) < 0.1 * own)
    const borrows = alone && own > magnitude(solution.neutralAmps(circuit))
    if (residual < 0.003 || !borrows) continue
    const lender = circuits.find((other) => other !== circuit && solution.residualAmps(other) > residual / 2)
    if (lender)
      say(
        'block',
        'neutralOfOther',
        `The neutral of circuit ${lender} carries the current of circuit ${circuit}. A neutral of another circuit is not yours to use.${returnHint(plan, wires, circuit)}`,
      )
    else say('block', 'groundAsNeutral', `The ground carries the current of circuit ${circuit}: it is used as a neutral.`)
  }
}

/** A line that stays live with its breaker open is fed by another circuit; a ghost would not hold against a low-impedance meter. */
function checkOpened(solution: HomeSolution, found: FoundBox, say: Say) {
  const { closed } = solution.setting
  for (const circuit of found.circuits)
    if (!closed.includes(circuit) && solution.metered(`${circuit}.line`, 'earth', 'low') > 0.2 * found.nominalVolts)
      say(
        'block',
        'circuitsTied',
        `With breaker ${circuit} open its line is still live, from circuit ${closed.join(' and ')}: whoever opens breaker ${circuit} would take it for dead.`,
      )
}

/** Where a light's neutral belongs: with the neutral of the circuit that feeds its load. */
function returnHint(plan: WiringPlan, wires: PlanWire[], circuit: string): string {
  const wireOf = (letter: string) => wires.find((wire) => wire.letter === letter)
  for (const { terminals } of plan.devices) {
    const all = Object.values(terminals).flat()
    if (!all.some((letter) => wireOf(letter)?.role === 'line' && wireOf(letter)?.circuit === circuit)) continue
    for (const load of all.filter((letter) => wireOf(letter)?.role === 'load')) {
      const back = wireOf(load)!.cable.wires.find((wire) => wire.role === 'neutralOn')?.letter
      const splice = plan.splices.find((one) => back && one.letters.includes(back))
      const own = wires.find((wire) => wire.role === 'neutral' && wire.circuit === circuit)?.letter
      if (back && own && splice && !splice.letters.includes(own)) return ` Lay ${back} with ${own}.`
    }
  }
  return ''
}

function checkEnds(plan: WiringPlan, wires: PlanWire[], say: Say) {
  const laid = [...plan.devices, ...plan.kept].flatMap(({ terminals }) => Object.values(terminals) as string[][])
  const placed = new Set([...plan.capped, ...plan.splices.flatMap((splice) => splice.letters), ...laid.flat()])
  for (const wire of wires)
    if (!placed.has(wire.letter)) say('block', 'leftBare', `${wire.letter} is left bare: cap it, also when it is spare.`)
  for (const splice of plan.splices) {
    const pigtails = laid.filter((letters) => letters.some((letter) => splice.letters.includes(letter))).length
    const jumpers = plan.jumpers.filter((jumper) => [jumper.from, jumper.to].some((end) => splice.letters.includes(end))).length
    const count = splice.letters.length + pigtails + jumpers
    const name = splice.letters.join(' + ')
    if (splice.holds !== null && count > splice.holds)
      say(
        'block',
        'outsideListing',
        `${name} with ${pigtails + jumpers} pigtail${pigtails + jumpers === 1 ? '' : 's'} is ${count} conductors; the connector is listed for ${splice.holds}.`,
      )
    else if (splice.holds === null)
      say('warn', 'listingUnknown', `${name}: look up what the connector is listed for, ${count} conductors here.`)
  }
  const shared = plan.splices.find(
    (splice) =>
      new Set(splice.letters.flatMap((letter) => wires.find((wire) => wire.letter === letter && wire.role === 'neutral')?.circuit ?? []))
        .size > 1,
  )
  if (shared) say('block', 'neutralOfOther', `Neutrals of two circuits are spliced together: ${shared.letters.join(' + ')}.`)
}
