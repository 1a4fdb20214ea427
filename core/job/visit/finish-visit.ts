import { decideLeave, siteLeft } from '../../site/crew/leave-site'
import { breakerName } from '../../site/names'
import { isLeftSafe } from '../../site/permissions'
import { refuse } from '../../stream/envelope'
import { boxesOfJob } from '../progress'
import { jobCommand, jobEvent } from '../define'
import type { FinishVisit, VisitFinished } from './finish-visit.schema'
import { visitOrRefuse } from './visit-rules'

export const finishVisit = jobCommand('finishVisit', {
  by: 'crew',
  decide(job, command: FinishVisit, { actor, site }) {
    const visit = visitOrRefuse(job, command.visitId, ['onSite'])
    if ('ok' in visit) return visit
    const open = boxesOfJob(job, site).filter((box) => !isLeftSafe(site, box))
    if (open.length)
      return refuse(
        'boxOpen',
        `${open.map((box) => box.name).join(', ')} ${open.length === 1 ? 'is' : 'are'} open.`,
        'Close up, cap and guard, or have the {breakers} held open by the company’s lock with a notice, before the crew leaves.',
      )
    const crew = [...new Set([...visit.personIds, actor.personId])]
    const voids = new Set<string>()
    const alarms = new Set<string>()
    for (const personId of crew) {
      const tag = Object.values(site.tags).find((candidate) => candidate.personId === personId && !candidate.company)
      if (tag)
        return refuse(
          'tagsLeft',
          `A tag of ${tag.name} still hangs on ${breakerName(site, site.breakers[tag.breakerId]!)}.`,
          `${tag.initials} takes it off, then the visit can end.`,
        )
      const leave = decideLeave(site, { ...actor, personId })
      if (!leave.ok) return leave
      for (const event of leave.events)
        if (event.type === 'siteLeft') {
          for (const id of event.payload.voids) voids.add(id)
          for (const id of event.payload.alarms) if (!crew.includes(id)) alarms.add(id)
        }
    }
    return {
      ok: true,
      events: [visitFinished(command)],
      siteEvents: [siteLeft({ voids: [...voids], alarms: [...alarms], people: crew, handOver: {} })],
    }
  },
})

export const visitFinished = jobEvent('visitFinished', {
  rows: true,
  evolve(job, payload: VisitFinished, event) {
    const visit = job.visits[payload.visitId]!
    visit.status = 'done'
    visit.finishedAt = event.at
  },
  say: () => 'ended the visit',
})
