import type { NeutralFind, SiteState } from '../site'
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
  alike: HomesAlike | null
}
/** What was found in homes wired alike: of one builder, or in one street. */
export interface HomesAlike {
  by: 'builder' | 'street'
  homes: number
  /** Opened boxes with a neutral, and opened boxes in all. */
  neutrals: number
  opened: number
}
/** What is known of a home besides its record. */
export interface HomeKnown {
  yearBuilt: number | null
  alike: HomesAlike | null
}
/** A box of a home wired alike tells so much of one opened here, and all of them together at most this. Common practice, no source. */
const alikeWeighs = { builder: 0.4, street: 0.25 }
const alikeMost = 3
/** In mobile homes devices of one piece with their box are usual, and the neutral runs past them in the cable. Common practice, no source. */
const inMobileHome = 0.3

/** What was found in boxes in the wall that somebody opened. */
export const neutralsFound = (site: SiteState, exceptBoxId: string | null = null): NeutralFind[] =>
  Object.entries(site.surveys).flatMap(([id, survey]) =>
    id !== exceptBoxId && !site.boxes[id]?.retired && survey.neutral && survey.looked === 'inside' && (survey.kind ?? 'wall') === 'wall'
      ? [survey.neutral]
      : [],
  )

/**
 * How likely a neutral is in a box nobody has looked into: what kind of home it is and its year, then homes wired alike, then
 * what was found in this one. Never a proof: a neutral is told by live readings, and one of another circuit is nobody's to use.
 */
export function neutralPrior(site: SiteState, { yearBuilt, alike }: HomeKnown, boxId: string): NeutralPrior {
  const finds = neutralsFound(site, boxId)
  const seen = finds.filter((find) => find !== 'none').length
  const usual = site.home.housing === 'mobile' ? inMobileHome : byYear(site.schemeId, yearBuilt)
  const near = alike ? Math.min(alikeMost, alike.opened * alikeWeighs[alike.by]) : 0
  const nearShare = alike && alike.opened ? alike.neutrals / alike.opened : 0
  const chance = (usual * yearWeighs + near * nearShare + seen) / (yearWeighs + near + finds.length)
  return { chance, seen, of: finds.length, alike: near > 0 ? alike : null }
}

/** What a page knows of its home; of a page kept by an older program perhaps less. */
export const homeKnown = (page: { site: { yearBuilt: number | null; alike?: HomesAlike | null } } | null): HomeKnown => ({
  yearBuilt: page?.site.yearBuilt ?? null,
  alike: page?.site.alike ?? null,
})
