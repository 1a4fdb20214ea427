import type { EventDraft } from '../../stream/envelope'
import { consequenceOfPath } from '../consequence'
import type { BoxState, SiteState } from '../state'
import { boxCorrected, calledNow } from './correct-box'

/** Entries that tell each of these boxes of the switches in the others; none where the record knows them all. */
export function farSwitchesOf(site: SiteState, boxIds: string[]): EventDraft[] {
  const ids = [...new Set(boxIds)].filter((id) => site.boxes[id])
  const lacking = ids.filter((id) => ids.some((other) => other !== id && !site.boxes[id]!.farBoxIds.includes(other)))
  const [first] = lacking
  if (!first) return []
  // Everybody concerned is told once, with the first of the entries.
  const ends = consequenceOfPath(
    site,
    lacking.map((id) => site.boxes[id]!),
    [],
    null,
  )
  return lacking.map((id) => {
    const box = site.boxes[id]!
    const farBoxIds = ids.filter((other) => other !== id && !box.farBoxIds.includes(other))
    return boxCorrected({
      boxId: id,
      farBoxIds,
      was: calledNow(site, box),
      ...(id === first ? ends : { voids: [], alarms: [] }),
    })
  })
}

/** The entry that tells a box at a fixture of the switches that act on it; they learn nothing by it: it has no switch. */
export function switchesOfFixture(site: SiteState, box: BoxState, boxIds: string[]): EventDraft[] {
  const farBoxIds = [...new Set(boxIds)].filter((id) => id !== box.id && site.boxes[id] && !box.farBoxIds.includes(id))
  if (farBoxIds.length === 0 || box.farBoxIds.length + farBoxIds.length > 6) return []
  return [boxCorrected({ boxId: box.id, farBoxIds, was: calledNow(site, box), ...consequenceOfPath(site, [box], [], null) })]
}
