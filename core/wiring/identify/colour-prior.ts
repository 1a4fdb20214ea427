import { colourHint } from '../../connect/colour'
import type { ConductorColour } from '../../safety/words'
import type { WireRole } from './roles'

/** How far a colour makes a role likely: it orders the checks and decides nothing. What colours suggest: core/connect. */
export function colourHintRole(colour: string, role: WireRole, nominalVolts: number): number {
  if (colour === 'unknown') return 1
  const suggested = colourHint(nominalVolts < 160 ? 'na120' : 'iec230', colour as ConductorColour).suggests === 'neutral'
  return suggested === (role === 'neutral' || role === 'neutralOn') ? 1 : 0.15
}
