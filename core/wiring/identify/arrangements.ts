import type { BoxIndex } from './box-index'
import { cableRunsFor, type CableRun } from './cable-runs'
import type { WireReading, WireTest } from './found-box'
import { allowed, allowedBy, netsOf, type NetCache, type Nets } from './nets'
import type { WireRole } from './roles'
import { weighReadings, type Weighed } from './weigh'
import { jointsOf, workedAsFound } from './worked-as-found'

/** One arrangement of the whole box that is still possible. */
export interface Arrangement {
  runs: CableRun[]
  /** Readings it does not agree with. */
  misfits: number[]
  weight: number
}

/** So many steps are tried for each arrangement that may be kept. */
const triesEach = 20
export interface Search {
  arrangements: Arrangement[]
  /** All of them were looked at. */
  whole: boolean
}

/** Of each cable by itself: the ways it may run that disagree with at most `most` readings, likely ones first, and how many each disagrees with. */
function sieve(box: BoxIndex, weighed: Weighed[], most: number): { own: CableRun[][]; counts: number[][] } {
  const own: CableRun[][] = []
  const counts: number[][] = []
  for (let cable = 0; cable < box.found.cables.length; cable++) {
    const mine = (end: string) => end === 'REF' || box.cableOf[box.letters.indexOf(end)] === cable
    // With the old switches attached one cable is tied to others: such readings are judged in whole arrangements only.
    const tests = weighed.filter(({ test }) => !test.old && mine(test.a) && mine(test.b))
    const kept: CableRun[] = []
    const misfits: number[] = []
    for (const run of cableRunsFor(box, cable)) {
      const byFar = new Map<string, Nets>()
      let count = 0
      for (const { test, outcome, count: times } of tests) {
        const key = test.far.join()
        let nets = byFar.get(key)
        if (!nets) byFar.set(key, (nets = netsOf(box, [run], test.far)))
        let tainted = 0
        box.shared.forEach((is, letter) => is && (tainted |= 1 << nets.metal[letter]!))
        tainted &= ~(1 << nets.metal[box.zeroNode]!)
        for (let circuit = 0; circuit < box.found.circuits.length; circuit++) tainted &= ~(1 << nets.metal[box.lineNode + circuit]!)
        if (!(allowed(box, nets, test, tainted) & outcome)) count += times
        if (count > most) break
      }
      if (count <= most) {
        kept.push(run)
        misfits.push(count)
      }
    }
    // The likely ones first: a search that has to be broken off has then seen those.
    const order = kept.map((_, index) => index).sort((x, y) => misfits[x]! - misfits[y]! || kept[y]!.weight - kept[x]!.weight)
    own.push(order.map((index) => kept[index]!))
    counts.push(order.map((index) => misfits[index]!))
  }
  return { own, counts }
}

/**
 * Every arrangement that disagrees with at most `most` readings.
 * @param limit stop after this many; then the search is not whole and nothing may be concluded from it
 */
export function searchArrangements(box: BoxIndex, readings: WireReading[], most: number, limit = 6_000): Search {
  const { weighed } = weighReadings(readings, box.found.nominalVolts)
  const { own, counts } = sieve(box, weighed, most)
  const arrangements: Arrangement[] = []
  let whole = true
  let looked = 0
  const chosen: CableRun[] = []
  const joints = jointsOf(box)
  const roles: WireRole[] = []
  const circuits: number[] = []
  const starts = box.found.cables.map((_, cable) => box.cableOf.indexOf(cable))
  const walk = (cable: number, spent: number) => {
    if (!whole) return
    if (cable === own.length) {
      const misfits: number[] = []
      let count = 0
      const cache: NetCache = new Map()
      for (let index = 0; index < weighed.length; index++) {
        const { test, outcome, count: times } = weighed[index]!
        if (allowedBy(box, chosen, test, cache) & outcome) continue
        misfits.push(index)
        if ((count += times) > most) return
      }
      if (arrangements.length >= limit) {
        whole = false
        return
      }
      arrangements.push({
        runs: [...chosen],
        misfits,
        weight: chosen.reduce((product, run) => product * run.weight, 1),
      })
      return
    }
    own[cable]!.forEach((run, index) => {
      // Counted at every step: most ways end in the middle.
      if (!whole || ++looked > limit * triesEach) {
        whole = false
        return
      }
      chosen.length = cable
      if (spent + counts[cable]![index]! > most) return
      chosen[cable] = run
      run.roles.forEach((role, at) => {
        roles[starts[cable]! + at] = role
        circuits[starts[cable]! + at] = run.circuits[at]!
      })
      if (workedAsFound(box, joints, chosen, roles, circuits, cable)) walk(cable + 1, spent + counts[cable]![index]!)
    })
    chosen.length = cable
  }
  walk(0, 0)
  return { arrangements, whole }
}

/** Role and circuit of a letter in an arrangement, as one word: two arrangements agree when these are equal. */
export function roleIn(box: BoxIndex, arrangement: Arrangement, letter: string): { role: WireRole; circuit: string | null } {
  const index = box.letters.indexOf(letter)
  const cable = box.cableOf[index]!
  const at = index - box.cableOf.indexOf(cable)
  const run = arrangement.runs[cable]!
  const circuit = run.circuits[at]!
  return { role: run.roles[at]!, circuit: circuit < 0 ? null : box.found.circuits[circuit]! }
}

/** What an arrangement says of a test, as bits. */
export const predict = (box: BoxIndex, arrangement: Arrangement, test: WireTest, cache: NetCache): number =>
  allowedBy(box, arrangement.runs, test, cache)
