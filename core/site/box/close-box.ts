import { accept, refuse } from '../../stream/envelope'
import { boxAt, raise, voidProofs } from '../changes'
import { endOf, nothingEnds } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { withEnds } from '../lifts'
import { sentence } from '../names'
import { canTouch } from '../permissions'
import { boxName, proofsIn } from '../proofs'
import { noBox, refuseAnswer } from '../refusals'
import type { BoxClosed, CloseBox } from './close-box.schema'
import { lateWord, openedSince } from './late-word'

export const closeBox = siteCommand('closeBox', {
  kind: 'work',
  queues: true,
  decide(site, command: CloseBox, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (box.closure === 'closed') return refuse('alreadyClosed', `${sentence(boxName(site, box))} is already closed.`)
    if (openedSince(box, context)) return lateWord(site, box)
    // Nothing was touched: putting the plate back needs nothing.
    if (box.closure === 'looking') return accept(boxClosed({ ...command, ...nothingEnds }))
    const touch = canTouch(site, box.id, context.actor, context)
    if (!touch.yes) return refuseAnswer(touch)
    return accept(boxClosed({ ...command, ...endOf(site, proofsIn(site, [box]), context.actor) }))
  },
  label: () => 'box closed',
})

export const boxClosed = siteEvent('boxClosed', {
  hands: true,
  lifts: [withEnds],
  evolve(site, payload: BoxClosed, event) {
    const target = boxAt(site, payload.boxId)
    raise(site, payload.alarms, payload.voids, [payload.boxId], null, event)
    const proof = target.proofId ? site.proofs[target.proofId] : undefined
    target.closedBy = {
      personId: event.actor.personId,
      at: event.receivedAt,
      seq: event.seq,
      proofId: proof?.status === 'living' ? proof.id : null,
    }
    Object.assign(target, { closure: 'closed', guardedBy: null, openWords: {}, readLive: [], floats: [], shifted: [] })
    voidProofs(site, payload.voids, { code: 'boxClosed' })
  },
  say: (payload, { box }) => `closed ${box(payload.boxId)}`,
})
