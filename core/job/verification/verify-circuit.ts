import { circuitPasses, judgeCircuit, loopRuleOf } from '../../verification'
import { breakerName } from '../../site'
import { refuse } from '../../stream/envelope'
import { alarm, good } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { madeAt } from '../touch'
import type { CircuitVerified, VerifyCircuit } from './verify-circuit.schema'

/** Readings of a circuit after work on it, judged by the rule of the branch. A circuit that fails is stored as failing: it has to be mended. */
export const verifyCircuit = jobCommand('verifyCircuit', {
  by: 'crew',
  queues: true,
  decide(job, command: VerifyCircuit, context) {
    const breaker = context.site.breakers[command.breakerId]
    if (!breaker) return refuse('noSuchBreaker', 'This {breaker} is not on record.')
    if (context.site.schemeId !== 'iec230')
      return refuse(
        'otherScheme',
        'These limits are of a 230 V supply; here other rules apply.',
        'Note the permit and its inspection instead.',
      )
    if (!context.actor.licensed) return refuse('notLicensed', 'Circuits are verified by a licensed person.', 'Let one read and store them.')
    if (breaker.amps && breaker.amps !== command.readings.amps)
      return refuse(
        'otherRating',
        `On record it has ${breaker.amps} A, and the readings are for ${command.readings.amps} A.`,
        'Look at the {breaker}, and put right whichever is wrong: the limit follows from it.',
      )
    const rule = loopRuleOf(context.method.loopShare)
    const passed = circuitPasses(judgeCircuit(command.readings, rule))
    return done(circuitVerified({ ...command, passed, ...rule, name: context.actor.name, madeAt: madeAt(context) }))
  },
  label: () => 'readings of a circuit',
})

export const circuitVerified = jobEvent('circuitVerified', {
  evolve(job, { breakerId, ...found }: CircuitVerified, event) {
    job.verified ??= {}
    job.verified[breakerId] = { ...found, at: event.at, by: event.actor.initials }
  },
  say({ breakerId, passed, readings }, { site }) {
    const name = site.breakers[breakerId] ? breakerName(site, site.breakers[breakerId]) : 'a {breaker}'
    const loop = readings.loop === null ? '' : `, loop ${readings.loop} Ω`
    return passed ? good(`verified ${name}: passes${loop}`) : alarm(`verified ${name}: does not pass${loop}`)
  },
})
