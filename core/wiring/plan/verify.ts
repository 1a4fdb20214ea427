import { schemeOf } from '../../units/scheme'
import type { ConnectionOrder } from '../../connect'
import { afterTrips } from '../home'
import type { AsFoundBox } from '../identify/found-box'
import { wholeChain } from '../identify/roles'
import { connectionList, pigtailsOf, type Connection, type Pigtail } from './connection-list'
import { otherLocationStepWords, rolesInPlan } from './other-locations'
import { checkConductors } from './conductors'
import { checkEnds } from './ends'
import { checkGrounds } from './grounds'
import { checkPaths } from './paths'
import { checkCompanion, checkInputs, checkKept, checkRelays } from './inputs'
import { checkChannels, checkLights, meteredIn } from './lights'
import type { KnownCable, LightLoad } from './outside'
import { deviceId, homeOf, type PlannedDevice, type PlannedHome, type WiringPlan } from './plan'
import { actuatorsOf, positionWords, Rows } from './positions'
import { seenIn } from './seen'
import { solveStates } from './states'
import { nameOfDevice, type Judged, type Prediction, type Say, type Verdict } from './verdicts'

export interface Verification {
  verdicts: Verdict[]
  table: Prediction[]
  /** States that were looked at. */
  states: number
  /** In the company's order. */
  connections: Connection[]
  /** What is done at the other locations and at the fixtures. */
  elsewhere: string[]
  pigtails: Pigtail[]
}

/**
 * Solves a plan in every combination of positions and breakers and says what is right and wrong with it.
 * @param metric lengths and gauges as the branch writes them
 */
export function verify(
  found: AsFoundBox,
  cables: KnownCable[],
  plan: WiringPlan,
  home: PlannedHome,
  options: { order: ConnectionOrder; metric: boolean; gauge: string },
): Verification {
  const verdicts: Verdict[] = []
  const na = schemeOf(found.nominalVolts) === 'na120'
  const say: Say = (severity, code, text, rule) => {
    if (verdicts.some((verdict) => verdict.text === text)) return
    verdicts.push({ severity, code, text, ...(rule && (na || !rule.startsWith('NEC')) ? { rule } : {}) })
  }
  const wires = rolesInPlan(cables, plan, found.circuits[0]!)
  const { table, states } = solveStates(found, plan, wires, home, say)
  const rows = new Rows(table)
  const moves: Judged['moves'] = (hand, lightId) =>
    table.some((row) => {
      const other = rows.flipped(row, hand)
      return other !== undefined && row.lights[lightId] !== other.lights[lightId]
    })
  const hands = actuatorsOf(home)
  const idle = hands.filter((hand) => !hand.model && home.outside.lights.every((light) => !moves(hand, light.id)))
  const judged: Judged = { found, cables, plan, home, wires, rows, actuators: hands, idle, moves, say }
  checkDevices(judged)
  checkKept(judged)
  checkRelays(judged)
  const loads = checkLights(judged)
  checkChannels(judged, loads)
  checkLostPlaces(judged)
  checkOlderWay(judged)
  checkEnds(judged)
  checkPaths(judged)
  checkGrounds(judged)
  checkConductors(judged)
  const trips = verdicts.some(({ code }) => code === 'short' || code === 'trips')
  return {
    // Nothing is said to work while a breaker trips.
    verdicts: verdicts.filter(({ code }) => !trips || code !== 'works'),
    // Idle switches need no rows of their own.
    table: table
      .filter((row) => idle.every((hand) => row.positions[hand.id] === 0))
      .map((row) => {
        const { positions } = row
        const ends = afterTrips(row.home)
        const stands = ends[0]!.home
        const told = Object.fromEntries(Object.entries(positions).filter(([id]) => !idle.some((hand) => hand.id === id)))
        const metered = stands ? meteredIn(judged, loads, stands) : []
        return { positions, words: positionWords(home, told), ...seenIn(home, ends), metered }
      }),
    states,
    connections: connectionList(home, plan, options.order),
    elsewhere: otherLocationStepWords(cables, plan),
    pigtails: pigtailsOf(plan, wires, found.nominalVolts, options),
  }
}

