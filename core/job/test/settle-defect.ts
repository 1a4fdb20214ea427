import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { DefectSettled, SettleDefect } from './settle-defect.schema'

export const settleDefect = jobCommand('settleDefect', {
  by: 'crew',
  queues: true,
  decide(job, command: SettleDefect) {
    const defect = job.defects[command.defectId]
    if (!defect) return refuse('noSuchDefect', 'This defect is not listed.')
    if (defect.status === 'settled') return refuse('defectSettled', 'This defect is already settled.')
    return done(defectSettled(command))
  },
})

export const defectSettled = jobEvent('defectSettled', {
  rows: true,
  material: true,
  evolve(job, payload: DefectSettled) {
    job.defects[payload.defectId]!.status = 'settled'
  },
  say: (payload, { job }) => `settled “${job.defects[payload.defectId]?.text ?? 'a defect'}” – ${payload.how}`,
})
