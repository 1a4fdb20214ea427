import { Chance } from '../../chance'
import type { AsFoundBox } from '../identify/found-box'
import type { Fault } from '../model'
import { diagnose, singleFaults } from '../plan/diagnose'
import type { KnownCable } from '../plan/outside'
import { homeOf, knownCables, proposePlan, type PlannedDevice, type PlannedHome } from '../plan/plan'
import { everyPosition } from '../plan/positions'
import { predictSeen, type Observation } from '../plan/seen'
import { verify } from '../plan/verify'
import { readBox } from '../practice/read-to-the-end'
import { SimulatedMeter } from '../simulated-meter'
import { terminalModel } from '../terminal-model'
import { makeTrialBox } from './strange-homes'

export interface DiagnosisTally {
  boxes: number
  faults: number
  /** The true fault's group is the first, among the first three; looked at once, and three times, each position. */
  first: Record<1 | 3, number>
  third: Record<1 | 3, number>
  notes: string[]
}

/** The devices somebody would choose for what is in this box. */
function chooseDevices(found: AsFoundBox, cables: KnownCable[], chance: Chance): PlannedDevice[] {
  const neutral = cables.some((cable) => cable.wires.some((wire) => wire.role === 'neutral'))
  const far = found.oldSwitches.some((old) => old.contacts === 'threeWay')
  const model = terminalModel(
    far
      ? {
          kind: 'dimmer',
          multiWay: 'commonTravelers',
          terminals: [...(neutral ? (['neutral'] as const) : []), 'common', 'traveler1', 'traveler2'],
        }
      : neutral && chance.is(0.3)
        ? { kind: 'relayModule', multiWay: 'single', terminals: ['neutral', 'load', 'line', 'sense'] }
        : { kind: 'switch', multiWay: 'single', terminals: [...(neutral ? (['neutral'] as const) : []), 'load', 'line'] },
  )
  return found.oldSwitches.map((_, index) => ({ gang: index + 1, name: 'device', model }))
}

/** A generated box, identified without mistakes, wired as proposed and proven; null when it is not one to wire. */
function wiredBox(chance: Chance): PlannedHome | null {
  const box = makeTrialBox(chance, false)
  const { findings } = readBox(box.found, new SimulatedMeter(box.wiring, chance, 0, box.found))
  const cables = knownCables(box.found, findings)
  if (!cables) return null
  const devices = chooseDevices(box.found, cables, chance)
  const loads = [{ technology: 'filament' as const, watts: 60 }]
  const plan = proposePlan(box.found, cables, devices, { loads })
  const home = homeOf(box.found, cables, plan, devices, loads)
  const { verdicts } = verify(box.found, cables, plan, home, { order: 'any', metric: false, gauge: '14 AWG' })
  return home.outside.lights.length && verdicts.every((verdict) => verdict.severity !== 'block') ? home : null
}

/** What is seen, with one look in fifty wrong. */
function look(truth: Observation[], times: 1 | 3, chance: Chance): Observation[] {
  const wrong = (row: Observation): Observation => ({
    ...row,
    lights: Object.fromEntries(Object.entries(row.lights).map(([id, light]) => [id, light === 'on' ? ('off' as const) : ('on' as const)])),
  })
  return Array.from({ length: times }, () => truth)
    .flat()
    .map((row) => (chance.is(0.02) ? wrong(row) : row))
}

/**
 * Tries the diagnosis on generated homes with one generated fault each.
 * A fault that shows in no light is none for this table; the true group is the one that predicts what the fault shows.
 */
export function runDiagnosis(seed: number, count: number): DiagnosisTally {
  const tally: DiagnosisTally = { boxes: 0, faults: 0, first: { 1: 0, 3: 0 }, third: { 1: 0, 3: 0 }, notes: [] }
  for (let index = 0; tally.boxes < count; index++) {
    const chance = new Chance(seed * 100_019 + index)
    const home = wiredBox(chance)
    if (!home) continue
    tally.boxes++
    const rows = [...everyPosition(home)]
    // Nobody tells a dim lamp from a glowing one.
    const told = (seen: Observation[]) => JSON.stringify(seen.map(({ lights, trips }) => [lights, trips])).replaceAll('"dim"', '"glow"')
    const shows = (faults: Fault[]) => told(predictSeen(home, faults, rows))
    const healthy = shows([])
    const visible = singleFaults(home).filter((fault) => shows([fault]) !== healthy)
    if (!visible.length) continue
    const fault = chance.pick(visible)
    const truth = predictSeen(home, [fault], rows)
    const pattern = told(truth)
    tally.faults++
    for (const times of [1, 3] as const) {
      const { groups } = diagnose(home, look(truth, times, chance))
      const rank = groups.findIndex((group) => shows(group.suspects[0]!.faults) === pattern)
      if (rank === 0) tally.first[times]++
      else if (times === 3) tally.notes.push(`${index}: ${fault.kind} at place ${rank + 1} of ${rows.length} positions`)
      if (rank >= 0 && rank < 3) tally.third[times]++
    }
  }
  return tally
}