/**
 * Judges a plan by every arrangement that fits: what holds only if the power comes by one of two spliced cables does not hold.
 * @param ways the likeliest first; the table and the lists are its
 */
export function judge(
  found: AsFoundBox,
  ways: KnownCable[][],
  plan: WiringPlan,
  devices: PlannedDevice[],
  loads: LightLoad[],
  options: Parameters<typeof verify>[4],
): { home: PlannedHome; verification: Verification } {
  const of = (cables: KnownCable[]) => {
    const home = homeOf(found, cables, plan, devices, loads)
    return { home, verification: verify(found, cables, plan, home, options) }
  }
  const first = of(ways[0]!)
  const verdicts = [...first.verification.verdicts]
  for (const way of ways.slice(1))
    for (const verdict of of(way).verification.verdicts)
      if (verdict.severity === 'block' && !verdicts.some(({ code, severity }) => code === verdict.code && severity === 'block'))
        verdicts.push({
          ...verdict,
          text: `${verdict.text} This is so if the power comes in by the other of two spliced cables. Open that splice and read again, or keep it whole.`,
        })
  const blocked = verdicts.length > first.verification.verdicts.length
  return {
    home: first.home,
    verification: { ...first.verification, verdicts: blocked ? verdicts.filter(({ code }) => code !== 'works') : verdicts },
  }
}

/** Every device has its power in every position, the right way round, and hears what it listens to. */
function checkDevices({ plan, home, wires, rows, actuators: hands, say }: Judged) {
  const roleOf = (letter: string) => wires.find((wire) => wire.letter === letter)?.role ?? ''
  const total = rows.all.length
  for (const device of home.devices) {
    const name = nameOfDevice(home, device)
    const at = plan.devices.find((one) => one.gang === device.gang)?.terminals ?? {}
    const swapped =
      at.line?.some((letter) => roleOf(letter) === 'load') && at.load?.some((letter) => ['line', 'lineOn'].includes(roleOf(letter)))
    const electronics = Boolean(device.model.supply ?? device.model.throughLoad)
    const dead = electronics ? rows.all.filter((row) => !row.home.powered(deviceId(device.gang))).length : 0
    if (swapped && !device.model.interchangeable) say('block', 'lineLoadSwapped', `${name}: line and load are exchanged.`)
    else if (dead && dead === total) say('block', 'noPower', `${name} never has power: look at its line and its neutral.`)
    else if (dead) say('block', 'noPower', `${name} loses its power in ${dead} of ${total} positions.`)
    checkInputs(device, home, rows, hands, say, name)
    if (device.model.signals === 'partner') checkCompanion(device, plan, wires, say, name)
  }
}

/** A switch that goes without anything in its place is missed by whoever comes in by that door. */
function checkLostPlaces({ plan, say }: Judged) {
  for (const { far, becomes } of plan.elsewhere)
    if (becomes === 'through')
      say(
        'warn',
        'locationLost',
        `${far === wholeChain ? 'The other locations switch' : 'The other location switches'} nothing by wire any more: a companion without wires, or nothing, takes its place. Ask the customer.`,
      )
}

/** The older 3-way, line and neutral on one switch: only if it is rewired. */
function checkOlderWay({ cables, plan, say }: Judged) {
  for (const cable of cables)
    if (cable.run === 'farCarter' && !plan.elsewhere.some((other) => other.far === cable.far && other.becomes !== 'asItWas'))
      say(
        'block',
        'olderWay',
        'The other location is wired the older way, line and neutral on one switch: a dark lamp can have a live shell, and nothing new may be connected to it. Have the licensed lead rewire it; what becomes of it is chosen below.',
        'NEC 404.2(A)',
      )
}
