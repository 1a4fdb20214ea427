import type { AsFoundBox } from './found-box'

/** A box by numbers: its letters in order, then each circuit's line, then zero. */
export interface BoxIndex {
  found: AsFoundBox
  letters: string[]
  cableOf: number[]
  lineNode: number
  zeroNode: number
  nodes: number
  /** Conductors that stay together: splices, and what shares a terminal. */
  joints: string[][]
  spliceOf: number[]
  /** Letters whose splice holds conductors of several cables. */
  shared: boolean[]
}

export function indexBox(found: AsFoundBox): BoxIndex {
  const letters = found.cables.flatMap((cable) => cable.cores.map((core) => core.letter))
  const cableOf = found.cables.flatMap((cable, index) => cable.cores.map(() => index))
  const joints = [
    ...found.splices,
    // Conductors on one old terminal stay one: the joint is kept with a pigtail.
    ...found.oldSwitches.flatMap((old) => Object.values(old.terminals).filter((group) => group.length > 1)),
  ]
  const spliceOf = letters.map((letter) => joints.findIndex((splice) => splice.includes(letter)))
  const shared = letters.map((_, index) => {
    const splice = spliceOf[index]!
    return splice >= 0 && letters.some((_, other) => spliceOf[other] === splice && cableOf[other] !== cableOf[index])
  })
  return {
    found,
    letters,
    cableOf,
    lineNode: letters.length,
    zeroNode: letters.length + found.circuits.length,
    nodes: letters.length + found.circuits.length + 1,
    joints,
    spliceOf,
    shared,
  }
}
