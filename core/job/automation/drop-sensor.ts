import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { DropSensor, SensorDropped } from './drop-sensor.schema'
import { automationOf, openAutomation } from './automation-of'

export const dropSensor = jobCommand('dropSensor', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, { sensorId }: DropSensor) {
    const known = automationOf(job).sensors[sensorId]
    return known ? done(sensorDropped({ sensorId, name: known.name })) : refuse('noSuchSensor', 'It is not there any more.')
  },
  label: () => 'take a sensor away',
})

export const sensorDropped = jobEvent('sensorDropped', {
  evolve(job, { sensorId }: SensorDropped) {
    delete openAutomation(job).sensors[sensorId]
  },
  say: ({ name }) => `took “${name}” away`,
})
