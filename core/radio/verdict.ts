import { cumulativeStdNormalProbability } from 'simple-statistics'
import { predict, tells, type RadioFit, type RadioPrediction } from './fit'
import type { Between } from './rooms'

/** A device works with this, dBm. The limits of the commissioning test; common practice, no source. */
export const enoughDbm = -70
export const radioVerdicts = ['good', 'likely', 'measure', 'fails'] as const
export type RadioVerdict = (typeof radioVerdicts)[number]
export const radioVerdictWords: Record<RadioVerdict, string> = {
  good: 'signal good',
  likely: 'signal likely enough',
  measure: 'measure the signal first',
  fails: 'signal too weak here',
}

/** How likely it is that a device has enough signal, between 0 and 1. */
export const chanceEnough = ({ dbm, spreadDb }: RadioPrediction): number => cumulativeStdNormalProbability((dbm - enoughDbm) / spreadDb)
export function radioVerdict(prediction: RadioPrediction): RadioVerdict {
  const chance = chanceEnough(prediction)
  return chance >= 0.93 ? 'good' : chance >= 0.75 ? 'likely' : chance >= 0.1 ? 'measure' : 'fails'
}
/** What was read at the very spot says more than any fit: dBm, or bars with their spread. */
export const radioVerdictOfReading = (dbm: number): RadioVerdict =>
  dbm >= -65 ? 'good' : dbm >= enoughDbm ? 'likely' : dbm >= -76 ? 'measure' : 'fails'

export interface Asking {
  id: string
  between: Between
  metalDb: number
}
/** The spot whose reading would settle most of what is open: expected change of all verdicts. Null: nothing is open. */
export function nextSpot(fit: RadioFit, spots: Asking[]): string | null {
  const doubt = (spot: Asking) => {
    const chance = chanceEnough(predict(fit, spot.between, spot.metalDb))
    return 4 * chance * (1 - chance)
  }
  const open = spots.filter((spot) => radioVerdict(predict(fit, spot.between, spot.metalDb)) === 'measure')
  if (open.length === 0) return null
  const worth = (spot: Asking) =>
    doubt(spot) + open.filter((one) => one !== spot).reduce((sum, one) => sum + doubt(one) * tells(fit, spot.between, one.between), 0)
  return open.map((spot) => ({ spot, worth: worth(spot) })).sort((a, b) => b.worth - a.worth)[0]!.spot.id
}
