import type { ConductorColour } from '../site'
import type { SchemeId } from '../units'

export interface ColourHint {
  /** What the colour suggests. Never a role. */
  suggests: string
  source: string
  warning: string | null
}

const none: ColourHint = { suggests: 'nothing', source: '', warning: null }

/** What a conductor's colour suggests under a scheme. A hint to order the checks by, never a proof. */
export function colourHint(schemeId: SchemeId, colour: ConductorColour): ColourHint {
  if (schemeId === 'na120') {
    if (colour === 'white' || colour === 'grey')
      return { suggests: 'neutral', source: 'NEC 200.6', warning: 'In a switch loop a white conductor may carry the line (NEC 200.7(C)).' }
    if (colour === 'green' || colour === 'green-yellow' || colour === 'bare')
      return { suggests: 'ground', source: 'NEC 250.119', warning: null }
    if (colour === 'unknown') return none
    const warning =
      colour === 'blue'
        ? 'Blue is neutral in 230 V work: who wired this home?'
        : colour === 'red'
          ? 'Red may be a line, a load or {a traveler}.'
          : null
    return { suggests: 'hot', source: 'NEC 200.6 (by exclusion)', warning }
  }
  if (colour === 'green-yellow') return { suggests: 'earth', source: 'IEC 60445', warning: null }
  if (colour === 'blue') return { suggests: 'neutral', source: 'IEC 60445', warning: 'In old work blue may be a line.' }
  if (colour === 'brown' || colour === 'grey') return { suggests: 'line', source: 'IEC 60445', warning: null }
  if (colour === 'black') return { suggests: 'line', source: 'IEC 60445', warning: 'In old work black may be the neutral.' }
  if (colour === 'green' || colour === 'bare')
    return { suggests: 'earth', source: 'old work, from memory', warning: 'Not a colour of the present standard.' }
  if (colour === 'red' || colour === 'yellow')
    return { suggests: 'line', source: 'old work, from memory', warning: 'Not a colour of the present standard.' }
  return none
}
