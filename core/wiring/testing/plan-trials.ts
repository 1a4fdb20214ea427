import { Chance } from '../../chance'
import { closeEverything, solveHome, type HomeSolution } from '../home'
import type { AsFoundBox } from '../identify/found-box'
import type { Wiring } from '../model'
import { placeConductor, type PlaceTarget } from '../plan/edit'
import { rebuiltOutside } from '../plan/other-locations'
import type { KnownCable } from '../plan/outside'
import { deviceId, knownWays, laidIn, proposePlan, type PlannedDevice, type WiringPlan } from '../plan/plan'
import { judge } from '../plan/verify'
import { readBox } from '../practice/read-to-the-end'
import { SimulatedMeter } from '../simulated-meter'
import { terminalModel } from '../terminal-model'
import type { TrialBox } from './strange-homes'
import { makeWiderBox } from './wider-homes'

export interface PlanTally {
  boxes: number
  plans: number
  /** Plans that nothing was said against. */
  passed: number
  /** Of them, plans that hurt or disappoint in the truly wired home. */
  wrong: string[]
  /** Plans somebody could live with that were refused all the same. */
  refused: string[]
  /** Boxes whose first proposal nothing was said against. */
  proposalsPassed: number
}

/** Something a company might choose for these old switches. */
export function chooseDevices(found: AsFoundBox, cables: KnownCable[], chance: Chance): PlannedDevice[] {
  const neutral = cables.some((cable) => cable.wires.some((wire) => wire.role === 'neutral' || wire.role === 'sharedNeutral'))
  const ground = chance.is(0.8) ? (['ground'] as const) : []
  const far = found.oldSwitches.some((old) => old.contacts === 'threeWay' || old.contacts === 'fourWay')
  const own = neutral && chance.is(0.9) ? (['neutral'] as const) : []
  const kind = chance.next()
  const model = terminalModel(
    far && kind < 0.3
      ? { kind: 'dimmer', multiWay: 'commonTravelers', terminals: [...ground, ...own, 'common', 'traveler1', 'traveler2'] }
      : far && kind < 0.7
        ? { kind: 'switch', multiWay: 'sensedTraveler', terminals: [...ground, ...own, 'load', 'line', 'sense'] }
        : { kind: 'switch', multiWay: 'single', terminals: [...ground, ...own, 'load', 'line'] },
  )
  return found.oldSwitches.map((_, index) => ({ gang: index + 1, name: 'device', model }))
}

/** The true home with a plan carried out in it. */
export function carriedOut(box: TrialBox, cables: KnownCable[], plan: WiringPlan, devices: PlannedDevice[]): Wiring {
  const { joins, kept } = laidIn(box.found, plan)
  const shared = Object.values(box.truth).some(({ role }) => role === 'sharedNeutral')
  const apart = box.wiring.joins.filter((join) => !join.every((point) => point.endsWith('.near') || point === 'earth'))
  const farSwitches = box.wiring.parts.filter((part) => part.id.startsWith('far')).map((part) => part.id)
  const { outside } = rebuiltOutside({ parts: box.wiring.parts, joins: apart, lights: [], farSwitches }, plan, cables)
  return {
    ...box.wiring,
    // What watches each circuit shows current that comes home another way; on a shared neutral it would always trip.
    circuits: box.wiring.circuits.map((circuit) => ({ ...circuit, amps: 60, guard: shared ? 'none' : 'residualCurrent' })),
    joins: [...outside.joins, ...joins],
    parts: [
      ...devices.map((device) => ({ id: deviceId(device.gang), kind: 'device' as const, model: device.model })),
      ...kept,
      ...outside.parts,
    ],
  }
}

/** Everything that can stand one way or another in a wiring. */
function* positionsOf(wiring: Wiring): Generator<Record<string, number>> {
  const movable = wiring.parts.flatMap((part) =>
    part.kind === 'switch' ? [{ id: part.id, ways: 2 }] : part.kind === 'device' && part.model.channels ? [{ id: part.id, ways: 2 }] : [],
  )
  for (let index = 0; index < 2 ** movable.length; index++) yield Object.fromEntries(movable.map(({ id }, at) => [id, (index >> at) & 1]))
}

/**
 * What is wrong with a home in which a plan was carried out: told from the true wiring alone, by what a person would meet.
 * Null: nothing.
 */
