import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { pointsOfBox } from '../progress'
import type { BoxTakenIn, TakeInBox } from './take-in-box.schema'

export const takeInBox = jobCommand('takeInBox', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: TakeInBox, { site }) {
    const box = site.boxes[command.boxId]
    if (!box) return refuse('noSuchBox', 'There is no such box at this site.')
    if (!command.part) {
      // The crew does not leave it behind unseen.
      if (box.closure !== 'closed') return refuse('boxOpen', `${box.name} is open.`, 'Close it up first.')
      const [point] = pointsOfBox(job, box.id)
      if (point)
        return refuse(
          'boxInUse',
          `${point.name} is switched from ${box.name}.`,
          'Take the point off the job first, or correct where it is switched.',
        )
      if (job.boxes[box.id] || Object.values(job.units).some((unit) => unit.boxId === box.id))
        return refuse('boxInUse', `Work is recorded at ${box.name}: it stays part of the job.`)
    }
    return done(boxTakenIn(command))
  },
  label: () => 'box of the job',
})

export const boxTakenIn = jobEvent('boxTakenIn', {
  evolve(job, { boxId, part }: BoxTakenIn) {
    job.boxIds = job.boxIds.filter((id) => id !== boxId)
    if (part) job.boxIds = [...job.boxIds, boxId]
  },
  say: ({ boxId, part }, { box }) => (part ? `took ${box(boxId)} into the job` : `took ${box(boxId)} out of the job`),
})
