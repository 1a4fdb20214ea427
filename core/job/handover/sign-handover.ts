import { counted } from '../../units/counted'
import { isSignature } from '../../site/signature'
import { refuse } from '../../stream/envelope'
import { good } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { openDefects } from '../handover-list'
import type { HandoverSigned, SignHandover } from './sign-handover.schema'

export const signHandover = jobCommand('signHandover', {
  by: 'crew',
  decide(job, command: SignHandover) {
    if (job.handedOverAt) return refuse('handedOver', 'This job is already handed over.')
    if (!isSignature(command.strokes)) return refuse('noSignature', 'That is not a signature.', 'Sign with the whole name.')
    const missing = openDefects(job).filter((defect) => !command.acceptedDefectIds.includes(defect.id))
    if (missing.length)
      return refuse(
        'defectsNotAccepted',
        missing.map((defect) => `The customer has to accept: ${defect.text}`),
        'Go through the open defects with the customer, tick each, then sign.',
      )
    return done(handoverSigned(command))
  },
})

export const handoverSigned = jobEvent('handoverSigned', {
  rows: true,
  evolve(job, payload: HandoverSigned, event) {
    const { signatureId, ...rest } = payload
    job.signature = { id: signatureId, ...rest, at: event.at, seq: event.seq }
  },
  say: (payload) =>
    good(
      `took the signature of ${payload.signer}${payload.acceptedDefectIds.length ? `, with ${counted(payload.acceptedDefectIds.length, 'open defect')} accepted` : ''}`,
    ),
})
