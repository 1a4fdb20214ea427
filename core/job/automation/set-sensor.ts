import { sensorWords } from '../../automation/words'
import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { SensorSet, SetSensor } from './set-sensor.schema'
import { automationOf, mostSensors, openAutomation } from './automation-of'

/** A thing that only tells: of movement, of warmth, of a finger. */
export const setSensor = jobCommand('setSensor', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, { sensor }: SetSensor, { site }) {
    const { sensors } = automationOf(job)
    if (sensor.roomId && !site.rooms[sensor.roomId]) return refuse('noSuchRoom', 'That room is not in this home.')
    if (!sensors[sensor.id] && Object.keys(sensors).length >= mostSensors)
      return refuse('tooManySensors', `A home has at most ${mostSensors} sensors.`)
    const sameName = Object.values(sensors).find(({ id, name }) => id !== sensor.id && name.toLowerCase() === sensor.name.toLowerCase())
    if (sameName) return refuse('nameTaken', `There is a “${sameName.name}” already.`, 'Give it another name.')
    return done(sensorSet({ sensor }))
  },
  label: ({ sensor }) => `sensor “${sensor.name}”`,
})

export const sensorSet = jobEvent('sensorSet', {
  evolve(job, { sensor }: SensorSet) {
    openAutomation(job).sensors[sensor.id] = sensor
  },
  say: ({ sensor: { name, kind } }) => `recorded “${name}”, which tells of ${sensorWords[kind]}`,
})
