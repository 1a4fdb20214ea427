import { boxesBehind } from './feeds'
import { judgeReading } from './reading'
import type { BoxState, Proof, SiteState } from './state'

/** The far end of every reading against the proven reference. */
export const REFERENCE = 'REF'

export interface RequiredPair {
  a: string
  b: string
  position: string
}

export interface PairStatus extends RequiredPair {
  /** dead: settled · repeatLow: high-impedance showed voltage, low impedance wanted · missing: no reading yet. */
  status: 'dead' | 'repeatLow' | 'missing'
}

/** Switch positions of the far control locations in which every pair is read. One empty name when there are none. */
export function farPositions(site: SiteState, box: BoxState): string[] {
  let positions = ['']
  for (const farId of box.farBoxIds) {
    const name = site.boxes[farId]?.name ?? 'far switch'
    positions = positions.flatMap((before) => ['up', 'down'].map((side) => (before ? `${before}, ${name} ${side}` : `${name} ${side}`)))
  }
  return positions
}

/**
 * Every conductor against the reference and all pairs, in each position of the far switches.
 * The box's own switch needs no position: the conductors on both its sides are read.
 */
export function requiredPairs(site: SiteState, box: BoxState, proof: Proof): RequiredPair[] {
  const letters = box.conductors.map((conductor) => conductor.letter)
  const pairs: RequiredPair[] = []
  for (const position of farPositions(site, box)) {
    for (const letter of letters) {
      if (letter !== proof.reference?.letter) pairs.push({ a: letter, b: REFERENCE, position })
    }
    for (let i = 0; i < letters.length; i++) {
      for (let j = i + 1; j < letters.length; j++) {
        // When the box's own ground is the reference, pairs with it are the readings above.
        if (letters[i] === proof.reference?.letter || letters[j] === proof.reference?.letter) continue
        pairs.push({ a: letters[i]!, b: letters[j]!, position })
      }
    }
  }
  return pairs
}

export function samePair(x: RequiredPair, y: RequiredPair): boolean {
  return x.position === y.position && ((x.a === y.a && x.b === y.b) || (x.a === y.b && x.b === y.a))
}

export function pairStatuses(site: SiteState, box: BoxState, proof: Proof): PairStatus[] {
  return requiredPairs(site, box, proof).map((pair) => {
    const last = proof.readings.findLast((reading) => samePair(reading, pair))
    if (!last) return { ...pair, status: 'missing' }
    const { verdict } = judgeReading(last.volts, last.impedance)
    return { ...pair, status: verdict === 'dead' ? 'dead' : 'repeatLow' }
  })
}

/** Proofs that live or are being made in one of these boxes. */
export function proofsIn(site: SiteState, boxes: Iterable<BoxState>): Proof[] {
  const ids = new Set([...boxes].map((box) => box.id))
  return Object.values(site.proofs).filter((proof) => proof.status !== 'void' && ids.has(proof.boxId))
}

export function proofsBehind(site: SiteState, breakerId: string): Proof[] {
  return proofsIn(site, boxesBehind(site, breakerId))
}

/** The people a sign of voltage must reach at once: provers, witnesses and owners of tags on the way. */
export function peopleAtRisk(site: SiteState, proofs: Proof[], breakerIds: string[]): string[] {
  const people = new Set<string>()
  for (const proof of proofs) {
    people.add(proof.personId)
    for (const witness of proof.witnesses) people.add(witness.personId)
  }
  for (const tag of Object.values(site.tags)) if (breakerIds.includes(tag.breakerId)) people.add(tag.personId)
  return [...people]
}
