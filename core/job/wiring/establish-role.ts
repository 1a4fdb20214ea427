import { adding } from '../../stream/upcast'
import { referenceNeutralBelowVolts } from '../../site/reading'
import { refuse } from '../../stream/envelope'
import { type SchemeId, supplySchemes } from '../../units/scheme'
import { conductorRoleWord } from '../../connect/steps'
import { flagRole } from '../box-wiring'
import { workOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { boxOf, noBox } from '../refusals'
import { doubtWords } from '../telling'
import { touchedOrRefuse } from '../touch'
import type { EstablishRole, RoleEstablished } from './establish-role.schema'

/**
 * What a role by hand rests on. A line and a neutral are told by live readings only: a switch's two screws do not tell line
 * from load, a traced cable may be continued in another colour, and no continuity tells a neutral from a ground.
 */
function roleIsUnproven({ role, method, volts, ohms }: EstablishRole, schemeId: SchemeId) {
  const { low, high } = supplySchemes[schemeId].utilisationBandVolts
  const inBand = (value: number | undefined) => value !== undefined && value >= 0.9 * low && value <= 1.1 * high
  if (role !== 'line' && role !== 'neutral')
    return method === 'continuity' && ohms === null
      ? refuse('readingMissing', 'Continuity is a reading: say how many ohms.', 'Read it, then store it.')
      : null
  if (method !== 'measured')
    return refuse(
      'liveReadingsOnly',
      `A ${role} is told by live readings only: not by a terminal, a colour, a traced cable or continuity.`,
      'Measure it while live, by the licensed person with everyone clear, or find it out at the wiring bench.',
    )
  const [first, second] = volts
  const fits =
    role === 'line' ? inBand(first) && inBand(second) : inBand(first) && second !== undefined && second < referenceNeutralBelowVolts
  return fits
    ? null
    : refuse(
        'readingMissing',
        role === 'line'
          ? 'A line reads the full voltage to the proven {ground} twice: with its switch in one position and in the other, or to another proven end.'
          : `A neutral reads the full voltage from a line, and below ${referenceNeutralBelowVolts} V to the proven {ground}.`,
        'Store both readings.',
      )
}

export const establishRole = jobCommand('establishRole', {
  by: 'crew',
  queues: true,
  decide(job, command: EstablishRole, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    if (!box.conductors.some((conductor) => conductor.letter === command.letter))
      return refuse('noSuchConductor', `There is no conductor ${command.letter} in ${box.name}.`)
    if (command.method === 'measured' && !context.actor.licensed)
      return refuse('licenceNeeded', 'Only a licensed person measures on live conductors.', 'Use continuity, or ask a licensed crew mate.')
    if (command.method === 'readings') {
      // The server looks for itself: what no reading establishes is not stored as established.
      if (!context.findings) return done(roleEstablished({ ...command, inDoubt: false }))
      const wire = context.findings(job, context.site, box.id)?.wires.find((one) => one.letter === command.letter)
      const here = wire?.settled ?? wire?.joint
      if (!here || flagRole[here.role] !== command.role)
        return refuse(
          'notEstablished',
          `The readings do not establish ${command.letter} as ${conductorRoleWord(command.role)}.`,
          'Make the next test the bench names.',
        )
      return done(roleEstablished({ ...command, inDoubt: false }))
    }
    const unproven = roleIsUnproven(command, context.site.schemeId)
    if (unproven) return unproven
    const touched = touchedOrRefuse(context, box.id)
    return 'ok' in touched ? touched : done(roleEstablished({ ...command, ...touched }))
  },
  label: (given) => `${given.letter} is ${conductorRoleWord(given.role)}`,
})

export const roleEstablished = jobEvent('roleEstablished', {
  lifts: [adding({ volts: [], ohms: null }), adding({ inDoubt: false })],
  evolve(job, payload: RoleEstablished, event) {
    workOn(job, payload.boxId).roles[payload.letter] = {
      role: payload.role,
      method: payload.method,
      by: event.actor.initials,
      ...(payload.inDoubt ? { inDoubt: true } : {}),
    }
  },
  say: (payload, { box }) =>
    `established ${payload.letter} as ${conductorRoleWord(payload.role)} at ${box(payload.boxId)} (${payload.method === 'oldTerminal' ? 'old terminal' : payload.method}${payload.volts.length ? `: ${payload.volts.join(' V and ')} V` : payload.ohms === null ? '' : `: ${payload.ohms} Ω`})${payload.inDoubt ? doubtWords : ''}`,
})
