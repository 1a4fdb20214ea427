import { lightColourWords } from '../../plan/words'
import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { PointWished, WishPoint } from './wish-point.schema'

export const wishPoint = jobCommand('wishPoint', {
  by: 'crewOrOffice',
  queues: true,
  decide: (job, command: WishPoint) =>
    job.points[command.pointId] ? done(pointWished(command)) : refuse('noSuchPoint', 'This point is not part of the job.'),
  label: () => 'a wish for a point',
})

export const pointWished = jobEvent('pointWished', {
  evolve(job, { pointId, wish }: PointWished) {
    job.wishes[pointId] = wish
  },
  say: ({ pointId, wish }, { point }) => {
    const said = [
      ...(wish.stays === 'dimmer' ? ['stays a dimmer'] : wish.stays === 'old' ? ['the old switch stays'] : []),
      ...(wish.noLamps ? ['no smart lamps'] : []),
      ...(wish.cheapNow ? ['cheap for now'] : []),
      ...(wish.colour ? [lightColourWords[wish.colour]] : []),
    ]
    return `noted for ${point(pointId)}: ${said.join(', ') || 'no wishes'}`
  },
})
