import { refuse } from '../../stream/envelope'
import { emptyPlan } from '../../wiring/plan/plan-words'
import { wiringOf } from '../box-wiring'
import { wiringOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { planAtOtherBoxOf, setTogether } from '../progress'
import { boxOf, noBox } from '../refusals'
import type { PlanWiring, WiringPlanned } from './plan-wiring.schema'

export const planWiring = jobCommand('planWiring', {
  by: 'crew',
  queues: true,
  decide(job, command: PlanWiring, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const letters = new Set(box.conductors.map((conductor) => conductor.letter))
    const named = command.plan
      ? [
          ...command.plan.capped,
          ...command.plan.splices.flatMap((splice) => splice.letters),
          ...[...command.plan.devices, ...command.plan.kept].flatMap(({ terminals }) => Object.values(terminals).flat()),
          ...command.plan.jumpers.flatMap(({ from, to }) => [from, to]).filter((end) => !end.includes(':')),
          ...command.plan.elsewhere.flatMap(({ through, sense, neutral }) => [through ?? [], sense ?? [], neutral ?? []].flat()),
          ...[...command.plan.fixtureRelays, ...command.plan.feeds].map(({ letter }) => letter),
        ]
      : []
    const stranger = named.find((letter) => !letters.has(letter))
    if (stranger) return refuse('noSuchConductor', `There is no conductor ${stranger} in ${box.name}.`)
    const { planned } = wiringOf(job, box.id)
    const blind = planned && context.jobSeq !== null && planned.seq > context.jobSeq && planned.personId !== context.actor.personId
    if (blind)
      return refuse(
        'planChanged',
        `${planned.initials} changed the wiring plan of ${box.name} at the same time.`,
        'The drawing shows it now. Look at it, then make your change again.',
      )
    const owner = command.plan && box.gangs === 1 ? planAtOtherBoxOf(job, box.id) : null
    if (owner) {
      const name = context.site.boxes[owner]?.name ?? 'another box'
      return refuse(
        'plannedElsewhere',
        `${box.name} and ${name} are wired together, and what is done here follows from the plan of ${name}.`,
        `Change it at the bench of ${name}.`,
      )
    }
    if (!command.plan || !context.judgePlan) return done(wiringPlanned({ ...command, against: null, elsewhere: null, together: null }))
    const { against, elsewhere, together } = context.judgePlan(job, context.site, box.id, command.plan)
    const some = <T>(list: T[]) => (list.length ? list : null)
    return done(wiringPlanned({ ...command, against: some(against), elsewhere: some(elsewhere), together: some(together) }))
  },
  label: () => 'wiring planned',
})

export const wiringPlanned = jobEvent('wiringPlanned', {
  // Plans of before lack the parts that came later.
  lifts: [
    ({ plan, ...payload }) => ({ against: null, elsewhere: null, ...payload, plan: plan && { ...emptyPlan, ...plan } }),
    // Nobody looked at the boxes of a group as one.
    (payload) => ({ together: null, ...payload }),
  ],
  evolve(job, payload: WiringPlanned, event) {
    Object.assign(wiringOn(job, payload.boxId), {
      plan: payload.plan,
      planned: {
        seq: event.seq,
        personId: event.actor.personId,
        initials: event.actor.initials,
        ...(payload.against ? { against: payload.against } : {}),
        ...(payload.elsewhere ? { elsewhere: payload.elsewhere } : {}),
      },
      observed: [],
    })
    setTogether(job, payload.boxId, payload.together)
  },
  say: (payload, { box }) =>
    payload.plan ? `planned the wiring of ${box(payload.boxId)}` : `went back to the proposed wiring of ${box(payload.boxId)}`,
})
