import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import { openLink } from './link-of'
import type { HomesNoted, NoteHomes } from './note-homes.schema'

/** Who is on a device, by the device’s own list. */
export const noteHomes = jobCommand('noteHomes', {
  by: 'system',
  decide: (job, command: NoteHomes) => (job.units[command.unitId] ? done(homesNoted(command)) : noUnit()),
})
export const homesNoted = jobEvent('homesNoted', {
  evolve(job, { unitId, homes }: HomesNoted, event) {
    const link = openLink(job)
    if (link.units[unitId]) link.units[unitId].homes = { list: homes, at: event.at }
    delete link.faults[unitId]
  },
  say({ unitId, homes }, { unit }) {
    const others = homes.filter(({ own }) => !own).map(({ label }) => label || 'a home without a name')
    return `asked ${unit(unitId)} who is on it: ${others.length ? others.join(', ') : 'nobody but the installer'}`
  },
})
