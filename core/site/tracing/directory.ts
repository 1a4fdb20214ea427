import { feedIsUnknown, inPanelOrder } from '../feeds'
import type { SiteState } from '../state'
import { beliefOf, loadOf, sameFeeds, type Belief } from './belief'

/** How well it is known what feeds a box. Never a reason to touch: that takes tags and a proof. */
export type Known = 'confirmed' | 'seen' | 'as found'
export interface DirectoryLine {
  panel: string
  number: string
  breakerId: string
  role: string
  amps: number | null
  poles: number
  labelAsFound: string
  offLimits: string | null
  serves: { boxId: string; room: string; box: string; known: Known; shared: boolean }[]
}
export interface Directory {
  lines: DirectoryLine[]
  /** Boxes fed from elsewhere, or by something nobody has found. */
  unknown: { boxId: string; room: string; box: string; elsewhere: boolean }[]
}

/** What the rounds on record say about each box. */
export function beliefsAt(site: SiteState): Map<string, Belief> {
  const branches = Object.values(site.breakers).filter((breaker) => breaker.role === 'branch')
  return new Map(
    site.boxOrder.flatMap((id) => (branches.length ? [[id, beliefOf(loadOf(site, site.boxes[id]!, branches), site.huntRounds)]] : [])),
  )
}

/** The site's panel directory: every breaker with what it feeds, and whether that was seen or only read off a label. */
export function directoryOf(site: SiteState): Directory {
  const beliefs = beliefsAt(site)
  const knownOf = (boxId: string): Known => {
    const belief = beliefs.get(boxId)
    if (!belief || !sameFeeds(belief.breakerIds, site.boxes[boxId]!.breakerIds)) return 'as found'
    return belief.status === 'confirmed' ? 'confirmed' : belief.status === 'found' ? 'seen' : 'as found'
  }
  const place = (boxId: string) => {
    const box = site.boxes[boxId]!
    return { boxId, room: site.rooms[box.roomId]?.name ?? '', box: box.name }
  }
  return {
    lines: Object.values(site.breakers)
      .sort(
        (a, b) => (site.panels[a.panelId ?? '']?.name ?? '').localeCompare(site.panels[b.panelId ?? '']?.name ?? '') || inPanelOrder(a, b),
      )
      .map((breaker) => ({
        panel: site.panels[breaker.panelId ?? '']?.name ?? '',
        number: breaker.number,
        breakerId: breaker.id,
        role: breaker.role,
        amps: breaker.amps,
        poles: breaker.poles,
        labelAsFound: breaker.labelAsFound,
        offLimits: breaker.offLimits,
        serves: site.boxOrder
          .filter((id) => site.boxes[id]!.breakerIds.includes(breaker.id))
          .map((id) => ({ ...place(id), known: knownOf(id), shared: site.boxes[id]!.breakerIds.length > 1 })),
      })),
    unknown: site.boxOrder
      .filter((id) => feedIsUnknown(site.boxes[id]!))
      .map((id) => {
        const belief = beliefs.get(id)
        return {
          ...place(id),
          elsewhere: belief !== undefined && belief.breakerIds.length === 0 && ['found', 'confirmed'].includes(belief.status),
        }
      }),
  }
}
