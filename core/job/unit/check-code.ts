import { readSetupCode } from '../../commission/setup-code'
import { refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import type { CheckCode, CodeChecked } from './check-code.schema'
import { isCode } from './read-code'

/**
 * Device, tab and card of one device say one code: a card of another carton is found before it is the only thing that is left of
 * the code, behind a plate. Whose card it is is told, where it is one of this job.
 */
export const checkCode = jobCommand('checkCode', {
  by: 'crew',
  decide(job, { unitId, from, setupCode: entry }: CheckCode, context) {
    const unit = job.units[unitId]
    if (!unit || unit.removedAt) return noUnit()
    if (unit.model.setupCode === 'none' || unit.code.kind === 'none')
      return refuse('noCode', `No setup code is recorded for ${unit.name || unit.serial}.`, 'Record it first.')
    if (!entry) {
      if (job.codeChecks[unitId]?.[from]?.agrees !== false)
        return refuse('nothingDiffers', `Nothing is known to say another code on the ${from}.`, 'Scan or type the code.')
      if (from === 'device') return refuse('deviceStays', 'What the device itself says cannot be taken away.', 'Record its code anew.')
      return done(codeChecked({ unitId, from, agrees: null, ending: '', ofUnitId: null }))
    }
    const reading = readSetupCode(unit.model.setupCode, entry, entry)
    if (!reading.ok) return refuse('codeWrong', reading.problem, 'Read it again.')
    const agrees = isCode(unit.code, reading.code, context)
    if (agrees === null)
      return refuse('needsServer', 'Codes are compared where their key is.', 'Go where there is a connection, then enter it again.')
    const other = agrees
      ? null
      : Object.values(job.units).find((one) => one.id !== unit.id && !one.removedAt && isCode(one.code, reading.code, context))
    return done(codeChecked({ unitId, from, agrees, ending: reading.code.canonical.slice(-2), ofUnitId: other?.id ?? null }))
  },
  label: ({ from }) => `setup code on the ${from} compared`,
})

export const codeChecked = jobEvent('codeChecked', {
  material: true,
  evolve(job, { unitId, from, agrees, ending, ofUnitId }: CodeChecked, event) {
    if (agrees === null) delete job.codeChecks[unitId]?.[from]
    else (job.codeChecks[unitId] ??= {})[from] = { agrees, ending, ofUnitId, by: event.actor.initials, at: event.at }
  },
  say(payload, { unit }) {
    if (payload.agrees === null) return `took the ${payload.from} of ${unit(payload.unitId)} away: it said another setup code`
    const text = `the ${payload.from} of ${unit(payload.unitId)} says ${payload.agrees ? 'the same setup code' : `another setup code, …${payload.ending}`}${payload.ofUnitId ? `: that of ${unit(payload.ofUnitId)}` : ''}`
    return payload.agrees ? text : alarm(text)
  },
})