export function hurts(box: TrialBox, wiring: Wiring, plan: WiringPlan, devices: PlannedDevice[]): string | null {
  const lamps = wiring.parts.flatMap((part) => (part.kind === 'lamp' || part.kind === 'motor' ? [part.id] : []))
  const letters = Object.keys(box.truth)
  const rows = [...positionsOf(wiring)]
  const seen = new Map<string, string[]>(lamps.map((id) => [id, []]))
  const groundAtPanel = wiring.joins.some(
    (join) => join.includes('earth') && join.some((point) => box.truth[point.split('.')[0]!]?.role === 'ground'),
  )
  for (const positions of rows) {
    const ends = closeEverything(wiring, positions)
    if (ends.length > 1 || ends[0]!.trips.length) return `breaker ${ends[0]!.trips.join('+')} trips`
    const home = ends[0]!.home
    if (!home) return 'does not settle'
    for (const id of lamps) {
      const light = home.light(id)
      seen.get(id)!.push(light)
      if (light !== 'on' && home.metered(`${id}:cold`, 'earth', 'low') > 0.4 * wiring.nominalVolts)
        return `shell of ${id} is live while it is off`
    }
    const metal = metalTrouble(box, wiring, home, letters, devices, groundAtPanel)
    if (metal) return metal
  }
  for (const circuit of wiring.circuits) {
    const others = wiring.circuits.filter((other) => other !== circuit).map((other) => other.id)
    if (!others.length) continue
    const answer = solveHome(wiring, { closed: others, positions: rows[0]! })
    if (answer.ok && answer.home.metered(`${circuit.id}.line`, 'earth', 'low') > 0.2 * wiring.nominalVolts)
      return `circuit ${circuit.id} is live with its breaker open`
  }
  for (const [id, states] of seen) {
    if (id.startsWith('else')) {
      if (states.some((state) => state !== 'on')) return `${id}, elsewhere on the circuit, goes off`
      continue
    }
    const hot = wiring.joins.find((join) => join.includes(`${id}:hot`))
    const feeder = hot?.map((point) => box.truth[point.split('.')[0]!]).find(Boolean)
    if (feeder?.role === 'lineOn') {
      if (states.some((state) => state !== 'on')) return `${id}, fed onward, goes off`
    } else if (new Set(states).size < 2) return `${id} is always ${states[0]}`
  }
  return null
}

function metalTrouble(
  box: TrialBox,
  wiring: Wiring,
  home: HomeSolution,
  letters: string[],
  devices: PlannedDevice[],
  groundAtPanel: boolean,
): string | null {
  if (groundAtPanel)
    for (const letter of letters)
      if (box.truth[letter]!.role === 'ground' && !home.touching(`${letter}.near`, 'earth')) return `ground ${letter} is open`
  for (const letter of letters)
    if (box.truth[letter]!.role !== 'ground' && home.touching(`${letter}.near`, 'earth')) return `${letter} is on ground`
  for (const { gang, model } of devices) {
    const id = deviceId(gang)
    if (groundAtPanel && model.terminals.includes('ground') && !home.touching(`${id}:ground`, 'earth')) return `${id} has no ground`
    if (!home.powered(id)) return `${id} has no power`
    if (!model.terminals.includes('neutral')) continue
    const fed = wiring.circuits.filter((circuit) =>
      (model.supply?.from ?? []).some((from) => home.touching(`${id}:${from}`, `${circuit.id}.line`)),
    )
    if (fed.length && !fed.some((circuit) => home.touching(`${id}:neutral`, `${circuit.id}.neutral`)))
      return `${id} returns by something that is not its neutral`
  }
  return null
}

/** Somebody lays one or two ends otherwise than proposed. */
export function spoiled(plan: WiringPlan, box: TrialBox, chance: Chance): WiringPlan {
  let copy = plan
  const letters = Object.keys(box.truth)
  for (let times = 1 + chance.int(2); times > 0; times--) {
    const terminals = copy.devices.flatMap(({ gang, terminals: on }) => Object.keys(on).map((key) => ({ part: deviceId(gang), key })))
    const targets: PlaceTarget[] = [
      ...terminals.map((one) => ({ kind: 'terminal' as const, ...one })),
      ...copy.splices.map((_, index) => ({ kind: 'splice' as const, index })),
      { kind: 'letter', letter: chance.pick(letters) },
      { kind: 'cap' },
    ]
    copy = placeConductor(copy, chance.pick(letters), chance.pick(targets))
  }
  return copy
}

/** Proposals, and plans somebody spoiled, for generated homes: what is said of them against what happens in the true home. */
export function runPlanTrials(seed: number, count: number, spoils = 6): PlanTally {
  const tally: PlanTally = { boxes: 0, plans: 0, passed: 0, wrong: [], refused: [], proposalsPassed: 0 }
  for (let index = 0; index < count; index++) {
    const chance = new Chance(seed * 100_057 + index)
    const box = makeWiderBox(chance, false)
    const { findings, found } = readBox(box.found, new SimulatedMeter(box.wiring, chance, 0, box.found))
    const ways = found ? knownWays(box.found, findings) : null
    if (!ways) continue
    const cables = ways[0]!
    tally.boxes++
    const devices = chooseDevices(box.found, cables, chance)
    const loads = [{ technology: 'filament' as const, watts: 60 }]
    const proposal = proposePlan(box.found, cables, devices, { loads })
    for (let spoil = 0; spoil <= spoils; spoil++) {
      const plan = spoil ? spoiled(proposal, box, chance) : proposal
      const { verification } = judge(box.found, ways, plan, devices, loads, { order: 'any', metric: false, gauge: '14 AWG' })
      const blocks = verification.verdicts.filter(({ severity }) => severity === 'block')
      tally.plans++
      const trouble = hurts(box, carriedOut(box, cables, plan, devices), plan, devices)
      const word = `${index}.${spoil} ${box.story}`
      if (!blocks.length) {
        tally.passed++
        if (!spoil) tally.proposalsPassed++
        if (trouble) tally.wrong.push(`${word}: ${trouble}`)
      } else if (!trouble) tally.refused.push(`${word}: ${blocks.map(({ code }) => code).join(', ')}`)
    }
  }
  return tally
}
