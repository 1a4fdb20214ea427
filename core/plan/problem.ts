import type { SolutionKind } from './words'

/** One way to solve one point, or several together. */
export interface Solution {
  id: string
  kind: SolutionKind
  pointIds: string[]
  /** Devices and where they go. */
  devices: { boxId: string; gang: number; modelId: string }[]
  /** Articles besides those that are shared, such as hubs and plates. */
  parts: { articleId: string; quantity: number }[]
  partsCents: number
  minutes: number
  /** Of each point, 0 to 100: how much of what one would want it does. */
  comfort: number
  /** Callbacks one expects of it in a year. */
  callbacksPerYear: number
  /** Devices bought again within the years one looks at, cents. */
  againCents: number
  /** A school leans to it, or away from it, as to this kind; null: to none. */
  leansAs: SolutionKind | null
  /** So much, cents; less than nothing: to it. */
  leanCents: number
  /** What it takes of what is there once only: places in gangs, room in boxes. Amounts by key of `limits`. */
  uses: Record<string, number>
  /** What it needs that others may need too, paid once: keys of `charges`. */
  needs: string[]
  /** Devices on a hub, by key of `hubs`. */
  onHub: Record<string, number>
}
/** Something that is paid once, however many need it. */
export interface Charge {
  cents: number
  /** Money, or only a weight against it: an app more, a row that does not match. */
  money: boolean
  minutes: number
  articleId: string | null
}
export interface HubKind {
  cents: number
  minutes: number
  articleId: string
  /** Devices that one holds. */
  holds: number
  /** Places free on hubs that are there already. */
  free: number
}
/** What the trade weighs, each in cents: how much one would pay to be rid of it, or for more of it. */
export interface Weights {
  /** For each point, of a full 100 of comfort. */
  comfortCents: number
  /** Of one callback. */
  callbackCents: number
  years: number
  /** A school’s leaning by kind of solution, for each point. */
  leaning: Partial<Record<SolutionKind, number>>
}
/** Which solutions there are for the points of a home, and what binds them together. */
export interface PlanProblem {
  pointIds: string[]
  solutions: Solution[]
  limits: Record<string, number>
  charges: Record<string, Charge>
  hubs: Record<string, HubKind>
  weights: Weights
  hourlyCents: number
}

export interface PlanCost {
  partsCents: number
  labourMinutes: number
  hubs: Record<string, number>
  /** What the customer pays for it, before travel, discounts and taxes. */
  moneyCents: number
  comfort: number
  /** What is weighed: money and everything counted as money. The optimiser makes this least. */
  weighed: number
}

const labourCents = (problem: PlanProblem, minutes: number) => (minutes * problem.hourlyCents) / 60
/** The same choice as another school weighs it. */
export const leaned = (problem: PlanProblem, weights: Weights): PlanProblem => ({
  ...problem,
  weights,
  solutions: problem.solutions.map((one) => ({
    ...one,
    leanCents: one.leansAs ? one.pointIds.length * (weights.leaning[one.leansAs] ?? 0) : 0,
  })),
})

/** What a solution is weighed at by itself, without what it shares. */
export const weighedAlone = (problem: PlanProblem, solution: Solution): number =>
  moneyAlone(problem, solution) + besideMoney(problem, solution)
export const moneyAlone = (problem: PlanProblem, solution: Solution): number => solution.partsCents + labourCents(problem, solution.minutes)
export function besideMoney({ weights }: PlanProblem, { comfort, pointIds, callbacksPerYear, againCents, leanCents }: Solution): number {
  const lost = pointIds.length * (1 - comfort / 100) * weights.comfortCents
  return lost + callbacksPerYear * weights.years * weights.callbackCents + againCents + leanCents
}
export const chargeCents = (problem: PlanProblem, charge: Charge): number => charge.cents + labourCents(problem, charge.minutes)
export const hubCents = (problem: PlanProblem, hub: HubKind): number => hub.cents + labourCents(problem, hub.minutes)
/** Hubs to buy for so many devices. */
export const hubsFor = ({ holds, free }: HubKind, devices: number): number => Math.max(0, Math.ceil((devices - free) / holds))

/** Why a choice cannot be had; null: it can. */
export function objection(problem: PlanProblem, chosen: readonly Solution[]): 'twice' | 'missing' | 'limit' | null {
  const solved = chosen.flatMap(({ pointIds }) => pointIds)
  if (new Set(solved).size !== solved.length) return 'twice'
  if (problem.pointIds.some((id) => !solved.includes(id))) return 'missing'
  const used = usedBy(chosen)
  return Object.entries(used).some(([key, amount]) => amount > (problem.limits[key] ?? Infinity) + 1e-9) ? 'limit' : null
}
export function usedBy(chosen: readonly Solution[]): Record<string, number> {
  const used: Record<string, number> = {}
  for (const { uses } of chosen) for (const [key, amount] of Object.entries(uses)) used[key] = (used[key] ?? 0) + amount
  return used
}

/** What a choice comes to: the one place where it is summed up, for every way of finding it. */
export function costOf(problem: PlanProblem, chosen: readonly Solution[]): PlanCost {
  const onHub: Record<string, number> = {}
  for (const solution of chosen) for (const [key, devices] of Object.entries(solution.onHub)) onHub[key] = (onHub[key] ?? 0) + devices
  const hubs = Object.fromEntries(
    Object.entries(onHub).flatMap(([key, devices]) => {
      const count = hubsFor(problem.hubs[key]!, devices)
      return count ? [[key, count]] : []
    }),
  )
  const charges = [...new Set(chosen.flatMap(({ needs }) => needs))].map((key) => problem.charges[key]!)
  const paid = charges.filter(({ money }) => money)
  const sum = <T>(all: readonly T[], of: (one: T) => number) => all.reduce((total, one) => total + of(one), 0)
  const hubKinds = Object.entries(hubs).map(([key, count]) => ({ hub: problem.hubs[key]!, count }))
  const partsCents =
    sum(chosen, (one) => one.partsCents) + sum(paid, ({ cents }) => cents) + sum(hubKinds, ({ hub, count }) => hub.cents * count)
  const labourMinutes =
    sum(chosen, (one) => one.minutes) + sum(paid, ({ minutes }) => minutes) + sum(hubKinds, ({ hub, count }) => hub.minutes * count)
  const moneyCents = partsCents + labourCents(problem, labourMinutes)
  return {
    partsCents,
    labourMinutes,
    hubs,
    moneyCents,
    comfort: sum(chosen, (one) => one.comfort * one.pointIds.length) / Math.max(1, problem.pointIds.length),
    weighed:
      moneyCents +
      sum(chosen, (one) => besideMoney(problem, one)) +
      sum(
        charges.filter(({ money }) => !money),
        ({ cents }) => cents,
      ),
  }
}
