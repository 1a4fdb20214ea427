import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { ResumeVisit, VisitResumed } from './resume-visit.schema'
import { mayResume, ownVisitOrRefuse, resumeHours } from './visit-rules'

export const resumeVisit = jobCommand('resumeVisit', {
  by: 'itself',
  decide(job, command: ResumeVisit, { actor, now }) {
    const visit = ownVisitOrRefuse(job, command.visitId, ['done'], actor)
    if ('ok' in visit) return visit
    if (!mayResume(visit, now))
      return refuse('tooLate', `This visit ended more than ${resumeHours} hours ago.`, 'The dispatcher schedules another one.')
    return done(visitResumed(command))
  },
})

export const visitResumed = jobEvent('visitResumed', {
  rows: true,
  evolve(job, payload: VisitResumed) {
    Object.assign(job.visits[payload.visitId]!, { status: 'onSite', finishedAt: null })
  },
  say: () => 'went on with the visit',
})
