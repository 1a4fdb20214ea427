import type { BoxIndex } from './box-index'
import { colourHintRole, yearFactor } from './colour-prior'
import { runShapesWith, type RunShape } from './run-shapes'
import { isEarthMarked } from './found-box'
import type { RunKind, WireRole } from './roles'

/** One way a cable may run: which core is what, and what that ties to what. Nodes: letters, then each circuit's line, then zero. */
export interface CableRun {
  run: RunKind
  /** Circuit each core's line or neutral belongs to, else -1. */
  circuits: number[]
  roles: WireRole[]
  links: { a: number; b: number; kind: 'hard' | 'load' | 'maybe'; far: number; when: number }[]
  weight: number
}
function* permutations(count: number): Generator<number[]> {
  const order = Array.from({ length: count }, (_, index) => index)
  function* walk(at: number): Generator<number[]> {
    if (at === count) {
      yield [...order]
      return
    }
    for (let index = at; index < count; index++) {
      ;[order[at], order[index]] = [order[index]!, order[at]!]
      yield* walk(at + 1)
      ;[order[at], order[index]] = [order[index]!, order[at]!]
    }
  }
  yield* walk(0)
}

/** Every way one cable may run. */
export function cableRunsFor(box: BoxIndex, cableIndex: number): CableRun[] {
  const { found } = box
  const cores = found.cables[cableIndex]!.cores
  const start = box.cableOf.indexOf(cableIndex)
  const insulated = cores.flatMap((core, index) => (isEarthMarked(core.colour) ? [] : [index]))
  const all: CableRun[] = []
  const add = (shape: RunShape, order: number[], circuit: number, second: number, far: number) => {
    const roles: WireRole[] = cores.map((core) => (isEarthMarked(core.colour) ? 'ground' : 'spare'))
    const circuits = cores.map(() => -1)
    let weight = shape.prior * yearFactor(shape.run, found.wiredYear ?? null, found.nominalVolts)
    shape.slots.forEach((role, slot) => {
      const core = insulated[order[slot]!]!
      roles[core] = role
      if (role === 'line' || role === 'neutral') circuits[core] = role === 'line' && slot === 1 && second >= 0 ? second : circuit
      weight *= colourHintRole(cores[core]!.colour, role, found.nominalVolts)
    })
    const node = (end: RunShape['links'][0]['a']) =>
      end === 'zero'
        ? box.zeroNode
        : end === 'line'
          ? box.lineNode + circuit
          : end === 'line2'
            ? box.lineNode + second
            : start + insulated[order[end]!]!
    const links: CableRun['links'] = shape.links.map((link) => ({
      a: node(link.a),
      b: node(link.b),
      kind: link.kind,
      far: link.when === undefined ? -1 : far,
      when: link.when ?? 0,
    }))
    // The ground of a cable that brings the supply comes from the panel; of the others, through this box.
    if (shape.circuits > 0 || shape.run === 'farTravelersToLight')
      cores.forEach(
        (core, index) => isEarthMarked(core.colour) && links.push({ a: start + index, b: box.zeroNode, kind: 'hard', far: -1, when: 0 }),
      )
    all.push({ run: shape.run, roles, circuits, links, weight })
  }
  const ways = found.oldSwitches.some(({ contacts }) => contacts === 'fourWay') ? 2 : 3
  for (const shape of runShapesWith(insulated.length)) {
    if (shape.far && found.farSwitches === 0) continue
    const told = shape.circuits === 2 || shape.links.some((link) => link.when !== undefined)
    const known = new Set<string>()
    for (const order of permutations(insulated.length)) {
      // Spares of one cable are alike, and so are its loads; travelers are told apart by a far switch, lines by their circuit.
      const key = order
        .map((core, slot) => `${core} ${shape.slots[slot] === 'spare' || !told ? shape.slots[slot] : slot}`)
        .sort()
        .join()
      if (known.has(key)) continue
      known.add(key)
      for (let circuit = 0; circuit < (shape.circuits ? found.circuits.length : 1); circuit++)
        for (let second = circuit + 1; second < (shape.circuits === 2 ? found.circuits.length : circuit + 2); second++)
          // The end of a 4-way chain hangs on both other switches at once.
          for (let far = 0; far < (shape.far ? (found.farSwitches === 2 ? ways : 1) : 1); far++)
            add(shape, order, circuit, shape.circuits === 2 ? second : -1, far)
    }
  }
  return all
}
