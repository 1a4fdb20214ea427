import { isUnderWay } from '../../site/home/under-way'
import { boxName } from '../../site/proofs'
import type { BoxState } from '../../site/state'
import { refuse, type Refusal } from '../../stream/envelope'
import { counted } from '../../units/counted'
import { waited } from '../../site/context'
import type { JobContext } from '../context'
import type { JobState } from '../state'
import { workOn } from '../changes'
import { forgetWiringAt } from './places'

/** Why a box cannot become part of another or two boxes now; null: it can. Its conductors are recorded anew after it. */
export function whyNotReshaped(job: JobState, context: JobContext, box: BoxState): { ok: false; refusal: Refusal } | null {
  const name = boxName(context.site, box)
  if ((context.site.surveys[box.id]?.kind ?? 'wall') !== 'wall')
    return refuse('noWallBox', `${name} is no box in the wall: it has no gangs to share.`)
  if (box.retired) return refuse('noSuchBox', `${name} is off the record.`)
  if (waited(context)) return refuse('onlineOnly', 'This was entered without network.', 'Look again, then record it.')
  if (box.closure !== 'closed') return refuse('boxOpen', `${name} is open.`, 'Close it up first.')
  if (isUnderWay(context.site, box)) return refuse('boxInUse', `Something is under way at ${name}.`, 'Finish it first.')
  const { installed, otherJobs } = context.elsewhereAt(box.id)
  if (installed) return refuse('unitInstalled', `A device is installed in ${name}.`, 'Replace or remove it through a callback first.')
  if (otherJobs)
    return refuse(
      'boxInUse',
      `${counted(otherJobs, 'other open job')} of this home ${otherJobs === 1 ? 'works' : 'work'} at ${name}.`,
      'Close that one, or take the box out of it, first.',
    )
  const work = job.boxes[box.id]
  if (work && (Object.keys(work.roles).length || Object.keys(work.steps).length || work.wiring?.readings.length))
    return refuse(
      'boxInUse',
      `Conductors were told apart in ${name}: their letters would be mixed up.`,
      'Correct the gangs and points by hand, or record the box anew.',
    )
  return null
}

type Place = { boxId: string; gang: number }
/** Points and devices of a job that are at a box go where `to` says. */
export function moveWithin(job: JobState, boxId: string, to: (at: Place) => Place): void {
  const moved = (at: Place): Place => (at.boxId === boxId ? to(at) : at)
  for (const point of Object.values(job.points)) {
    if (!point.controls.some((at) => at.boxId === boxId)) continue
    const controls = point.controls.map(moved)
    job.points[point.id] = { ...point, controls }
    forgetWiringAt(job, [...point.controls, ...controls])
  }
  for (const [serial, unit] of Object.entries(job.prepared))
    if (unit.boxId === boxId) job.prepared[serial] = { ...unit, ...to({ boxId, gang: unit.gang }) }
  const work = job.boxes[boxId]
  if (!work) return
  delete job.boxes[boxId]
  for (const [gang, device] of Object.entries(work.devices)) {
    const at = to({ boxId, gang: Number(gang) })
    workOn(job, at.boxId).devices[at.gang] = device
  }
  for (const gang of work.oldStays ?? []) {
    const at = to({ boxId, gang })
    const there = workOn(job, at.boxId)
    there.oldStays = [...(there.oldStays ?? []), at.gang]
  }
}
