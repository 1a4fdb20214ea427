import { Chance } from '../../chance'
import { identify, type WireFinding } from '../identify/identify'
import { nextTest } from '../identify/next-test'
import { isNeutral } from '../identify/roles'
import type { WireReading } from '../identify/found-box'
import { SimulatedMeter } from '../simulated-meter'
import { makeTrialBox, type TrialBox } from './strange-homes'

export interface TrialTally {
  boxes: number
  outside: number
  stopped: number
  /** Wrong line or neutral called established, in boxes with at most one wrong reading, and with more. */
  wrong: number
  wrongWithMore: number
  withMore: number
  /** Lines and neutrals called established, at any moment of a box, without live readings of the conductor itself that say so. */
  unread: number
  /** Conductors whose role a meter can tell, and those established. */
  roles: number
  rolesSettled: number
  /** Boxes of the list in which every such role was established. */
  insideDone: number
  inside: number
  insideStopped: number
  periods: number[]
  readings: number[]
  /** Readings against 1.5 for each conductor and 4. */
  readingsOver: number[]
  over: Record<string, number[]>
  /** Conductors called something else that they are not, neither line nor neutral. */
  wrongOther: number
  notes: string[]
}
const mostReadings = 160

/** Tries the identification on generated boxes, as a technician who does what it says. */
export function runTrials(
  seed: number,
  count: number,
  outsideShare = 0.12,
  make: (chance: Chance, outside: boolean) => TrialBox = makeTrialBox,
): TrialTally {
  const tally: TrialTally = {
    boxes: 0,
    outside: 0,
    stopped: 0,
    wrong: 0,
    wrongWithMore: 0,
    withMore: 0,
    unread: 0,
    roles: 0,
    rolesSettled: 0,
    insideDone: 0,
    inside: 0,
    insideStopped: 0,
    periods: [],
    readings: [],
    readingsOver: [],
    over: {},
    wrongOther: 0,
    notes: [],
  }
  for (let index = 0; index < count; index++) {
    const chance = new Chance(seed * 100_003 + index)
    const box = make(chance, chance.is(outsideShare))
    const meter = new SimulatedMeter(box.wiring, chance, 0.01, box.found)
    const readings: WireReading[] = []
    let energised = false
    let periods = 0
    let found = false
    while (readings.length < mostReadings) {
      const advice = nextTest(box.found, readings, energised)
      if (advice.done) {
        found = advice.found
        break
      }
      if (advice.next.energised && !energised) periods++
      energised = advice.next.energised
      for (const test of advice.next.tests) readings.push(meter.read(test))
      // On the way too: whoever looks at the bench half way reads what it says then. (Every tenth box: it takes its time.)
      if (index % 10 === 0) tally.unread += unread(identify(box.found, readings).wires, readings, box.found.nominalVolts)
    }
    const findings = identify(box.found, readings)
    tally.unread += unread(findings.wires, readings, box.found.nominalVolts)
    tally.boxes++
    const many = meter.misread > 1
    if (many) tally.withMore++
    for (const wire of findings.wires) {
      const truth = box.truth[wire.letter]!
      const called = wire.settled ?? wire.joint
      if (!called || !found) continue
      const vital = called.role === 'line' || isNeutral(called.role)
      const kind = wire.settled ? truth.role : (families[truth.role] ?? truth.role)
      const said = wire.settled ? called.role : (families[called.role] ?? called.role)
      const otherCircuit =
        called.role === 'line' && truth.circuit !== null && !(called.circuit ?? '').split(' and ').includes(truth.circuit)
      if (said === kind && !otherCircuit) continue
      if (!vital && truth.role !== 'line') tally.wrongOther++
      else if (many) tally.wrongWithMore++
      else tally.wrong++
      tally.notes.push(
        `${index}: ${box.story}: ${wire.letter} called ${called.role}, is ${truth.role}${many ? ' (several wrong readings)' : ''}`,
      )
    }
    if (box.outside) {
      tally.outside++
      if (!found) tally.stopped++
      else tally.notes.push(`${index}: not stopped: ${box.story}, ${meter.misread} wrong readings`)
      continue
    }
    tally.inside++
    if (!found) {
      tally.insideStopped++
      if (!many) tally.notes.push(`${index}: stopped: ${box.story}, ${meter.misread} wrong readings`)
    }
    tally.periods.push(periods)
    tally.readings.push(readings.length)
    tally.over[box.story] = [...(tally.over[box.story] ?? []), readings.length - 1.5 * findings.wires.length]
    tally.readingsOver.push(readings.length - 1.5 * findings.wires.length)
    // Two feeds spliced hot to hot and neutral to neutral are one metal: which of them brings the power, no meter tells.
    const open = findings.wires.filter(
      (wire) => wire.settled?.role !== box.truth[wire.letter]!.role && !sameMetal(wire, box.truth[wire.letter]!.role),
    )
    tally.roles += findings.wires.length
    tally.rolesSettled += findings.wires.length - open.length
    if (!open.length) tally.insideDone++
    else if (found && !many)
      tally.notes.push(
        `${index}: ${box.story}: open ${open.map((wire) => `${wire.letter} ${box.truth[wire.letter]!.role} [${wire.guesses.map((guess) => guess.role).join('/')}]`).join(', ')}`,
      )
  }
  return tally
}
/** What conductors of one joint share. */
const families: Record<string, string> = {
  line: 'line',
  lineOn: 'line',
  farCommon: 'line',
  neutral: 'neutral',
  sharedNeutral: 'neutral',
  neutralOn: 'neutral',
  load: 'load',
  loadOn: 'load',
}
const sameMetal = (wire: WireFinding, truth: string): boolean =>
  !wire.settled && wire.joint !== null && families[wire.joint.role] === families[truth]
/** The value below which a share of a list lies. */
export const quantile = (list: number[], share: number) => [...list].sort((a, b) => a - b)[Math.floor(list.length * share)] ?? 0
export const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0

/**
 * How many conductors are called line or neutral though no voltage above half the nominal was ever read at them, with a
 * breaker closed: a line at least twice, a neutral at least once.
 */
function unread(wires: WireFinding[], readings: WireReading[], nominalVolts: number): number {
  return wires.filter(({ letter, settled }) => {
    const own = readings.filter(
      ({ kind, a, b, closed, value }) =>
        kind.startsWith('voltage') && closed.length > 0 && [a, b].includes(letter) && value > nominalVolts / 2,
    )
    return own.length < (settled?.role === 'line' ? 2 : settled && isNeutral(settled.role) ? 1 : 0)
  }).length
}
