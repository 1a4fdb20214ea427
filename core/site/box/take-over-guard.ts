import { accept, refuse } from '../../stream/envelope'
import { boxAt, personOf } from '../changes'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import { sentence } from '../names'
import { boxName } from '../proofs'
import { noBox } from '../refusals'
import type { GuardTakenOver, TakeOverGuard } from './take-over-guard.schema'

export const takeOverGuard = siteCommand('takeOverGuard', {
  kind: 'work',
  decide(site, command: TakeOverGuard, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (box.closure !== 'guarded') return refuse('notGuarded', `${sentence(boxName(site, box))} is not capped and guarded.`)
    if (box.guardedBy?.personId === context.actor.personId && context.actor.personId in site.onSite)
      return refuse('alreadyYours', 'You are guarding this box already.')
    if (waited(context)) return refuse('onlineOnly', 'This was entered without network.', 'Look at the box again, then take it over.')
    return accept(guardTakenOver(command))
  },
})

export const guardTakenOver = siteEvent('guardTakenOver', {
  hands: true,
  evolve(site, payload: GuardTakenOver, event) {
    boxAt(site, payload.boxId).guardedBy = personOf(event)
  },
  say: (payload, { box }) => `guards ${box(payload.boxId)} now`,
})
