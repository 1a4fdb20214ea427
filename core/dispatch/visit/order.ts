/** A box that a visit works at. */
export interface VisitBox {
  id: string
  /** Open, prove, work, close. */
  minutes: number
  /** Circuits that have to be off for it. */
  breakers: readonly string[]
  /** Boxes that switch a light together with it. */
  mates: readonly string[]
  /** Joining and testing what sits in it, with the power back on. */
  after: number
  /** Its room has no light while its circuits are off. */
  dark: boolean
  roomId: string
}
export interface VisitWork {
  boxes: readonly VisitBox[]
  /** People who open boxes; an apprentice works beside one. */
  people: number
  /** Minutes after the beginning at which it gets dark; null: not that day. */
  darkAt: number | null
}
export interface VisitRun {
  /** In the order they are begun; minutes after the beginning. */
  steps: { box: number; person: number; from: number; to: number }[]
  /** Joining and testing, once the power is back. */
  after: { box: number; person: number; from: number; to: number }[]
  /** Each circuit is off once. */
  offs: { breaker: string; from: number; to: number }[]
  end: number
}

/** From one room to another with tools, minutes. Common practice, no source. */
const walkMinutes = 2
/** To the panel, open, tag and prove; and close again with whoever is there told. Common practice, no source. */
const openMinutes = 5
const closeMinutes = 3

/**
 * Plays a visit in an order of its boxes. Whoever is free first takes the next box; a circuit goes off with its first box and
 * comes back after its last one, so each is off once; whoever frees the last circuit of a box joins and tests what sits in it
 * while others go on.
 */
export function playVisit({ boxes, people }: VisitWork, order: readonly number[]): VisitRun {
  const free = Array.from({ length: Math.max(1, people) }, () => 0)
  const rooms: (string | null)[] = free.map(() => null)
  const left = new Map<string, number>()
  for (const { breakers } of boxes) for (const breaker of breakers) left.set(breaker, (left.get(breaker) ?? 0) + 1)
  const off = new Map<string, { from: number; to: number }>()
  const steps: VisitRun['steps'] = []
  const after: VisitRun['after'] = []
  /** Boxes that are closed and wait for their power. */
  const waiting = new Set<number>()
  for (const box of order) {
    const { minutes, breakers, roomId } = boxes[box]!
    const person = free.indexOf(Math.min(...free))
    const walk = rooms[person] === roomId ? 0 : walkMinutes
    const fresh = breakers.filter((one) => !off.has(one))
    const from = free[person]! + walk
    const to = from + (fresh.length ? openMinutes : 0) + minutes
    for (const one of fresh) off.set(one, { from, to })
    for (const one of breakers) {
      const span = off.get(one)!
      // Two begin on one circuit at once: it is off from when the first of them is there.
      off.set(one, { from: Math.min(span.from, from), to: Math.max(span.to, to) })
      left.set(one, left.get(one)! - 1)
    }
    steps.push({ box, person, from, to })
    waiting.add(box)
    rooms[person] = roomId
    free[person] = to
    const closing = breakers.filter((one) => left.get(one) === 0)
    if (closing.length || !breakers.length) {
      // Another one may still be at work on the same circuit.
      const until = Math.max(to, ...closing.map((one) => off.get(one)!.to)) + (closing.length ? closeMinutes : 0)
      for (const one of closing) off.set(one, { ...off.get(one)!, to: until })
      let at = until
      for (const ready of [...waiting]) {
        if (boxes[ready]!.breakers.some((one) => left.get(one)! > 0)) continue
        waiting.delete(ready)
        if (!boxes[ready]!.after) continue
        // A mate may still be at work on one of its circuits.
        at = Math.max(at, ...boxes[ready]!.breakers.map((one) => off.get(one)!.to))
        after.push({ box: ready, person, from: at, to: at + boxes[ready]!.after })
        at += boxes[ready]!.after
      }
      free[person] = at
    }
  }
  return {
    steps,
    after,
    offs: [...off].map(([breaker, span]) => ({ breaker, ...span })),
    end: Math.max(0, ...free),
  }
}

/** A minute of one circuit off is the measure. A choice of ours, no source. */
const weights = { end: 0.5, dark: 2, apart: 12 }

