import { nameClashes } from '../../names/clashes'
import { refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { withPointNamed } from '../lifts'
import { namesBeside } from '../progress'
import { noUnit } from '../refusals'
import type { NameUnit, UnitNameContested, UnitNamed } from './name-unit.schema'

export const nameUnit = jobCommand('nameUnit', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: NameUnit, { otherNames, actor, jobSeq }) {
    const unit = job.units[command.unitId]
    if (!unit || unit.removedAt) return noUnit()
    // Two people named it without knowing of each other: nobody's word is lost, a person picks.
    const { pointId } = command
    if (pointId && !job.boxes[unit.boxId]?.devices[unit.gang]?.pointIds.includes(pointId))
      return refuse('noSuchPoint', 'That point is not on this device.')
    const blind = !pointId && jobSeq !== null && unit.nameSeq > jobSeq && unit.namedBy !== null && unit.namedBy.personId !== actor.personId
    if (blind && unit.name.toLowerCase() !== command.name.toLowerCase()) return done(unitNameContested(command))
    const mates = namesBeside(job, unit, pointId)
    const clashes = nameClashes(command.name, [...mates, ...otherNames])
    const hard = clashes.filter((clash) => clash.kind !== 'contained')
    if (hard.length)
      return refuse(
        'nameClash',
        hard.map((clash) => clash.sentence),
        'Room and thing make a name: “net loft window light”.',
      )
    if (clashes.length && !command.despiteClash)
      return refuse(
        'nameContained',
        clashes.map((clash) => clash.sentence),
        'Choose a name with a different word, or keep it on purpose.',
      )
    return done(unitNamed(command))
  },
  label: (submission) => `name “${submission.name}”`,
})

export const unitNamed = jobEvent('unitNamed', {
  rows: true,
  material: true,
  lifts: [withPointNamed],
  evolve(job, payload: UnitNamed, event) {
    const unit = job.units[payload.unitId]!
    const { pointId } = payload
    if (pointId) {
      unit.channelNames = { ...unit.channelNames, [pointId]: payload.name }
      return
    }
    unit.name = payload.name
    unit.namedBy = { personId: event.actor.personId, initials: event.actor.initials }
    unit.nameSeq = event.seq
    unit.otherNames = []
  },
  say: (payload, { job }) =>
    `named ${payload.pointId ? `the channel of ${job.points[payload.pointId]?.name ?? 'a point'} at ` : ''}${job.units[payload.unitId]?.serial ?? 'a device'} “${payload.name}”${payload.despiteClash ? ' although it contains another name' : ''}`,
})

export const unitNameContested = jobEvent('unitNameContested', {
  lifts: [withPointNamed],
  evolve(job, payload: UnitNameContested, event) {
    const unit = job.units[payload.unitId]!
    if (!unit.otherNames.some((other) => other.name === payload.name))
      unit.otherNames.push({ name: payload.name, initials: event.actor.initials })
  },
  say: (payload, { job }) =>
    alarm(`named ${job.units[payload.unitId]?.serial ?? 'a device'} “${payload.name}” without knowing of the other name: pick one`),
})
