import { accept, refuse } from '../../stream/envelope'
import { boxAt, personOf, raise, voidProofs } from '../changes'
import { endOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { withEnds } from '../lifts'
import { sentence } from '../names'
import { canTouch } from '../permissions'
import { boxName, proofsIn } from '../proofs'
import { noBox, refuseAnswer } from '../refusals'
import type { BoxGuarded, MakeSafe } from './make-safe.schema'
import { lateWord, openedSince } from './late-word'

export const makeSafe = siteCommand('makeSafe', {
  kind: 'work',
  queues: true,
  decide(site, command: MakeSafe, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (box.closure !== 'opened') return refuse('notOpen', `${sentence(boxName(site, box))} is not open.`)
    if (openedSince(box, context)) return lateWord(site, box)
    const touch = canTouch(site, box.id, context.actor, context)
    if (!touch.yes) return refuseAnswer(touch)
    return accept(boxGuarded({ ...command, ...endOf(site, proofsIn(site, [box]), context.actor) }))
  },
  label: () => 'capped and guarded',
})

export const boxGuarded = siteEvent('boxGuarded', {
  hands: true,
  lifts: [withEnds],
  evolve(site, payload: BoxGuarded, event) {
    const target = boxAt(site, payload.boxId)
    raise(site, payload.alarms, payload.voids, [payload.boxId], null, event)
    target.closure = 'guarded'
    target.guardedBy = personOf(event)
    target.openWords = {}
    voidProofs(site, payload.voids, { code: 'boxGuarded' })
  },
  say: (payload, { box }) => `capped and guarded ${box(payload.boxId)} – ${payload.how}`,
})
