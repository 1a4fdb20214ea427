import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import { linkOf, openLink } from './link-of'
import type { NoteInstallerGone, UnitUnlinked, UnlinkUnit } from './unlink-unit.schema'

/** What stands where a device was paired before. */
export const noHomeLeft = 'no home is left on it: it waits to be paired anew'

/** The installer was taken off a device. */
export const unlinkUnit = jobCommand('unlinkUnit', {
  by: 'system',
  decide: (job, command: UnlinkUnit) => (job.units[command.unitId] ? done(unitUnlinked({ ...command, how: '' })) : noUnit()),
})
/** A device that the link cannot reach any more was reset, or is gone: with it the installer. */
export const noteInstallerGone = jobCommand('noteInstallerGone', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, { unitId, how, reset }: NoteInstallerGone) {
    if (!linkOf(job).units[unitId]) return refuse('notLinked', 'The link has not joined this device.')
    if (how.length < 3)
      return refuse('noteMissing', 'Note how the installer was taken off it.', 'Reset as its maker says; seen in the app.')
    return done(unitUnlinked({ unitId, homesLeft: reset ? 0 : null, how }))
  },
  label: () => 'installer taken off by hand',
})
export const unitUnlinked = jobEvent('unitUnlinked', {
  material: true,
  rows: true,
  evolve(job, { unitId, homesLeft }: UnitUnlinked) {
    const link = openLink(job)
    const linked = link.units[unitId]
    if (linked) link.left[unitId] = { ...linked, homesLeft }
    delete link.units[unitId]
    delete link.faults[unitId]
    // Nobody is on it any more: it forgot its network with its last home.
    const unit = job.units[unitId]
    if (homesLeft === 0 && unit && !unit.removedAt)
      unit.pairing = { ...{ result: 'failed', network: '', signal: null }, note: noHomeLeft, attempts: unit.pairing?.attempts ?? 0 }
  },
  say: ({ unitId, homesLeft, how }, { unit }) =>
    `took the installer off ${unit(unitId)}${how && `: ${how}`}${homesLeft === null ? '' : homesLeft === 0 ? `; ${noHomeLeft}` : homesLeft === 1 ? '; one home is left on it' : `; ${homesLeft} homes are left on it`}`,
})
