import { counted } from '../../units/counted'
import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { end, gone } from '../changes'
import { consequenceFor, endOf } from '../consequence'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import { boxesReached } from '../feeds'
import { proofsIn } from '../proofs'
import { isSignature } from '../signature'
import { ended } from '../telling'
import type { AbsentEnded, ConfirmAbsent } from './confirm-absent.schema'
import { restingOn } from './leaving'

export const confirmAbsent = siteCommand('confirmAbsent', {
  kind: 'fact',
  ownPin: true,
  decide(site, command: ConfirmAbsent, { actor, ...context }) {
    const absence = site.absences[command.personId]
    if (!absence) return refuse('notDeclared', 'No lead has declared this person absent.', 'The lead begins.')
    if (actor.personId === command.personId) return refuse('notAbsent', 'You are here: undo the declaration, then take your own tags off.')
    if (command.household && !isSignature(command.household.strokes))
      return refuse('noSignature', 'That is not a signature.', 'Sign with the whole name.')
    if (actor.personId === absence.declaredBy.personId && !command.household)
      return refuse(
        'secondPerson',
        'A second person confirms that they have left.',
        'A crew mate or the office does it on their own device; with nobody else in the company, somebody at the home signs here.',
      )
    if (waited(context)) return refuse('onlineOnly', 'This was entered without network.', 'Look again whether they are really gone.')
    const tags = Object.values(site.tags).filter((tag) => tag.personId === command.personId && !tag.company)
    const grants = Object.values(site.grants).filter((permit) => permit.personId === command.personId)
    const reached = grants.flatMap((permit) => boxesReached(site, permit.breakerId))
    const mates = consequenceFor(site, [...new Set(reached)], [], actor)
    const ends = endOf(site, [...new Set([...restingOn(site, command.personId), ...proofsIn(site, reached)])], actor)
    return accept(
      absentEnded({
        ...command,
        name: absence.name,
        declaredBy: absence.declaredBy.name,
        reason: absence.reason,
        tagIds: tags.map((tag) => tag.id),
        breakerIds: grants.map((permit) => permit.breakerId),
        voids: ends.voids,
        alarms: [...new Set([...mates.alarms, ...ends.alarms])].filter((id) => id !== command.personId),
      }),
    )
  },
})

export const absentEnded = siteEvent('absentEnded', {
  evolve(site, payload: AbsentEnded, event) {
    const { personId } = payload
    for (const id of payload.tagIds) delete site.tags[id]
    for (const breakerId of payload.breakerIds) {
      // Nobody saw what the absent person did: somebody has to look.
      const breaker = site.breakers[breakerId]!
      breaker.state = 'unknown'
      breaker.energisedSeq = event.seq
      breaker.stateSeq = event.seq
    }
    for (const permit of Object.values(site.grants))
      if (permit.personId === personId) {
        delete site.grants[permit.id]
        if (permit.clearanceId) delete site.asks[permit.clearanceId]
      }
    for (const ask of Object.values(site.asks)) {
      if (ask.personId === personId) delete site.asks[ask.id]
      ask.clear = ask.clear.filter((person) => person.personId !== personId)
    }
    gone(site, personId, event)
    delete site.absences[personId]
    if (site.stop?.personId === personId) delete site.stop
    end(site, payload, { code: 'absent', name: payload.name }, event)
    // They are told when they sign in again; nothing waits for it.
    site.alarms[`${event.seq} ${personId}`] = {
      personId,
      name: payload.name,
      initials: site.people[personId]?.initials ?? '',
      boxIds: [],
      seq: event.seq,
      what: event.type,
      by: payload.declaredBy,
      breakerId: null,
      at: event.receivedAt,
      shownAt: null,
    }
  },
  say: (payload) =>
    alarm(
      `confirmed that ${payload.name} is off the site${payload.household ? ` (signed by ${payload.household.name})` : ''}: ${counted(payload.tagIds.length, 'tag')} taken off.${ended(payload.voids)}`,
    ),
})
