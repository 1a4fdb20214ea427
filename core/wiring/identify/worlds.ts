import type { BoxIndex } from './box-index'
import { candidatesFor, type Candidate } from './candidates'
import type { WireReading, WireTest } from './found-box'
import { allowed, allowedBy, netsOf, type NetCache, type Nets } from './nets'
import type { WireRole } from './roles'
import { weighReadings, type Weighed } from './weigh'
import { jointsOf, workedAsFound } from './worked-as-found'

/** One arrangement of the whole box that is still possible. */
export interface World {
  candidates: Candidate[]
  /** Readings it does not agree with. */
  misfits: number[]
  weight: number
}

/** So many steps are tried for each arrangement that may be kept. */
const triesEach = 20
export interface Search {
  worlds: World[]
  /** All of them were looked at. */
  whole: boolean
}

/** Of each cable by itself: the ways it may run that disagree with at most `most` readings, likely ones first, and how many each disagrees with. */
function sieve(box: BoxIndex, weighed: Weighed[], most: number): { own: Candidate[][]; counts: number[][] } {
  const own: Candidate[][] = []
  const counts: number[][] = []
  for (let cable = 0; cable < box.found.cables.length; cable++) {
    const mine = (end: string) => end === 'REF' || box.cableOf[box.letters.indexOf(end)] === cable
    // With the old switches attached one cable is tied to others: such readings are judged in whole arrangements only.
    const tests = weighed.filter(({ test }) => !test.old && mine(test.a) && mine(test.b))
    const kept: Candidate[] = []
    const misfits: number[] = []
    for (const candidate of candidatesFor(box, cable)) {
      const byFar = new Map<string, Nets>()
      let count = 0
      for (const { test, outcome, count: times } of tests) {
        const key = test.far.join()
        let nets = byFar.get(key)
        if (!nets) byFar.set(key, (nets = netsOf(box, [candidate], test.far)))
        let tainted = 0
        box.shared.forEach((is, letter) => is && (tainted |= 1 << nets.metal[letter]!))
        tainted &= ~(1 << nets.metal[box.zeroNode]!)
        for (let circuit = 0; circuit < box.found.circuits.length; circuit++) tainted &= ~(1 << nets.metal[box.lineNode + circuit]!)
        if (!(allowed(box, nets, test, tainted) & outcome)) count += times
        if (count > most) break
      }
      if (count <= most) {
        kept.push(candidate)
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
export function searchWorlds(box: BoxIndex, readings: WireReading[], most: number, limit = 6_000): Search {
  const { weighed } = weighReadings(readings, box.found.nominalVolts)
  const { own, counts } = sieve(box, weighed, most)
  const worlds: World[] = []
  let whole = true
  let looked = 0
  const chosen: Candidate[] = []
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
      if (worlds.length >= limit) {
        whole = false
        return
      }
      worlds.push({
        candidates: [...chosen],
        misfits,
        weight: chosen.reduce((product, candidate) => product * candidate.weight, 1),
      })
      return
    }
    own[cable]!.forEach((candidate, index) => {
      // Counted at every step: most ways end in the middle.
      if (!whole || ++looked > limit * triesEach) {
        whole = false
        return
      }
      chosen.length = cable
      if (spent + counts[cable]![index]! > most) return
      chosen[cable] = candidate
      candidate.roles.forEach((role, at) => {
        roles[starts[cable]! + at] = role
        circuits[starts[cable]! + at] = candidate.circuits[at]!
      })
      if (workedAsFound(box, joints, chosen, roles, circuits, cable)) walk(cable + 1, spent + counts[cable]![index]!)
    })
    chosen.length = cable
  }
  walk(0, 0)
  return { worlds, whole }
}

/** Role and circuit of a letter in an arrangement, as one word: two arrangements agree when these are equal. */
export function roleIn(box: BoxIndex, world: World, letter: string): { role: WireRole; circuit: string | null } {
  const index = box.letters.indexOf(letter)
  const cable = box.cableOf[index]!
  const at = index - box.cableOf.indexOf(cable)
  const candidate = world.candidates[cable]!
  const circuit = candidate.circuits[at]!
  return { role: candidate.roles[at]!, circuit: circuit < 0 ? null : box.found.circuits[circuit]! }
}

/** What an arrangement says of a test, as bits. */
export const foretell = (box: BoxIndex, world: World, test: WireTest, cache: NetCache): number =>
  allowedBy(box, world.candidates, test, cache)
