import { runsOnBattery } from '../../fit/battery'
import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import type { BatteryFitted, FitBattery } from './fit-battery.schema'
import { daysAfter } from './returns'

/** A fresh battery went in: by the crew, or by the customer, who said so on the telephone. */
export const fitBattery = jobCommand('fitBattery', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: FitBattery, { now }) {
    const unit = job.units[command.unitId]
    if (!unit || unit.removedAt) return noUnit()
    if (!runsOnBattery(unit.model)) return refuse('noBattery', `${unit.model.name} runs on no battery.`)
    // A day of grace on either side: the home’s day is not the server’s.
    if (command.on > daysAfter(now, 1)) return refuse('dayAhead', 'That day has not come yet.', 'Say the day it went in.')
    if (command.on < daysAfter(unit.installedAt, -1))
      return refuse('dayBefore', 'That day is before the device came.', 'The battery it came with counts from the day it was recorded.')
    return done(batteryFitted(command))
  },
  label: () => 'battery changed',
})

export const batteryFitted = jobEvent('batteryFitted', {
  rows: true,
  evolve(job, { unitId, battery, on }: BatteryFitted, event) {
    job.units[unitId]!.battery = { battery, on, at: event.at, by: event.actor.initials }
  },
  say: ({ unitId, battery, on }, { unit }) => `put a battery into ${unit(unitId)} on ${on}${battery ? `: ${battery}` : ''}`,
})
