import type { Weights } from './problem'
import type { SchoolId } from './words'

/** So much a point is worth, cents, that does all one would want; what a callback costs. Common practice, no source: a branch moves them. */
const usual: Omit<Weights, 'years' | 'leaning'> = { comfortCents: 32_000, callbackCents: 16_000 }

/** What each school leans to and shuns, cents for each point. Common practice, no source. */
const leanings: Record<SchoolId, Pick<Weights, 'leaning'> & Partial<Weights>> = {
  switches: { leaning: { smartLamps: 6000, plugIn: 4000, relayAtFixture: 2000, channelModule: 1500 } },
  lamps: {
    leaning: { smartLamps: -9000, withNeutral: 4000, noNeutral: 4000, batteryCompanion: 4000, relayAtFixture: 4000, channelModule: 4000 },
  },
  // Counts only where there is no neutral to build on.
  hubDimmers: { leaning: { noNeutral: -9000, relayAtFixture: 2500, smartLamps: 5000, channelModule: 1500 } },
  fixtureRelays: { leaning: { relayAtFixture: -20_000, smartLamps: 4000 } },
  leastMoney: { leaning: {}, comfortCents: 14_000 },
  mostComfort: { leaning: {}, comfortCents: 140_000 },
}
/** A point stands on the job because something is wanted there: leaving it weighs so much beside the comfort it lacks, cents. */
const leavingCents = 12_000
export const weightsOf = (school: SchoolId, years: number, over: Partial<Weights> = {}): Weights => ({
  ...usual,
  ...leanings[school],
  ...over,
  leaning: { leave: leavingCents, ...leanings[school].leaning, ...over.leaning },
  years,
})
/** A weight against each app more, each way of radio more, and a row whose fronts do not match. Common practice, no source. */
export const sharedWeights = { appCents: 3500, radioCents: 2000, lookCents: 2500 } as const
