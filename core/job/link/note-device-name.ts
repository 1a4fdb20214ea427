import { alarm } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import type { DeviceNamed, NoteDeviceName } from './note-device-name.schema'
import { openLink } from './link-of'

/** What a device was told to be called, and what it said when it was asked again. */
export const noteDeviceName = jobCommand('noteDeviceName', {
  by: 'system',
  decide: (job, command: NoteDeviceName) => (job.units[command.unitId] ? done(deviceNamed(command)) : noUnit()),
})
export const deviceNamed = jobEvent('deviceNamed', {
  evolve(job, { unitId, name, kept }: DeviceNamed) {
    const link = openLink(job)
    if (link.units[unitId]) link.units[unitId].label = { name, kept }
    delete link.faults[unitId]
  },
  say: ({ unitId, name, kept }, { unit }) =>
    name === kept
      ? `wrote “${name}” into ${unit(unitId)}, which keeps it`
      : alarm(`wrote “${name}” into ${unit(unitId)}, which keeps “${kept}”`),
})