/** What an order costs the household and the crew, in minutes of a circuit that is off. */
export function costOfVisit(work: VisitWork, order: readonly number[]): number {
  const run = playVisit(work, order)
  const at = new Map(run.steps.map((step) => [step.box, step]))
  const indexOf = new Map(work.boxes.map(({ id }, index) => [id, index]))
  let cost = run.end * weights.end
  for (const { from, to } of run.offs) cost += to - from
  const { darkAt } = work
  if (darkAt !== null)
    for (const { box, from, to } of run.steps) if (work.boxes[box]!.dark) cost += weights.dark * Math.max(0, to - Math.max(from, darkAt))
  // The far box of a light belongs in hand with the near one: between them nobody goes anywhere else.
  work.boxes.forEach(({ mates }, box) => {
    for (const id of mates) {
      const mate = indexOf.get(id)
      if (mate === undefined || mate < box) continue
      const [first, second] = [at.get(box)!, at.get(mate)!].sort((a, b) => a.from - b.from)
      cost += Math.min(1, Math.max(0, second!.from - first!.to - walkMinutes - openMinutes) / 10) * weights.apart
    }
  })
  return cost
}

/** Up to so many boxes every order is looked at; beyond, so many of them. */
const exactUpTo = 6
const mostLooked = 8_000

/**
 * The order of the boxes of a visit in which circuits are off for the shortest time, each once; rooms that lose their light come
 * before dark, boxes of one light one after the other. Every order up to six boxes; beyond, the best that moving one or turning a
 * stretch finds from several beginnings.
 * @param most Orders that are looked at, where not all are.
 */
export function orderOfVisit(work: VisitWork, most = mostLooked): { order: number[]; run: VisitRun; cost: number } {
  const all = work.boxes.map((_, index) => index)
  let best = all
  let bestCost = costOfVisit(work, all)
  const take = (order: number[], cost: number) => {
    if (cost < bestCost - 1e-9) [best, bestCost] = [order, cost]
  }
  const begins = beginnings(work)
  if (all.length <= exactUpTo) for (const order of orders(all)) take(order, costOfVisit(work, order))
  else
    for (const begin of begins) {
      const found = improved(work, begin, Math.floor(most / begins.length))
      take(found.order, found.cost)
    }
  return { order: best, run: playVisit(work, best), cost: bestCost }
}

function* orders(rest: number[], done: number[] = []): Generator<number[]> {
  if (!rest.length) yield done
  for (const one of rest)
    yield* orders(
      rest.filter((other) => other !== one),
      [...done, one],
    )
}

/** By circuit with dark rooms first; by circuit; as the rooms come; by circuit, turned. */
function beginnings({ boxes }: VisitWork): number[][] {
  const all = boxes.map((_, index) => index)
  const circuit = (box: number) => [...boxes[box]!.breakers].sort().join()
  const byCircuit = [...all].sort((a, b) => circuit(a).localeCompare(circuit(b)) || a - b)
  const darkFirst = [...byCircuit].sort((a, b) => Number(boxes[b]!.dark) - Number(boxes[a]!.dark))
  return [darkFirst, byCircuit, all, [...byCircuit].reverse()]
}

function improved(work: VisitWork, begin: number[], looks: number): { order: number[]; cost: number } {
  let order = begin
  let cost = costOfVisit(work, begin)
  for (let better = true; better;) {
    better = false
    for (const next of neighbours(order)) {
      if (looks-- <= 0) return { order, cost }
      const its = costOfVisit(work, next)
      if (its < cost - 1e-9) {
        ;[order, cost, better] = [next, its, true]
        break
      }
    }
  }
  return { order, cost }
}
/** A stretch of one to three boxes elsewhere, or a stretch turned. */
function* neighbours(order: number[]): Generator<number[]> {
  for (let length = 1; length <= 3; length++)
    for (let from = 0; from + length <= order.length; from++) {
      const rest = [...order.slice(0, from), ...order.slice(from + length)]
      for (let to = 0; to <= rest.length; to++) if (to !== from) yield rest.toSpliced(to, 0, ...order.slice(from, from + length))
    }
  for (let from = 0; from < order.length - 1; from++)
    for (let to = from + 2; to <= order.length; to++)
      yield [...order.slice(0, from), ...order.slice(from, to).reverse(), ...order.slice(to)]
}
