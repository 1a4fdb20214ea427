/** A device that waits to be paired, as the order is worked out. */
export interface Waiting {
  id: string
  /** How long joining it takes, minutes. */
  joins: number
  /** Until when its window is sure, minutes from now; Infinity: no limit; 0 or less: over. */
  left: number
  /** How long its window is once it opens anew, minutes; Infinity: no limit. */
  window: number
  /** It is started anew without its breaker. */
  restartsAlone: boolean
  /** The breaker that would open its window again; null: unknown. */
  breakerId: string | null
}
export interface PairingOrder {
  /** To be joined in this order: none of them misses its window. */
  now: string[]
  /** Started anew by themselves, one before each joining. */
  restarted: string[]
  /** Their breaker is opened and closed, and these are joined in this order: the fewest cycles there are. */
  cycles: { breakerId: string | null; ids: string[] }[]
}

const byDeadline = (deadline: (one: Waiting) => number) => (a: Waiting, b: Waiting) =>
  deadline(a) - deadline(b) || a.joins - b.joins || a.id.localeCompare(b.id)
/** One after the other, the earliest deadline first, is in time whenever anything is (Jackson 1955). */
export const allInTime = (devices: readonly Waiting[], deadline: (one: Waiting) => number): boolean =>
  inTimeAsTheyStand([...devices].sort(byDeadline(deadline)), deadline)
function inTimeAsTheyStand(devices: readonly Waiting[], deadline: (one: Waiting) => number): boolean {
  let clock = 0
  return devices.every((one) => (clock += one.joins) <= deadline(one))
}
/** So that each comes after what it listens to, wherever everything stays in time. @param before By id: what should be there first. */
export function leadersFirst(devices: readonly Waiting[], before: ReadonlyMap<string, string>): Waiting[] {
  let list = [...devices]
  for (const [id, leader] of before) {
    const [at, from] = [list.findIndex((one) => one.id === id), list.findIndex((one) => one.id === leader)]
    if (at < 0 || from < at) continue
    const moved = list.toSpliced(from, 1).toSpliced(at, 0, list[from]!)
    if (inTimeAsTheyStand(moved, left)) list = moved
  }
  return list
}
const left = (one: Waiting) => one.left
const fresh = (one: Waiting) => Math.max(one.window, one.joins)

/** So many are tried in every way; of more, what is nearly as good is taken. */
const triedInEveryWay = 11

const of = <T>(list: readonly T[], set: number): T[] => list.filter((_, index) => set & (1 << index))
const ids = (devices: readonly Waiting[]) => devices.map(({ id }) => id)

/** For each set of devices behind one breaker (as bits): the fewest cycles in which all of it is joined, and one cycle of them. */
function fewestCycles(devices: readonly Waiting[]): { count: number; cycle: number }[] {
  const best = [{ count: 0, cycle: 0 }]
  const fits = Array.from({ length: 1 << devices.length }, (_, set) => allInTime(of(devices, set), fresh))
  for (let set = 1; set < 1 << devices.length; set++) {
    let found = { count: Infinity, cycle: 0 }
    const lowest = set & -set
    // The first of the set is in some cycle: only those with it are tried.
    for (let part = set; part > 0; part = (part - 1) & set) {
      if (!(part & lowest) || !fits[part]) continue
      const count = best[set ^ part]!.count + 1
      if (count < found.count) found = { count, cycle: part }
    }
    best[set] = found
  }
  return best
}
/** How a set of devices is cycled: worked out once for each breaker. */
function cycler(devices: readonly Waiting[]) {
  const cycled = devices.filter((one) => !one.restartsAlone).sort(byDeadline(fresh))
  const breakers = [...new Set(cycled.map((one) => one.breakerId))].map((breakerId) => {
    const all = cycled.filter((one) => one.breakerId === breakerId)
    return { breakerId, all, best: all.length > triedInEveryWay ? null : fewestCycles(all) }
  })
  const bits = (all: readonly Waiting[], late: ReadonlySet<Waiting>) =>
    all.reduce((set, one, index) => (late.has(one) ? set | (1 << index) : set), 0)
  return {
    count: (late: ReadonlySet<Waiting>) =>
      breakers.reduce(
        (sum, { all, best }) => sum + (best ? best[bits(all, late)]!.count : firstFit(all.filter((one) => late.has(one))).length),
        0,
      ),
    of: (late: ReadonlySet<Waiting>): PairingOrder['cycles'] =>
      breakers.flatMap(({ breakerId, all, best }) => {
        if (!best) return firstFit(all.filter((one) => late.has(one))).map((bin) => ({ breakerId, ids: ids(bin) }))
        const cycles: PairingOrder['cycles'] = []
        for (let set = bits(all, late); set > 0; set ^= best[set]!.cycle) cycles.push({ breakerId, ids: ids(of(all, best[set]!.cycle)) })
        return cycles
      }),
  }
}
function firstFit(devices: readonly Waiting[]): Waiting[][] {
  const bins: Waiting[][] = []
  for (const one of devices) {
    const bin = bins.find((other) => allInTime([...other, one], fresh))
    if (bin) bin.push(one)
    else bins.push([one])
  }
  return bins
}

/** As many as can be in time (Moore 1968): the longest of those so far is left whenever one would be late. */
function mostInTime(devices: readonly Waiting[]): Waiting[] {
  const kept: Waiting[] = []
  let clock = 0
  for (const one of [...devices].sort(byDeadline(left))) {
    kept.push(one)
    clock += one.joins
    if (clock <= one.left) continue
    // Whoever needs no breaker to be started anew gives way first, where that makes room enough.
    const enough = kept.filter((other) => clock - other.joins <= one.left)
    const [out] = (enough.length ? enough : [...kept]).sort(
      (a, b) => Number(b.restartsAlone) - Number(a.restartsAlone) || b.joins - a.joins,
    )
    kept.splice(kept.indexOf(out!), 1)
    clock -= out!.joins
  }
  return allInTime(kept, left) ? kept : []
}

/**
 * Which device first, so that no window is missed, with one pair of hands: the fewest cycles of breakers, then the fewest that are
 * started anew by themselves. Exact up to eleven devices with a window.
 */
export function pairingOrder(devices: readonly Waiting[]): PairingOrder {
  const bound = devices.filter((one) => one.left > 0 && one.left < Infinity)
  const over = devices.filter((one) => one.left <= 0)
  const free = devices.filter((one) => one.left === Infinity)
  const cycles = cycler([...over, ...bound])
  const inTime = bound.length > triedInEveryWay ? mostInTime(bound) : bestInTime(bound, over, cycles)
  const late = [...over, ...bound.filter((one) => !inTime.includes(one))]
  return {
    now: [...ids([...inTime].sort(byDeadline(left))), ...ids(free).sort()],
    restarted: ids(late.filter((one) => one.restartsAlone)).sort(),
    cycles: cycles.of(new Set(late)),
  }
}
function bestInTime(bound: readonly Waiting[], over: readonly Waiting[], cycles: ReturnType<typeof cycler>): Waiting[] {
  let best = { cycles: Infinity, restarts: Infinity, set: 0 }
  for (let set = (1 << bound.length) - 1; set >= 0; set--) {
    if (!allInTime(of(bound, set), left)) continue
    const late = [...over, ...bound.filter((_, index) => !(set & (1 << index)))]
    const restarts = late.filter((one) => one.restartsAlone).length
    const needed = cycles.count(new Set(late))
    if (needed < best.cycles || (needed === best.cycles && restarts < best.restarts)) best = { cycles: needed, restarts, set }
  }
  return of(bound, best.set)
}
