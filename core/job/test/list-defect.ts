import { refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { DefectListed, ListDefect } from './list-defect.schema'

export const listDefect = jobCommand('listDefect', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: ListDefect) {
    if (job.defects[command.defectId]) return refuse('defectExists', 'This defect is already listed.')
    if (command.pointId !== null && !job.points[command.pointId]) return refuse('noSuchPoint', 'This point is not part of the job.')
    return done(defectListed(command))
  },
  label: (submission) => `open defect: ${submission.text}`,
})

export const defectListed = jobEvent('defectListed', {
  rows: true,
  material: true,
  evolve(job, payload: DefectListed) {
    job.defects[payload.defectId] = { id: payload.defectId, pointId: payload.pointId, text: payload.text, status: 'open' }
  },
  say: (payload, { point }) => alarm(`listed an open defect at ${point(payload.pointId)} – ${payload.text}`),
})
