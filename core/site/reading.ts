import type { SupplyScheme } from '../units'

/** `steps`: a two-pole detector; its voltage is the highest step that lights, 0 for no indication. */
export const impedances = ['high', 'low', 'steps'] as const
export type Impedance = (typeof impedances)[number]

export type ReadingVerdict = 'dead' | 'repeatLow' | 'unexplained' | 'live' | 'neutralShift'

/** Below this a conductor counts as dead, volts. Common practice, no source. */
export const deadBelowVolts = 1
/** From here on a low-impedance reading is live, volts. NFPA 70E (2024) 110.2: 50 V. */
export const liveFromVolts = 50

/** The lowest step of a two-pole detector that may prove anything, volts. Common practice, no source. */
export const highestFirstStepVolts = 12
/** What a continuity reading to the main earth bar may show besides its leads, ohms. Common practice, no source. */
export const earthBelowOhms = 2
/** Reference to the live point's neutral, volts: more is no earth of this installation. Common practice, no source. */
export const referenceNeutralBelowVolts = 10
/** How close two readings of a shifted neutral lie together, volts. Common practice, no source. */
export const shiftToleranceVolts = 2
/** How close the tester's second check lies to its first, as a part of it. Common practice, no source. */
export const sameSourceTolerance = 0.1
/** A doubt raised by a high-impedance reading waits this long for the low-impedance one, minutes. Common practice, no source. */
export const suspenseMinutes = 10

export interface ReadingJudgement {
  verdict: ReadingVerdict
  /** Short words for the screen. */
  title: string
  why: string
}

/**
 * Judges one reading of an absence-of-voltage test.
 * A high-impedance meter shows coupled voltage on a floating conductor, so from 1 V up it proves nothing and the
 * pair is read again with low impedance; a low-impedance reading between 1 and 50 V has no innocent explanation.
 */
export function judgeReading(volts: number, impedance: Impedance): ReadingJudgement {
  const size = Math.abs(volts)
  if (size < deadBelowVolts) return { verdict: 'dead', title: 'Dead', why: impedance === 'steps' ? 'No indication.' : 'Below 1 V.' }
  if (impedance === 'steps')
    return {
      verdict: size >= liveFromVolts ? 'live' : 'unexplained',
      title: size >= liveFromVolts ? 'LIVE. Stop, hands off.' : 'A step is lit. Stop.',
      why: 'A two-pole detector loads the conductor: if it still lights, the conductor is fed. Nobody touches this box until the feed is found, open and tagged.',
    }
  if (impedance === 'high')
    return {
      verdict: 'repeatLow',
      title: 'Treat as live. Same pair again with low impedance.',
      why: 'Idle conductors pick up voltage from the cable. A high-impedance meter cannot tell that from a feed.',
    }
  if (size >= liveFromVolts)
    return {
      verdict: 'live',
      title: 'LIVE. Stop, hands off.',
      why: 'Another feed reaches this box. Nobody touches it until that feed is found, open and tagged.',
    }
  return {
    verdict: 'unexplained',
    title: 'Unexplained voltage. Stop.',
    why: 'A low-impedance meter should read below 1 V. Look for a second feed, a shared neutral or a bad reference; call the licensed lead.',
  }
}

export interface SupplyJudgement {
  ok: boolean
  /** Warning about the supply itself; the tester may still be good. */
  warning: string | null
}

/** Does a known-live source show what the scheme promises at a switch? */
export function judgeKnownLive(volts: number, scheme: SupplyScheme): SupplyJudgement {
  const { low, high } = scheme.utilisationBandVolts
  if (volts >= low && volts <= high) return { ok: true, warning: null }
  if (volts < liveFromVolts)
    return { ok: false, warning: `${volts} V is no live source. Find one that reads about ${scheme.nominalVolts} V.` }
  return { ok: true, warning: `${volts} V is outside ${low}–${high} V (${scheme.bandSource}). Tell the customer about the supply.` }
}

/** Does the tester show on its source what it showed before? A display in steps shows the same step. */
export function sameAsBefore(before: number, now: number, steps: boolean): boolean {
  if (now < liveFromVolts) return false
  return steps ? before === now : Math.abs(now - before) <= sameSourceTolerance * before
}
