import { counted } from '../../units/counted'
import { boxAt, end } from '../changes'
import { siteEvent } from '../define'
import { ended } from '../telling'
import type { BoxSplit } from './box-split.schema'
import { emptyBox } from './empty-box'

/** Follows from `splitBox` of a job, which moves what it has there. Which feed is in which of the two nobody knows: both keep all. */
export const boxSplit = siteEvent('boxSplit', {
  evolve(site, payload: BoxSplit, event) {
    const { boxId, newId, name, stay, tied } = payload
    const box = boxAt(site, boxId)
    const tie = (id: string) => (tied ? [id] : [])
    const fresh = structuredClone(emptyBox)
    site.boxes[newId] = {
      ...fresh,
      ...{ id: newId, roomId: box.roomId, name, gangs: box.gangs - stay, material: box.material, unknownFeed: box.unknownFeed },
      ...{ volumeIn3: null, depthMm: null, internalClamps: 0 },
      breakerIds: [...box.breakerIds],
      farBoxIds: [...box.farBoxIds, ...tie(boxId)],
    }
    for (const id of box.farBoxIds) {
      const far = site.boxes[id]
      if (far?.farBoxIds.includes(boxId)) far.farBoxIds = [...far.farBoxIds, newId]
    }
    const survey = site.surveys[boxId] ?? {}
    const { cables: _, splices: __, freeLengthMm: ___, old, ...kept } = survey
    const mine = old?.filter(({ gang }) => gang <= stay)
    const theirs = old?.filter(({ gang }) => gang > stay).map((one) => ({ ...one, gang: one.gang - stay }))
    site.surveys[boxId] = { ...kept, ...(mine ? { old: mine } : {}) }
    site.surveys[newId] = { kind: kept.kind ?? 'wall', ...(theirs ? { old: theirs } : {}) }
    box.gangs = stay
    box.farBoxIds = [...box.farBoxIds, ...tie(newId)]
    Object.assign(box, { volumeIn3: null, depthMm: null, conductors: [], readLive: [], floats: [], shifted: [] })
    site.boxOrder.splice(site.boxOrder.indexOf(boxId) + 1, 0, newId)
    end(site, payload, { code: 'boxCorrected' }, event, { boxIds: [boxId] })
  },
  say: ({ boxId, name, stay, voids }, { box }) =>
    `recorded that ${box(boxId)} is two boxes: ${counted(stay, 'gang')} there, the rest in ${name}.${ended(voids)}`,
})
