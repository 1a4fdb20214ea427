import type { BoxIndex } from './box-index'
import type { CableRun } from './cable-runs'
import type { AsFoundBox } from './found-box'
import { isNeutral, wholeChain, type WireRole } from './roles'

/** Which joint a role may be part of, as bits. */
const hot = 1
const switched = 2
const neutral = 4
const traveler = 16
const families: Record<WireRole, number> = {
  line: hot,
  lineOn: hot,
  farCommon: hot | switched,
  load: switched,
  neutral,
  sharedNeutral: neutral,
  neutralOn: neutral,
  loadOn: switched,
  ground: 8,
  traveler,
  spare: 0,
}

/** The joints of a box as it was found, as letter numbers. */
export interface Joints {
  groups: number[][]
  /** All letters that are one metal with a letter, itself included; empty: on no splice and no terminal. */
  metal: number[][]
  old: { contacts: AsFoundBox['oldSwitches'][0]['contacts']; on: Record<string, number[]> }[]
  /** Letters that are one metal with a terminal of an old switch; of one that is no single-pole, 3-way or 4-way. */
  onOld: Set<number>
  twoPole: Set<number>
}
export function jointsOf(box: BoxIndex): Joints {
  const { found } = box
  const number = (letter: string) => box.letters.indexOf(letter)
  const groups = [
    ...found.splices,
    ...found.oldSwitches.flatMap((old) => Object.values(old.terminals).filter((group) => group.length)),
  ].map((group) => group.map(number))
  const metal = box.letters.map((_, letter) => [...new Set(groups.filter((group) => group.includes(letter)).flat())])
  const old = found.oldSwitches.map(({ contacts, terminals }) => ({
    contacts,
    on: Object.fromEntries(
      Object.entries(terminals).map(([name, group]) => [name, [...new Set(group.flatMap((letter) => metal[number(letter)]!))]]),
    ),
  }))
  const lettersOn = (some: typeof old) => new Set(some.flatMap(({ on }) => Object.values(on).flat()))
  return { groups, metal, old, onOld: lettersOn(old), twoPole: lettersOn(old.filter(({ contacts }) => contacts === 'other')) }
}

/** Does every other switch hang on a cable of this box, alone or in a chain, where any does? */
function reachesEveryOther(box: BoxIndex, chosen: readonly CableRun[]): boolean {
  const led = new Set(chosen.flatMap(({ links }) => links.filter(({ far }) => far >= 0).map(({ far }) => far)))
  return (
    led.size === 0 || led.has(wholeChain) || Array.from({ length: box.found.farSwitches }, (_, far) => far).every((far) => led.has(far))
  )
}

/**
 * Would the box have worked as it was found, if its conductors were these?
 * @param upTo the last cable that is laid; what the others are is not asked yet
 */
export function workedAsFound(
  box: BoxIndex,
  joints: Joints,
  chosen: readonly CableRun[],
  roles: WireRole[],
  circuits: number[],
  upTo: number,
): boolean {
  const laid = (letter: number) => box.cableOf[letter]! <= upTo
  const familyOf = (letters: number[]) =>
    letters.reduce((common, letter) => (laid(letter) ? common & families[roles[letter]!] : common), 31)
  for (const group of joints.groups) {
    if (!familyOf(group)) return false
    let circuit = -1
    for (const letter of group) {
      if (!laid(letter) || roles[letter] !== 'line') continue
      if (circuit >= 0 && circuits[letter] !== circuit) return false
      circuit = circuits[letter]!
    }
  }
  for (const { contacts, on } of joints.old) {
    const one = (name: string, wanted: number) => !on[name]?.length || (familyOf(on[name]) & wanted) !== 0
    if (contacts === 'single') {
      if (!(one('a', hot) && one('b', switched)) && !(one('b', hot) && one('a', switched))) return false
    } else if (contacts === 'threeWay') {
      const usual = one('common', hot | switched) && one('t1', traveler) && one('t2', traveler)
      const older = one('common', switched) && ((one('t1', hot) && one('t2', neutral)) || (one('t2', hot) && one('t1', neutral)))
      const tied = one('common', traveler) && ((one('t1', hot) && one('t2', switched)) || (one('t2', hot) && one('t1', switched)))
      if (!usual && !older && !tied) return false
    } else if (contacts === 'fourWay' && !['a1', 'a2', 'b1', 'b2'].every((name) => one(name, traveler))) return false
  }
  if (!box.found.complete) return true
  const last = upTo === box.found.cables.length - 1
  if (last && !reachesEveryOther(box, chosen)) return false
  for (let letter = 0; letter < roles.length; letter++) {
    if (!laid(letter)) continue
    const role = roles[letter]!
    const metal = joints.metal[letter]!
    if (role === 'spare' && metal.length) return false
    if (['load', 'loadOn', 'traveler', 'farCommon'].includes(role) && !metal.length) return false
    // Both poles go over a two-pole control.
    if (chosen[box.cableOf[letter]!]!.run.startsWith('twoPole') && role !== 'ground' && !joints.twoPole.has(letter)) return false
    if (!last) continue
    // With tied commons the second switch has the light to itself.
    const end = chosen[box.cableOf[letter]!]!.run === 'farStrapsEnd'
    if (end && role === 'load' && metal.some((other) => other !== letter && roles[other] === 'load')) return false
    // A light is switched here, or at the other location.
    if (role === 'load' && !metal.some((other) => joints.onOld.has(other) || roles[other] === 'farCommon')) return false
    if (role === 'neutralOn' && !metal.some((other) => isNeutral(roles[other]!))) return false
    if (role === 'lineOn' && !metal.some((other) => roles[other] === 'line')) return false
  }
  return true
}
