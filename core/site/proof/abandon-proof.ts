import { accept, refuse } from '../../stream/envelope'
import { end, voidProofs } from '../changes'
import { endOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { withEnds } from '../lifts'
import { noProof } from '../refusals'
import type { AbandonProof, ProofAbandoned } from './abandon-proof.schema'

export const abandonProof = siteCommand('abandonProof', {
  kind: 'work',
  by: 'owner',
  queues: true,
  ownPin: true,
  decide(site, command: AbandonProof, { actor }) {
    const proof = site.proofs[command.proofId]
    if (!proof) return noProof()
    if (proof.personId !== actor.personId) {
      const tagged = Object.values(site.tags).some((tag) => tag.personId === proof.personId && !tag.company)
      if (actor.role !== 'lead' || tagged)
        return refuse('notYours', `This proof is ${proof.name}'s.`, `${proof.name} ends it, on any device of the crew with their PIN.`)
    }
    if (proof.status === 'void') return refuse('proofClosed', 'This proof has already ended.')
    return accept(proofAbandoned({ ...command, boxId: proof.boxId, ...endOf(site, [proof], actor) }))
  },
  label: () => 'proof abandoned',
})

export const proofAbandoned = siteEvent('proofAbandoned', {
  lifts: [withEnds],
  evolve(site, payload: ProofAbandoned, event) {
    if (!payload.voids.includes(payload.proofId)) voidProofs(site, [payload.proofId], { code: 'givenUp', reason: payload.reason })
    end(site, payload, { code: 'givenUp', reason: payload.reason }, event)
  },
  say: (payload, { box }) => `abandoned the proof at ${box(payload.boxId)} – ${payload.reason}`,
})
