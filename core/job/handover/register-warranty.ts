import { counted } from '../../units/counted'
import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import type { RegisterWarranty, WarrantyRegistered } from './register-warranty.schema'

/** Devices were registered with their maker, by the serials of this record. The office often does it, days later. */
export const registerWarranty = jobCommand('registerWarranty', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: RegisterWarranty) {
    const units = command.unitIds.map((id) => job.units[id])
    if (units.some((unit) => !unit || unit.removedAt)) return noUnit()
    const installed = units.reduce((last, unit) => (unit!.installedAt > last ? unit!.installedAt : last), '').slice(0, 10)
    if (command.until !== null && command.until < installed)
      return refuse(
        'overAlready',
        `A warranty that ends on ${command.until} was over before the device was in the wall.`,
        'Look at the year.',
      )
    return done(warrantyRegistered(command))
  },
  label: ({ unitIds }) => `warranty of ${counted(unitIds.length, 'device')}`,
})

export const warrantyRegistered = jobEvent('warrantyRegistered', {
  evolve(job, { unitIds, number, until }: WarrantyRegistered, event) {
    job.warranties ??= {}
    for (const id of unitIds) job.warranties[id] = { number, until, at: event.at, by: event.actor.initials }
  },
  say: ({ unitIds, number, until }) =>
    `registered the warranty of ${counted(unitIds.length, 'device')}${number ? `, number ${number}` : ''}${until ? `, to ${until}` : ''}`,
})
