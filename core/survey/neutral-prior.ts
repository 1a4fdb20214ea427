import type { SiteState } from '../site'
import type { SchemeId } from '../units'

/**
 * How often a switch box holds a neutral, by the year of the wiring. Common practice, no source: most from about 1980 on;
 * NEC 404.2(C) asks for it since 2011, with exceptions and by local adoption. In 230 V homes the neutral usually stays at the
 * ceiling rose, in recent work too.
 */
function byYear(schemeId: SchemeId, year: number | null): number {
  if (schemeId === 'iec230') return year !== null && year >= 2005 ? 0.35 : 0.2
  if (year === null) return 0.55
  return year >= 2011 ? 0.93 : year >= 1980 ? 0.8 : year >= 1965 ? 0.55 : year >= 1945 ? 0.4 : 0.25
}
/** So many boxes of this home tell as much as its year. Common practice, no source. */
const yearWeighs = 1.5

export interface NeutralPrior {
  /** Between 0 and 1. */
  chance: number
  /** Of the boxes looked into here, how many had one. */
  seen: number
  of: number
}

/**
 * How likely a neutral is in a box nobody has looked into: the year first, then what was found in this home. Never a proof: a
 * neutral is told by live readings, and one of another circuit is nobody's to use.
 */
export function neutralPrior(site: SiteState, yearBuilt: number | null, boxId: string): NeutralPrior {
  const finds = Object.entries(site.surveys).flatMap(([id, survey]) =>
    id !== boxId && survey.neutral && survey.looked === 'inside' && (survey.kind ?? 'wall') === 'wall' ? [survey.neutral] : [],
  )
  const seen = finds.filter((find) => find !== 'none').length
  const chance = (byYear(site.schemeId, yearBuilt) * yearWeighs + seen) / (yearWeighs + finds.length)
  return { chance, seen, of: finds.length }
}
