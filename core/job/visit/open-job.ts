import { counted } from '../../units/counted'
import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { withFixture } from '../lifts'
import type { JobOpened, OpenJob } from './open-job.schema'

export const openJob = jobCommand('openJob', {
  by: 'office',
  decide(job, command: OpenJob, { site }) {
    if (job.seq > 0) return refuse('jobExists', 'This job is already open.')
    if (command.boxIds.some((id) => !site.boxes[id])) return refuse('brokenJob', 'The job names a box the site does not have.')
    for (const point of command.points) {
      if (!site.rooms[point.roomId]) return refuse('brokenJob', `${point.name} is in a room the site does not have.`)
      if (point.fixtureBoxId && !command.boxIds.includes(point.fixtureBoxId))
        return refuse('brokenJob', `${point.name} hangs on a box that is not part of the job.`)
      for (const control of point.controls) {
        const box = site.boxes[control.boxId]
        if (!box || !command.boxIds.includes(control.boxId))
          return refuse('brokenJob', `${point.name} is switched from a box that is not part of the job.`)
        if (control.gang > box.gangs)
          return refuse('brokenJob', `${point.name}: ${box.name} has ${counted(box.gangs, 'gang')}, not ${control.gang}.`)
      }
    }
    return done(jobOpened(command))
  },
})

export const jobOpened = jobEvent('jobOpened', {
  rows: true,
  lifts: [withFixture],
  evolve(job, payload: JobOpened) {
    job.siteId = payload.siteId
    job.title = payload.title
    job.note = payload.note
    job.boxIds = payload.boxIds
    for (const point of payload.points) {
      job.points[point.id] = point
      job.pointOrder.push(point.id)
    }
  },
  say: (payload) => `opened the job with ${counted(payload.points.length, 'point')} in ${counted(payload.boxIds.length, 'box', 'boxes')}`,
})
