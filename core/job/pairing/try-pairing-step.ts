import { pairingStepWords } from '../../commission/pairing/words'
import { powerSince } from '../../site/power-since'
import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { madeAt } from '../touch'
import { restartsAlone } from './case-of'
import { joiningOf, openJoining, pairable } from './pairing-of'
import type { PairingStepTried, TryPairingStep } from './try-pairing-step.schema'

/** Something was done so that a device joins. That its power was cut and given back is not said here: the home’s record shows it. */
export const tryPairingStep = jobCommand('tryPairingStep', {
  by: 'crew',
  queues: true,
  decide(job, command: TryPairingStep, context) {
    const found = pairable(job, command.unitId)
    if ('ok' in found) return found
    const { unit } = found
    const box = context.site.boxes[unit.boxId]
    const last = joiningOf(job, unit.id).history.at(-1)?.at
    if (command.step === 'powerCycle' && box) {
      const { is, from } = powerSince(context.site, box)
      if (is === 'off' || from === null || (last && from <= Date.parse(last)))
        return refuse(
          'notCycled',
          `By the record {the breaker} of ${box.name} was not opened and closed since.`,
          'Open and close it on the {panel}’s page: hands out, everybody says clear, every proof behind it ends.',
        )
    }
    if (command.step === 'restart' && !restartsAlone(unit.model))
      return refuse('restartsByBreaker', `${unit.model.name} is not started anew by itself, as far as is on record.`, unit.model.restart)
    return done(pairingStepTried({ ...command, madeAt: madeAt(context) }))
  },
  label: ({ step }) => pairingStepWords[step].title,
})

export const pairingStepTried = jobEvent('pairingStepTried', {
  evolve(job, { unitId, step, madeAt: at }: PairingStepTried, event) {
    const joining = openJoining(job, unitId)
    joining.history.push({ tried: step, at, initials: event.actor.initials })
    joining.roundSince ??= at
    if (step === 'restart' || step === 'reset') joining.reopenedAt = at
  },
  say: ({ unitId, step }, { unit }) => `so that ${unit(unitId)} pairs: ${pairingStepWords[step].title}`,
})
