import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import { linkOf, openLink } from './link-of'
import type { NoteInstallerGone, UnitUnlinked, UnlinkUnit } from './unlink-unit.schema'

/** The installer was taken off a device. */
export const unlinkUnit = jobCommand('unlinkUnit', {
  by: 'system',
  decide: (job, command: UnlinkUnit) => (job.units[command.unitId] ? done(unitUnlinked({ ...command, how: '' })) : noUnit()),
})
/** A device that the link cannot reach any more was reset, or is gone: with it the installer. */
export const noteInstallerGone = jobCommand('noteInstallerGone', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, { unitId, how }: NoteInstallerGone) {
    if (!linkOf(job).units[unitId]) return refuse('notLinked', 'The link has not joined this device.')
    if (how.length < 3)
      return refuse('noteMissing', 'Note how the installer was taken off it.', 'Reset as its maker says; seen in the app.')
    return done(unitUnlinked({ unitId, homesLeft: null, how }))
  },
  label: () => 'installer taken off by hand',
})
export const unitUnlinked = jobEvent('unitUnlinked', {
  material: true,
  rows: true,
  evolve(job, { unitId }: UnitUnlinked) {
    const link = openLink(job)
    const linked = link.units[unitId]
    if (linked) link.left[unitId] = linked
    delete link.units[unitId]
    delete link.faults[unitId]
  },
  say: ({ unitId, homesLeft, how }, { unit }) =>
    `took the installer off ${unit(unitId)}${how && `: ${how}`}${homesLeft === null ? '' : homesLeft === 1 ? '; one home is left on it' : `; ${homesLeft} homes are left on it`}`,
})
