import type { WireRole } from './roles'

/**
 * How far a colour makes a role likely: it orders the checks and decides nothing.
 * 120/240 V: white and grey suggest neutral (NEC 200.6); 230 V: blue suggests neutral (IEC 60445).
 */
export function colourHintRole(colour: string, role: WireRole, nominalVolts: number): number {
  const neutralColour = nominalVolts < 160 ? colour === 'white' || colour === 'grey' : colour === 'blue'
  const neutralRole = role === 'neutral' || role === 'neutralOn'
  if (colour === 'unknown') return 1
  return neutralColour === neutralRole ? 1 : 0.15
}
