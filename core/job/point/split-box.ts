import { consequenceOfPath } from '../../site/consequence'
import { boxSplit } from '../../site/home/box-split'
import { isBoxNamed } from '../../site/names'
import { counted } from '../../units/counted'
import { refuse } from '../../stream/envelope'
import { jobCommand, jobEvent } from '../define'
import { noBox } from '../refusals'
import type { BoxParted, SplitBox } from './split-box.schema'
import { moveWithin, whyNotReshaped } from './reshape'

/** Listed as one, two boxes in the wall. No path is taken away: each keeps every feed until somebody has looked. */
export const splitBox = jobCommand('splitBox', {
  by: 'crewOrOffice',
  decide(job, command: SplitBox, context) {
    const { site } = context
    const box = site.boxes[command.boxId]
    if (!box || site.boxes[command.newId]) return noBox()
    if (command.stay >= box.gangs) return refuse('noSuchGang', `${box.name} has ${counted(box.gangs, 'gang')}: nothing would be left over.`)
    if (isBoxNamed(site, box.roomId, command.name))
      return refuse('nameTaken', `There is a box “${command.name}” in this room already.`, 'Give this one its own name.')
    const against = whyNotReshaped(job, context, box)
    if (against) return against
    const isIn = (first: boolean) => (one: { boxId: string; gang: number }) => one.boxId === box.id && one.gang <= command.stay === first
    const tied = Object.values(job.points).some(({ controls }) => controls.some(isIn(true)) && controls.some(isIn(false)))
    const concerned = [box, ...box.farBoxIds.flatMap((id) => site.boxes[id] ?? [])]
    if (concerned.some(({ farBoxIds }) => farBoxIds.length >= 6)) return refuse('tooManySwitches', 'A box has at most six other locations.')
    const { boxId, newId, stay, name } = command
    return {
      ok: true,
      events: [boxParted({ boxId, newId, stay })],
      siteEvents: [boxSplit({ boxId, newId, name, stay, tied, ...consequenceOfPath(site, concerned, [], null) })],
    }
  },
})

export const boxParted = jobEvent('boxParted', {
  rows: true,
  material: true,
  evolve(job, { boxId, newId, stay }: BoxParted) {
    moveWithin(job, boxId, (at) => (at.gang > stay ? { boxId: newId, gang: at.gang - stay } : at))
    job.boxIds = job.boxIds.flatMap((id) => (id === boxId ? [id, newId] : [id]))
  },
  say: ({ boxId, newId }, { box }) => `moved what this job has in the last gangs of ${box(boxId)} to ${box(newId)}`,
})
