import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import { openLink } from './link-of'
import type { NoteOpened, OpenedForHousehold } from './note-opened.schema'

/** A device waits for one more home for a while, by a code of its own, which is not part of the record. */
export const noteOpened = jobCommand('noteOpened', {
  by: 'system',
  decide: (job, command: NoteOpened) => (job.units[command.unitId] ? done(openedForHousehold(command)) : noUnit()),
})
export const openedForHousehold = jobEvent('openedForHousehold', {
  evolve(job, { unitId }: OpenedForHousehold) {
    const link = openLink(job)
    // Whoever is on it is asked for again.
    if (link.units[unitId]) link.units[unitId].homes = null
    delete link.faults[unitId]
  },
  say: ({ unitId }, { unit }) => `opened ${unit(unitId)} for the household`,
})
