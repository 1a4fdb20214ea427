import { consequenceOfPath } from '../../site/consequence'
import { boxesMerged } from '../../site/home/boxes-merged'
import { refuse } from '../../stream/envelope'
import { jobCommand, jobEvent } from '../define'
import { noBox } from '../refusals'
import type { BoxesJoined, MergeBoxes } from './merge-boxes.schema'
import { moveWithin, whyNotReshaped } from './reshape'

/** Listed as two, one box in the wall. It takes a box off the record: for the licensed or the office, as things are now. */
export const mergeBoxes = jobCommand('mergeBoxes', {
  by: 'crewOrOffice',
  decide(job, command: MergeBoxes, context) {
    const { site, actor } = context
    const [into, from] = [site.boxes[command.intoId], site.boxes[command.fromId]]
    if (!into || !from || into === from) return noBox()
    if (!actor.licensed && actor.role !== 'dispatcher')
      return refuse('licenceNeeded', 'Only a licensed person or the office takes a box off the record.', 'Ask a licensed crew mate.')
    const gangs = into.gangs + from.gangs
    if (gangs > 6) return refuse('tooManyGangs', `Together they would have ${gangs} gangs; a box has at most 6.`)
    const against = whyNotReshaped(job, context, into) ?? whyNotReshaped(job, context, from)
    if (against) return against
    const ends = consequenceOfPath(
      site,
      [into, ...Object.values(site.boxes).filter(({ farBoxIds }) => farBoxIds.includes(from.id))],
      [],
      null,
    )
    return {
      ok: true,
      events: [boxesJoined({ intoId: into.id, fromId: from.id, shift: into.gangs })],
      siteEvents: [boxesMerged({ ...command, ...ends })],
    }
  },
})

export const boxesJoined = jobEvent('boxesJoined', {
  rows: true,
  material: true,
  evolve(job, { intoId, fromId, shift }: BoxesJoined) {
    moveWithin(job, fromId, ({ gang }) => ({ boxId: intoId, gang: gang + shift }))
    const at = job.boxIds.filter((id) => id !== fromId)
    job.boxIds = at.includes(intoId) ? at : [...at, intoId]
    job.photos = job.photos.map((photo) => (photo.boxId === fromId ? { ...photo, boxId: intoId } : photo))
  },
  say: ({ intoId, fromId }, { box }) => `moved what this job has at ${box(fromId)} to ${box(intoId)}: they are one box`,
})
