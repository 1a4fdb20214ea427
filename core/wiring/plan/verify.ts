import { connectionOrders, orderedTerminals, terminalWords, type ConnectionOrder } from '../../connect'
import type { TerminalKey } from '../../fit'
import { magnitude } from '../circuit/complex-lu'
import { solveHome, type Light } from '../home'
import type { FoundBox } from '../identify/found-box'
import type { KnownCable } from './outside'
import { deviceId, type PlannedHome, type WiringPlan } from './plan'

export const verdictCodes = [
  'works',
  'deadInState',
  'alwaysOn',
  'glowsWhenOff',
  'nobodySwitches',
  'noPower',
  'lineLoadSwapped',
  'short',
  'neutralOfOther',
  'groundAsNeutral',
  'leftBare',
  'outsideListing',
  'listingUnknown',
  'didNotSettle',
] as const
export interface Verdict {
  code: (typeof verdictCodes)[number]
  severity: 'good' | 'warn' | 'block'
  text: string
}
/** One line of the table of functional tests: how everything stands, and what each light then does. */
export interface Prediction {
  positions: Record<string, number>
  words: string
  lights: Record<string, Light>
  /** Circuits whose breaker trips. */
  trips: string[]
}
export interface Verification {
  verdicts: Verdict[]
  table: Prediction[]
  /** States that were looked at. */
  states: number
  connections: { terminal: TerminalKey; gang: number; letters: string[]; text: string }[]
  pigtails: { colour: string; gauge: string; length: string; use: string }[]
}

/** Everything that can be moved, in every combination. */
export function* everyPosition(home: PlannedHome): Generator<Record<string, number>> {
  const movable = home.wiring.parts.flatMap((part) =>
    part.kind === 'switch'
      ? [{ id: part.id, ways: 2 }]
      : part.kind === 'device' && part.model.channels
        ? [{ id: part.id, ways: 2 ** part.model.channels }]
        : [],
  )
  const total = movable.reduce((product, { ways }) => product * ways, 1)
  for (let index = 0; index < total; index++) {
    let rest = index
    const positions: Record<string, number> = {}
    for (const { id, ways } of movable) {
      positions[id] = rest % ways
      rest = Math.floor(rest / ways)
    }
    yield positions
  }
}
/** How everything stands, in words. */
export function positionWords(home: PlannedHome, positions: Record<string, number>): string {
  return home.wiring.parts
    .flatMap((part) => {
      const position = positions[part.id]
      if (position === undefined) return []
      if (part.kind === 'device') {
        const device = home.devices.find(({ gang }) => deviceId(gang) === part.id)
        const name = home.devices.length > 1 ? `gang ${device?.gang}` : 'device'
        return [
          `${name} ${part.model.contacts.some((contact) => contact.when === 0) ? (position ? 'on its second side' : 'on its first side') : position ? 'on' : 'off'}`,
        ]
      }
      const far = home.outside.farSwitches.indexOf(part.id)
      return [
        far >= 0
          ? `other switch${home.outside.farSwitches.length > 1 ? ` ${far + 1}` : ''} ${position ? 'down' : 'up'}`
          : `old switch ${position ? 'down' : 'up'}`,
      ]
    })
    .join(', ')
}

