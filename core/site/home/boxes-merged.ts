import { boxAt, end } from '../changes'
import { siteEvent } from '../define'
import { ended } from '../telling'
import type { BoxesMerged } from './boxes-merged.schema'

const both = <T>(a: T[], b: T[]) => [...new Set([...a, ...b])]

/** Follows from `mergeBoxes` of a job, which moves what it has there. */
export const boxesMerged = siteEvent('boxesMerged', {
  evolve(site, payload: BoxesMerged, event) {
    const { intoId, fromId } = payload
    const [into, from] = [boxAt(site, intoId), boxAt(site, fromId)]
    const [seen, seenToo] = [site.surveys[intoId] ?? {}, site.surveys[fromId] ?? {}]
    const old = [...(seen.old ?? []), ...(seenToo.old ?? []).map((one) => ({ ...one, gang: one.gang + into.gangs }))]
    const { cables: _, splices: __, freeLengthMm: ___, ...kept } = seen
    const cables = seen.cables && seenToo.cables ? { cables: [...seen.cables, ...seenToo.cables].slice(0, 12) } : {}
    site.surveys[intoId] = { ...kept, ...cables, ...(old.length ? { old } : {}) }
    into.gangs += from.gangs
    into.unknownFeed = into.unknownFeed || from.unknownFeed || from.breakerIds.length === 0 || into.breakerIds.length === 0
    into.breakerIds = both(into.breakerIds, from.breakerIds)
    into.farBoxIds = both(into.farBoxIds, from.farBoxIds).filter((id) => id !== intoId && id !== fromId)
    // Shown apart from a breaker is only what both were shown apart from.
    into.ruledOut = Object.fromEntries(Object.entries(into.ruledOut).filter(([id]) => from.ruledOut[id]))
    // Its size is that of neither, and its conductors are recorded anew: the letters of the two would be mixed up.
    Object.assign(into, { volumeIn3: null, depthMm: null, conductors: [], readLive: [], floats: [], shifted: [] })
    for (const box of Object.values(site.boxes))
      if (box.id !== intoId && box.farBoxIds.includes(fromId))
        box.farBoxIds = both(
          box.farBoxIds.filter((id) => id !== fromId),
          [intoId],
        )
    site.signals = site.signals.map((signal) => (signal.boxId === fromId ? { ...signal, boxId: intoId } : signal))
    from.retired = { by: event.actor.name, at: event.receivedAt, reason: payload.reason }
    site.boxOrder = site.boxOrder.filter((id) => id !== fromId)
    if (site.huntScope) site.huntScope = both(site.huntScope, [intoId]).filter((id) => id !== fromId)
    end(site, payload, { code: 'boxCorrected' }, event, { boxIds: [intoId] })
  },
  say: ({ intoId, fromId, reason, voids }, { box }) =>
    `recorded that ${box(fromId)} and ${box(intoId)} are one box – ${reason}.${ended(voids)}`,
})
