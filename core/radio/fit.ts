import { inverse, Matrix } from 'ml-matrix'
import { barsDbm, barsSpreadDb, freeSpaceLossDb, residentialLossDb, residentialShadowDb, type RadioBand } from './path-loss'
import type { Between } from './rooms'

/** One reading of the signal, with what lies between it and what it heard. */
export interface Reading {
  between: Between
  /** Behind metal: a box or plate of metal, or a cupboard. */
  metalDb: number
  dbm: number | null
  bars: number | null
}

/**
 * What is believed of a home before anybody read anything, for the free-space model with counted walls: mean and spread.
 * `level`: what a home's router sends and a phone shows, together, against 0 dBi and 0 dB: routers of 100 mW and a phone that is
 * off by some dB. `wall`, `floor`: loss through each, dB; inside walls of homes are between plasterboard and brick (ITU-R P.2040
 * gives 2.4 GHz: plasterboard about 2, brick about 6 to 10; from memory). `shadow`: what no plan tells, dB.
 */
const priors: Record<RadioBand, { level: [number, number]; wall: [number, number]; floor: [number, number]; shadowDb: number }> = {
  '2.4': { level: [18, 4], wall: [4.5, 2], floor: [11, 5], shadowDb: 6.5 },
  '5': { level: [18, 4], wall: [7, 3], floor: [15, 6], shadowDb: 7 },
  '6': { level: [17, 5], wall: [8, 3.5], floor: [17, 7], shadowDb: 7 },
}

export interface RadioFit {
  band: RadioBand
  /** level, wall, floor. */
  mean: [number, number, number]
  covariance: number[][]
  shadowDb: number
  readings: number
}

type Counted = Between & { walls: number }
const isCounted = (one: Between): one is Counted => one.walls !== null
const featuresOf = ({ walls, floors }: Counted): [number, number, number] => [1, -walls, -floors]
const valueOf = ({ dbm, bars }: Reading): { dbm: number; extra: number } | null =>
  dbm !== null ? { dbm, extra: 0 } : bars !== null ? { dbm: barsDbm[bars] ?? barsDbm[0], extra: barsSpreadDb } : null

/**
 * Bayesian linear regression (conjugate, known spread) of what was read in this home on distance, walls and floors. With no
 * reading it says what is believed of any home, and how little that is.
 */
export function fitRadio(band: RadioBand, readings: Reading[]): RadioFit {
  const prior = priors[band]
  const parts = [prior.level, prior.wall, prior.floor]
  let precision = Matrix.diag(parts.map(([, spread]) => 1 / spread ** 2))
  const moment = Matrix.columnVector(parts.map(([mean, spread]) => mean / spread ** 2))
  let used = 0
  for (const reading of readings) {
    const value = valueOf(reading)
    const { between } = reading
    // What nobody counted tells nothing of a wall.
    if (!value || !isCounted(between)) continue
    used++
    const x = Matrix.columnVector(featuresOf(between))
    const weight = 1 / (prior.shadowDb ** 2 + value.extra ** 2)
    precision = Matrix.add(precision, Matrix.mul(x.mmul(x.transpose()), weight))
    moment.add(Matrix.mul(x, weight * (value.dbm + freeSpaceLossDb(band, between.metres) + reading.metalDb)))
  }
  const covariance = inverse(precision)
  const [level, wall, floor] = covariance.mmul(moment).to1DArray() as [number, number, number]
  return { band, mean: [level, wall, floor], covariance: covariance.to2DArray(), shadowDb: prior.shadowDb, readings: used }
}

export interface RadioPrediction {
  dbm: number
  /** One standard deviation of what a phone would show there, dB. */
  spreadDb: number
}
/**
 * What would be read at a spot, with its uncertainty. Free space with the counted walls; where nobody counted, the coefficient
 * for homes, which has them in it (ITU-R P.1238). Never both.
 */
export function predict(fit: RadioFit, between: Between, metalDb = 0): RadioPrediction {
  if (!isCounted(between)) {
    const level = fit.covariance[0]![0]!
    return {
      dbm: fit.mean[0] - residentialLossDb(fit.band, between.metres, between.floors) - metalDb,
      spreadDb: Math.sqrt(level + residentialShadowDb ** 2),
    }
  }
  const x = featuresOf(between)
  const dbm = x.reduce((sum, one, index) => sum + one * fit.mean[index]!, 0) - freeSpaceLossDb(fit.band, between.metres) - metalDb
  const known = x.reduce((sum, a, row) => sum + x.reduce((inner, b, column) => inner + a * b * fit.covariance[row]![column]!, 0), 0)
  return { dbm, spreadDb: Math.sqrt(known + fit.shadowDb ** 2) }
}
/** How much a reading at one spot would tell of another: the share of its spread that goes. */
export function tells(fit: RadioFit, at: Between, about: Between): number {
  if (!isCounted(at) || !isCounted(about)) return 0
  const [x, z] = [featuresOf(at), featuresOf(about)]
  const through = (a: number[], b: number[]) =>
    a.reduce((sum, one, row) => sum + b.reduce((inner, other, column) => inner + one * other * fit.covariance[row]![column]!, 0), 0)
  const gained = through(x, z) ** 2 / (through(x, x) + fit.shadowDb ** 2)
  return gained / (through(z, z) + fit.shadowDb ** 2)
}