const same = (one: Record<string, number>, other: Record<string, number>, except: string) =>
  Object.keys(one).every((key) => key === except || one[key] === other[key])

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
  const wires = cables.flatMap((cable) => cable.wires)
  const roleOf = (letter: string) => wires.find((wire) => wire.letter === letter)?.role
  const table: Prediction[] = []
  const unpowered = new Map<string, number>()
  let states = 0
  for (const positions of everyPosition(home)) {
    states++
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
    for (const circuit of found.circuits) {
      const residual = solution.residualAmps(circuit)
      // Who borrows shows where this circuit alone carries a load: its own neutral brings less back than its line sends out.
      const own = magnitude(solution.lineAmps(circuit))
      const alone = found.circuits.every((other) => other === circuit || magnitude(solution.lineAmps(other)) < 0.1 * own)
      const borrows = alone && own > magnitude(solution.neutralAmps(circuit))
      if (residual < 0.003 || !borrows || trips.length) continue
      const lender = found.circuits.find((other) => other !== circuit && solution.residualAmps(other) > residual / 2)
      if (lender)
        say(
          'block',
          'neutralOfOther',
          `The neutral of circuit ${lender} carries the current of circuit ${circuit}. A neutral of another circuit is not yours to use.`,
        )
      else say('block', 'groundAsNeutral', `The ground carries the current of circuit ${circuit}: it is used as a neutral.`)
    }
    for (const device of home.devices)
      if ((device.model.supply || device.model.throughLoad) && !solution.powered(deviceId(device.gang)))
        unpowered.set(deviceId(device.gang), (unpowered.get(deviceId(device.gang)) ?? 0) + 1)
    table.push({
      positions,
      words,
      lights: Object.fromEntries(home.outside.lights.map((light) => [light.id, solution.light(light.id)])),
      trips: trips.map((trip) => trip.circuitId),
    })
  }
  for (const device of home.devices) {
    const name = home.devices.length > 1 ? `Gang ${device.gang}` : 'The device'
    const at = plan.devices.find((one) => one.gang === device.gang)?.terminals ?? {}
    const swapped =
      at.line?.some((letter) => roleOf(letter) === 'load') && at.load?.some((letter) => ['line', 'lineOn'].includes(roleOf(letter) ?? ''))
    const dead = unpowered.get(deviceId(device.gang)) ?? 0
    if (swapped && !device.model.interchangeable) say('block', 'lineLoadSwapped', `${name}: line and load are exchanged.`)
    else if (dead === table.length && table.length) say('block', 'noPower', `${name} never has power: look at its line and its neutral.`)
    else if (dead) say('block', 'noPower', `${name} loses its power in ${dead} of ${table.length} positions.`)
  }
  for (const light of home.outside.lights) {
    const on = table.filter((row) => row.lights[light.id] === 'on')
    const name = `The light on ${light.name}`
    if (!table.length) continue
    if (on.length === table.length) {
      say('block', 'alwaysOn', `${name} is always on.`)
      continue
    }
    // Who moves it: devices, old switches, other switches.
    const movers = Object.keys(table[0]!.positions).filter((id) =>
      table.some((row) =>
        table.some((other) => same(row.positions, other.positions, id) && row.lights[light.id] !== other.lights[light.id]),
      ),
    )
    const mine = home.devices.filter((device) => movers.includes(deviceId(device.gang)))
    if (!movers.length || (home.devices.length && !mine.length)) {
      say('block', 'nobodySwitches', `${name} is dead: nothing switches it.`)
      continue
    }
    let wrong = 0
    let glowing = 0
    for (const row of table) {
      const here = row.lights[light.id]!
      if (here === 'glow' || here === 'dim') glowing++
      for (const device of mine) {
        const id = deviceId(device.gang)
        const changeover = device.model.contacts.some((contact) => contact.when === 0)
        if (changeover) {
          // Two 3-ways: from every position of the others, exactly one side of this one lights it.
          const flipped = table.find((other) => other !== row && same(row.positions, other.positions, id))
          if (flipped && (flipped.lights[light.id] === 'on') === (here === 'on')) wrong++
        } else if ((row.positions[id] === 1) !== (here === 'on') && here !== 'glow' && here !== 'dim') wrong++
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
  checkEnds(plan, wires, say)
  return {
    verdicts,
    table,
    states,
    connections: connectionList(home, plan, options.order),
    pigtails: pigtailsOf(plan, wires, found.nominalVolts, options),
  }
}

function checkEnds(
  plan: WiringPlan,
  wires: KnownCable['wires'],
  say: (severity: Verdict['severity'], code: Verdict['code'], text: string) => void,
) {
  const placed = new Set([
    ...plan.capped,
    ...plan.splices.flatMap((splice) => splice.letters),
    ...plan.devices.flatMap((device) => Object.values(device.terminals).flat()),
  ])
  for (const wire of wires)
    if (!placed.has(wire.letter)) say('block', 'leftBare', `${wire.letter} is left bare: cap it, also when it is spare.`)
  for (const splice of plan.splices) {
    const pigtails = plan.devices
      .flatMap((device) => Object.values(device.terminals))
      .filter((letters) => letters?.some((letter) => splice.letters.includes(letter))).length
    const count = splice.letters.length + pigtails
    const name = splice.letters.join(' + ')
    if (splice.holds !== null && count > splice.holds)
      say(
        'block',
        'outsideListing',
        `${name} with ${pigtails} pigtail${pigtails === 1 ? '' : 's'} is ${count} conductors; the connector is listed for ${splice.holds}.`,
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

/** Terminals in the company's order, each with its conductors. */
function connectionList(home: PlannedHome, plan: WiringPlan, order: ConnectionOrder): Verification['connections'] {
  return plan.devices.flatMap((device) => {
    const model = home.devices.find(({ gang }) => gang === device.gang)?.model
    if (!model) return []
    return orderedTerminals(model.terminals, connectionOrders.includes(order) ? order : 'any').map((name) => {
      const letters = device.terminals[name] ?? []
      const splice = plan.splices.find((one) => letters.some((letter) => one.letters.includes(letter)))
      const text = !letters.length
        ? name.startsWith('traveler') || name === 'sense'
          ? `Leave the insulating tape on ${terminalWords[name]}.`
          : `Nothing on ${terminalWords[name]}.`
        : splice
          ? `Pigtail from ${splice.letters.join(' + ')} to ${terminalWords[name]}.`
          : letters.length > 1
            ? `${letters.join(' + ')} with a pigtail to ${terminalWords[name]}.`
            : `${letters[0]} to ${terminalWords[name]}.`
      return { terminal: name, gang: device.gang, letters, text }
    })
  })
}

/** Usual colours for a jumper of this use (NEC 200.6, 250.119; IEC 60445); installers pick freely for hot ones. */
function pigtailColour(role: string | undefined, nominalVolts: number): string {
  const na = nominalVolts < 160
  if (role === 'ground') return na ? 'green or bare' : 'green-yellow'
  if (role === 'neutral' || role === 'neutralOn') return na ? 'white' : 'blue'
  return na ? 'black' : 'brown'
}
/** Pigtails to cut: one for every terminal that is fed from a splice, or takes several conductors. Length: 6 in of free conductor (NEC 300.14); 150 mm by the same custom. */
function pigtailsOf(
  plan: WiringPlan,
  wires: KnownCable['wires'],
  nominalVolts: number,
  options: { metric: boolean; gauge: string },
): Verification['pigtails'] {
  return plan.devices.flatMap((device) =>
    (Object.entries(device.terminals) as [TerminalKey, string[]][]).flatMap(([name, letters]) => {
      if (!letters.length) return []
      const spliced = plan.splices.some((splice) => letters.some((letter) => splice.letters.includes(letter)))
      if (!spliced && letters.length < 2) return []
      return [
        {
          colour: pigtailColour(wires.find((wire) => wire.letter === letters[0])?.role, nominalVolts),
          gauge: options.gauge,
          length: options.metric ? '150 mm' : '6 in',
          use: `gang ${device.gang}, ${terminalWords[name]}`,
        },
      ]
    }),
  )
}
