import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { placesOf } from '../progress'
import { forgetWiringAt, installedAt } from './places'
import type { PointRetired, RetirePoint } from './retire-point.schema'

export const retirePoint = jobCommand('retirePoint', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: RetirePoint) {
    const point = job.points[command.pointId]
    if (!point || !job.pointOrder.includes(point.id)) return refuse('noSuchPoint', 'This point is not part of the job.')
    if (installedAt(job, point))
      return refuse('unitInstalled', `A device of ${point.name} is in already.`, 'Replace or remove the device through a callback first.')
    return done(pointRetired(command))
  },
  label: () => 'point taken off',
})

export const pointRetired = jobEvent('pointRetired', {
  rows: true,
  material: true,
  evolve(job, { pointId }: PointRetired) {
    const point = job.points[pointId]
    if (point) forgetWiringAt(job, placesOf(point))
    job.pointOrder = job.pointOrder.filter((id) => id !== pointId)
    for (const work of Object.values(job.boxes))
      for (const device of Object.values(work.devices)) device.pointIds = device.pointIds.filter((id) => id !== pointId)
  },
  say: ({ pointId, reason }, { point }) => `took the point ${point(pointId)} off the job – ${reason}`,
})
