import { refuse } from '../../stream/envelope'
import { alarm, good } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { NotePermit, PermitNoted } from './note-permit.schema'
import { permitDayWords, permitWords } from './words'

/** The permit of a job and its inspection; what needs one is not handed over before it is released. */
export const notePermit = jobCommand('notePermit', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: NotePermit) {
    if (command.state !== 'none' && command.state !== 'applied' && !command.number)
      return refuse('noNumber', 'A permit that was granted has a number.', 'Write it down: the inspector asks for it.')
    return done(permitNoted(command.state === 'none' ? { ...command, on: null } : command))
  },
  label: ({ number }) => `permit ${number}`,
})

export const permitNoted = jobEvent('permitNoted', {
  evolve(job, payload: PermitNoted, event) {
    // Days were not noted from the beginning.
    job.permit = { ...payload, on: payload.on ?? null, at: event.at, by: event.actor.initials }
  },
  say({ number, state, on, note }) {
    const day = on && state !== 'none' ? `, ${permitDayWords[state]} ${on}` : ''
    const text = `noted the permit${number ? ` ${number}` : ''}: ${permitWords[state]}${day}${note ? ` – ${note}` : ''}`
    return state === 'failed' ? alarm(text) : state === 'released' ? good(text) : text
  },
})
