import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { doorWords } from '../words'
import type { DecideAtDoor, DoorDecided } from './decide-at-door.schema'
import { ownVisitOrRefuse } from './visit-rules'

/** Begin or not: the program says what it knows, the crew decides. */
export const decideAtDoor = jobCommand('decideAtDoor', {
  by: 'itself',
  queues: true,
  decide(job, command: DecideAtDoor, { actor }) {
    const visit = ownVisitOrRefuse(job, command.visitId, ['planned', 'onSite'], actor)
    if ('ok' in visit) return visit
    if (command.decision === 'no' && command.note.trim().length < 3)
      return refuse('reasonMissing', 'A visit that is not begun needs a reason.', 'Say why in a few words: the office plans by it.')
    return done(doorDecided(command))
  },
  label: ({ decision }) => `at the door: the crew ${doorWords[decision]}`,
})

export const doorDecided = jobEvent('doorDecided', {
  evolve(job, { visitId, ...door }: DoorDecided, event) {
    job.visits[visitId]!.door = { ...door, by: event.actor.initials, at: event.at }
  },
  say: ({ decision, note }) => `decided at the door: ${doorWords[decision]}${note ? ` – ${note}` : ''}`,
})
