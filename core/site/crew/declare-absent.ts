import { accept, refuse } from '../../stream/envelope'
import { alarm, quoted } from '../../stream/telling'
import { siteCommand, siteEvent } from '../define'
import { minutesBetween } from '../permissions'
import type { AbsenceDeclared, DeclareAbsent } from './declare-absent.schema'
import { leftBehind } from './leaving'

/** Whoever did something here this recently is taken to be here, minutes. Common practice, no source. */
const stillHereMinutes = 30

export const declareAbsent = siteCommand('declareAbsent', {
  kind: 'permission',
  by: 'office',
  decide(site, command: DeclareAbsent, { actor, now }) {
    const person = site.people[command.personId]
    if (actor.role !== 'lead') return refuse('leadOnly', 'Only a lead can end what an absent person left open.', 'Call a lead.')
    if (command.personId === actor.personId) return refuse('ownTag', 'This is yours. Answer it, or take it off yourself.')
    if (!person || !leftBehind(site, command.personId)) return refuse('nothingLeft', 'This person has nothing open here.')
    if (site.absences[command.personId]) return refuse('alreadyDeclared', 'This is already declared and needs a second person.')
    const seemsHere = command.personId in site.onSite || minutesBetween(person.lastAt, now) < stillHereMinutes
    if (seemsHere && command.explained.length < 10)
      return refuse(
        'seemsHere',
        `The record has ${person.name} on site; the last word from them came ${Math.max(0, Math.round(minutesBetween(person.lastAt, now)))} minutes ago.`,
        'Call them. Then write how you know that they have left the building.',
      )
    return accept(absenceDeclared({ ...command, name: person.name }))
  },
})

export const absenceDeclared = siteEvent('absenceDeclared', {
  evolve(site, payload: AbsenceDeclared, event) {
    const { personId, name, reason } = payload
    site.absences[personId] = {
      personId,
      name,
      declaredBy: { personId: event.actor.personId, name: event.actor.name },
      reason,
      at: event.receivedAt,
    }
  },
  say: (payload) => alarm(`declared ${payload.name} off the site – ${payload.reason}${quoted(payload.explained)}`),
})
