import { beyondChance, priorOf, shrunk, sureAbove, type Counted, type Rate } from './rates'
import { hazards, survivalAt, survivalOf, type Life, type SurvivalStep } from './survival'

/** What became of the devices of a model. */
export interface ModelLives {
  model: string
  /** In the wall now; of the lives that did not fail some ended otherwise. */
  inWall: number
  lives: Life[]
}
export interface ModelInsight {
  model: string
  /** In the wall now, all that ever were, and years that all of them have lived. */
  inWall: number
  installed: number
  years: number
  failed: number
  /** Of them within the first two days, and within the first month. */
  first: number
  early: number
  /** Failures per hundred of them in a year, with what all models together say. */
  perHundred: Rate
  /** More or fewer than chance makes. */
  beyond: 'more' | 'fewer' | null
  /** Alive after a year; null: none was watched for so long. */
  afterYear: { survival: number; low: number; high: number } | null
  /** Failures to expect in the next year. */
  expected: number
  /** What to do, and how sure that is, where something is. */
  advice: { what: 'stopBuying' | 'watch'; sure: number } | null
  /** How sure one is that more than one in a hundred fails within two days, where that is enough to stay for, or to call; else null. */
  soon: number | null
  steps: SurvivalStep[]
}
const yearDays = 365.25
/** What is usual before a company has seen anything: one of fifty devices in a year, one of two hundred at once. Common practice, no source. */
const trade = { year: { count: 1, exposure: 50 }, start: { count: 0.25, exposure: 50 } }
/** Twice as many failures as the company has in all: what it saves is worth another model on the van. Common practice, no source. */
const twice = 2
/** One in a hundred fails within two days: a call then costs less than the visit it saves. Common practice, no source. */
const firstDays = 0.01
/** So sure before anything is proposed. */
const sureEnough = 0.9

/** Models by how they live, the worst first; what is seen seldom stays near what all have. */
export function modelInsights(all: readonly ModelLives[]): ModelInsight[] {
  const counted = all.map(({ model, inWall, lives }) => {
    const spans = hazards(lives)
    const failed = lives.reduce((sum, one) => sum + (one.failed ? one.count : 0), 0)
    const years = Object.values(spans).reduce((sum, { days }) => sum + days, 0) / yearDays
    const installed = lives.reduce((sum, { count }) => sum + count, 0)
    return {
      model,
      inWall,
      lives,
      spans,
      rate: { count: failed, exposure: years },
      start: { count: spans.first.failed, exposure: installed },
    }
  })
  const prior = priorOf(
    counted.map(({ rate }) => rate),
    trade.year,
  )
  const atStart = priorOf(
    counted.map(({ start }) => start),
    trade.start,
  )
  const total = counted.reduce((sum, { rate }) => ({ count: sum.count + rate.count, exposure: sum.exposure + rate.exposure }), {
    count: 0,
    exposure: 0,
  } as Counted)
  const overall = total.exposure ? total.count / total.exposure : 0
  return counted
    .map(({ model, inWall, lives, spans, rate, start }): ModelInsight => {
      const own = shrunk(rate, prior)
      const worse = overall > 0 ? sureAbove(rate, prior, overall * twice) : 0
      const early = sureAbove(start, atStart, firstDays)
      const soon = start.count > 1 && early >= sureEnough ? early : null
      const steps = survivalOf(lives)
      return {
        ...{ model, inWall, installed: start.exposure, years: rate.exposure, failed: rate.count, first: spans.first.failed },
        early: spans.first.failed + spans.month.failed,
        perHundred: { rate: own.rate * 100, low: own.low * 100, high: own.high * 100 },
        beyond: beyondChance(rate, overall),
        afterYear: survivalAt(steps, lives, 365),
        expected: own.rate * inWall,
        advice: worse >= sureEnough ? { what: 'stopBuying', sure: worse } : soon === null ? null : { what: 'watch', sure: soon },
        soon,
        steps,
      }
    })
    .sort((a, b) => b.perHundred.rate - a.perHundred.rate || a.model.localeCompare(b.model))
}
