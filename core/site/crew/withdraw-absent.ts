import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { AbsenceWithdrawn, WithdrawAbsent } from './withdraw-absent.schema'

export const withdrawAbsent = siteCommand('withdrawAbsent', {
  kind: 'work',
  by: 'owner',
  decide(site, command: WithdrawAbsent, { actor }) {
    if (!site.absences[command.personId]) return refuse('notDeclared', 'Nobody has declared this person absent.')
    if (actor.role !== 'lead' && actor.personId !== command.personId)
      return refuse('leadOnly', 'A lead or the person withdraws this.', 'Call a lead.')
    return accept(absenceWithdrawn(command))
  },
})

export const absenceWithdrawn = siteEvent('absenceWithdrawn', {
  evolve(site, payload: AbsenceWithdrawn) {
    delete site.absences[payload.personId]
  },
  say: (payload, { site }) => `withdrew the declaration that ${site.people[payload.personId]?.name ?? 'somebody'} is off the site`,
})
