// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- the package comes without types, and the server’s program looks for none here
/// <reference path="./jstat.d.ts" />
import jstat from 'jstat'

/** So many things in so much time, or among so many. */
export interface Counted {
  count: number
  exposure: number
}
/** A rate before one has looked: a gamma distribution with this shape, and so much exposure behind it. */
export interface Prior {
  shape: number
  exposure: number
}
/**
 * So many things seen outweigh what all others say, at most and at least: makers and models differ by half of what they have on average,
 * and by no more than all of it. Common practice, no source. Without the least, a few days of a few devices would look like a world in
 * which anything is possible, and one early failure like eight hundred in a hundred.
 */
const [mostWorth, leastWorth] = [4, 1]

/**
 * What all of a company’s rates together say of the next one: mean and scatter by moments. What is seen seldom is drawn towards it, so
 * that two bad days brand nobody. Source: Marshall, Mapping disease and mortality rates using empirical Bayes estimators, Applied
 * Statistics 40 (1991).
 * @param trade what is usual, before the company has seen anything
 */
export function priorOf(all: readonly Counted[], trade: Counted): Prior {
  const seen = all.filter(({ exposure }) => exposure > 0)
  const exposure = seen.reduce((sum, one) => sum + one.exposure, 0)
  const count = seen.reduce((sum, one) => sum + one.count, 0)
  const mean = (count + trade.count) / (exposure + trade.exposure)
  if (!exposure) return { shape: trade.count, exposure: trade.exposure }
  const scatter = seen.reduce((sum, one) => sum + one.exposure * (one.count / one.exposure - mean) ** 2, 0) / exposure
  const between = scatter - mean / (exposure / seen.length)
  // No more scatter than chance makes says that they could be alike, not that they are.
  const [most, least] = [mostWorth / mean, leastWorth / mean]
  const behind = between > 0 ? Math.max(least, Math.min(mean / between, most)) : most
  return { shape: mean * behind, exposure: behind }
}

export interface Rate {
  rate: number
  /** Nine of ten such rates lie between. */
  low: number
  high: number
}
const quantile = (p: number, shape: number, exposure: number): number => jstat.gamma.inv(p, shape, 1 / exposure)
/** A rate with what all the others say of it. Conjugate gamma and Poisson; source: Gelman and others, Bayesian Data Analysis, chapter 2. */
export function shrunk({ count, exposure }: Counted, prior: Prior): Rate {
  const [shape, behind] = [prior.shape + count, prior.exposure + exposure]
  return { rate: shape / behind, low: quantile(0.05, shape, behind), high: quantile(0.95, shape, behind) }
}
/** How sure one is that a rate is above a line. */
export const sureAbove = ({ count, exposure }: Counted, prior: Prior, line: number): number =>
  1 - jstat.gamma.cdf(line, prior.shape + count, 1 / (prior.exposure + exposure))

/** Outside the funnel: what chance does to two in a thousand, on both sides. */
const outside = 0.001
/**
 * Whether a count is more, or less, than chance makes of what all together have. Exact Poisson limits at 99.8 %. Source: Spiegelhalter,
 * Funnel plots for comparing institutional performance, Statistics in Medicine 24 (2005).
 */
export function beyondChance({ count, exposure }: Counted, rate: number): 'more' | 'fewer' | null {
  const expected = rate * exposure
  if (!(expected > 0)) return null
  if (count > 0 && 1 - jstat.poisson.cdf(count - 1, expected) < outside) return 'more'
  return jstat.poisson.cdf(count, expected) < outside ? 'fewer' : null
}

/** A share of all, with the limits between which nine of ten such shares lie, where nothing was known before (Jeffreys). */
export function shareOf(count: number, of: number): Rate {
  const [a, b] = [count + 0.5, of - count + 0.5]
  return {
    rate: of ? count / of : 0,
    low: count === 0 ? 0 : jstat.beta.inv(0.05, a, b),
    high: count === of ? 1 : jstat.beta.inv(0.95, a, b),
  }
}
