import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { workOn } from '../changes'
import { jobCommand, jobEvent } from '../define'
import { inDoubtAt } from '../progress'
import { boxOf, noBox } from '../refusals'
import { touchOrRefuse } from '../touch'
import type { ClearDoubt, DoubtCleared } from './clear-doubt.schema'

export const clearDoubt = jobCommand('clearDoubt', {
  by: 'crew',
  decide(job, command: ClearDoubt, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    if (!inDoubtAt(job, box.id)) return refuse('nothingInDoubt', `Nothing at ${box.name} is in doubt.`)
    return touchOrRefuse(context, box.id) ?? done(doubtCleared(command))
  },
})

export const doubtCleared = jobEvent('doubtCleared', {
  evolve(job, payload: DoubtCleared) {
    const { roles, steps } = workOn(job, payload.boxId)
    for (const one of [...Object.values(roles), ...Object.values(steps)]) delete one.inDoubt
  },
  say: (payload, { box }) => `checked what was in doubt at ${box(payload.boxId)}: it is right`,
})
