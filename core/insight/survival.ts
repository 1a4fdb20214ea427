/** How long something lived, and whether it failed then or was only seen until then; so many of the same. */
export interface Life {
  days: number
  failed: boolean
  count: number
}
export interface SurvivalStep {
  day: number
  atRisk: number
  failed: number
  /** The share that lives longer than this day, with 95 % limits. */
  survival: number
  low: number
  high: number
}
/** Of the normal distribution: 95 % between. */
const z = 1.959964

/**
 * The product-limit estimate with Greenwood’s variance, limits on the scale of log(−log): they stay between nothing and all.
 * Sources: Kaplan and Meier, JASA 53 (1958); Kalbfleisch and Prentice, The Statistical Analysis of Failure Time Data.
 * @returns a step for each day on which something failed
 */
export function survivalOf(lives: readonly Life[]): SurvivalStep[] {
  const days = new Map<number, { failed: number; seen: number }>()
  for (const { days: day, failed, count } of lives) {
    const at = days.get(day) ?? { failed: 0, seen: 0 }
    at[failed ? 'failed' : 'seen'] += count
    days.set(day, at)
  }
  let atRisk = lives.reduce((sum, { count }) => sum + count, 0)
  let [survival, variance] = [1, 0]
  const steps: SurvivalStep[] = []
  for (const [day, { failed, seen }] of [...days].sort((a, b) => a[0] - b[0])) {
    if (failed) {
      survival *= 1 - failed / atRisk
      variance += failed === atRisk ? 0 : failed / (atRisk * (atRisk - failed))
      steps.push({ day, atRisk, failed, survival, ...limits(survival, variance) })
    }
    // Who was last seen on the day of a failure was at risk of it.
    atRisk -= failed + seen
  }
  return steps
}
function limits(survival: number, variance: number): { low: number; high: number } {
  if (survival <= 0) return { low: 0, high: 0 }
  const logged = Math.log(survival)
  const wide = (z * Math.sqrt(variance)) / Math.abs(logged)
  return { low: survival ** Math.exp(wide), high: survival ** Math.exp(-wide) }
}

/** The share that is alive after so many days; null: nobody was watched for so long. */
export function survivalAt(steps: readonly SurvivalStep[], lives: readonly Life[], day: number) {
  if (!lives.some(({ days }) => days >= day)) return null
  const last = steps.findLast((step) => step.day <= day)
  return last ? { survival: last.survival, low: last.low, high: last.high } : { survival: 1, low: 1, high: 1 }
}

/** Of the first days, of the first month, of the first year and of the rest: what failed, and the days that were lived. */
export const spans = [
  { id: 'first', from: 0, to: 2 },
  { id: 'month', from: 2, to: 30 },
  { id: 'year', from: 30, to: 365 },
  { id: 'later', from: 365, to: Infinity },
] as const
export type SpanId = (typeof spans)[number]['id']
export function hazards(lives: readonly Life[]): Record<SpanId, { failed: number; days: number }> {
  const found = {} as Record<SpanId, { failed: number; days: number }>
  for (const { id, from, to } of spans) {
    let [failed, lived] = [0, 0]
    for (const { days, failed: died, count } of lives) {
      // Half a day of the day on which it ended.
      lived += count * Math.max(0, Math.min(days + 0.5, to) - from)
      if (died && days >= from && days < to) failed += count
    }
    found[id] = { failed, days: lived }
  }
  return found
}
