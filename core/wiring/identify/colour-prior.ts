import { schemeOf } from '../../units/scheme'
import { colourHint } from '../../connect/colour'
import type { ConductorColour } from '../../site/words'
import { isNeutral, type RunKind, type WireRole } from './roles'

/** How far a colour makes a role likely: it orders the checks and decides nothing. What colours suggest: core/connect. */
export function colourHintRole(colour: string, role: WireRole, nominalVolts: number): number {
  if (colour === 'unknown') return 1
  const suggested = colourHint(schemeOf(nominalVolts), colour as ConductorColour).suggests === 'neutral'
  return suggested === (isNeutral(role) || role === 'neutralOn') ? 1 : 0.15
}

/**
 * How far the year of the wiring makes a cable run usual. A neutral in every switch box is asked for since 2011 (NEC 404.2(C));
 * homes from about 1980 on usually have one (common practice, no source; North American). Age is a prior, never a proof;
 * the older 3-way, line and neutral on one switch, went out before the middle of the century (from memory). Orders the checks.
 */
export function yearFactor(run: RunKind, year: number | null, nominalVolts: number): number {
  // The two-way with tied commons belongs to 230 V countries; both legs in one switch to 120/240 V (common practice, no source).
  if (run === 'farStraps' || run === 'farStrapsEnd') return schemeOf(nominalVolts) === 'na120' ? 0.1 : 1
  if (year === null) return 1
  if (run === 'farCarter') return year < 1945 ? 6 : year > 1960 ? 0.2 : 1
  if (nominalVolts >= 160) return 1
  if (run === 'loop' || run === 'doubleLoop') return year >= 2011 ? 0.2 : year >= 1980 ? 0.6 : 1
  return run === 'loopWithNeutral' ? (year >= 2011 ? 3 : year >= 1980 ? 1.5 : 0.5) : 1
}
