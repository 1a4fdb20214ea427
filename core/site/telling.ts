import { inTrade } from '../units/trade-words'
import { breakerName } from './names'
import { boxName } from './proofs'
import type { SiteState } from './state'

/** What entries of a site are told with: its things by name. */
export interface SiteWords {
  site: SiteState
  breaker(id: string): string
  box(id: string): string
  proofBox(proofId: string): string
}
export function siteWords(site: SiteState): SiteWords {
  const box = (id: string) => (site.boxes[id] ? boxName(site, site.boxes[id]) : 'a box')
  return {
    site,
    breaker(id) {
      if (site.breakers[id]) return breakerName(site, site.breakers[id])
      return inTrade(site.retired[id] ? `{breaker} ${site.retired[id].name}` : '{a breaker}', site.schemeId)
    },
    box,
    proofBox: (id) => box(site.proofs[id]?.boxId ?? ''),
  }
}

/** How many proofs an entry ended, as a sentence behind it. */
export const ended = (voids: string[]) =>
  voids.length ? ` ${voids.length === 1 ? 'One proof has' : `${voids.length} proofs have`} ended.` : ''
export const rangeText = (impedance: string) => (impedance === 'steps' ? 'two-pole detector' : `${impedance} impedance`)
