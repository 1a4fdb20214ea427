import { accept, refuse } from '../../stream/envelope'
import { boxAt, openUp } from '../changes'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import { energySeqOf, permitReaching, isIsolatedFor } from '../permissions'
import { noBox, refuseAnswer } from '../refusals'
import type { BoxReopened, UndoClose } from './undo-close.schema'

/** How long “the box is closed” can be taken back, s. Common practice, no source. */
export const undoSeconds = 60

export const undoClose = siteCommand('undoClose', {
  kind: 'work',
  decide(site, command: UndoClose, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const { closedBy } = box
    const late = !closedBy || Date.parse(context.now) - Date.parse(closedBy.at) > undoSeconds * 1000
    if (box.closure !== 'closed' || late || closedBy.personId !== context.actor.personId || waited(context))
      return refuse(
        'tooLate',
        'This can be undone for a minute, by whoever said it.',
        'Take the plate off and record it, then prove again.',
      )
    const isolation = isIsolatedFor(site, box, context.actor.personId)
    if (!isolation.yes) return refuseAnswer(isolation)
    // Power may have come since: then it is opened and proven like any other box.
    if (energySeqOf(site, box) > closedBy.seq || permitReaching(site, box))
      return refuse('seenTooEarly', 'Power may have been on here since.', 'Take the plate off and record it, then prove again.')
    return accept(boxReopened(command))
  },
})

export const boxReopened = siteEvent('boxReopened', {
  hands: true,
  evolve(site, payload: BoxReopened, event) {
    const target = boxAt(site, payload.boxId)
    const { closedBy } = target
    openUp(site, target, event)
    const proof = closedBy?.proofId ? site.proofs[closedBy.proofId] : undefined
    if (!proof || target.proofId !== proof.id) return
    proof.status = 'living'
    proof.voidWhy = null
    // Whoever relied on it was told that it had ended: they witness it again.
    proof.witnesses = []
  },
  say: (payload, { box }) => `undid the closing of ${box(payload.boxId)}`,
})
