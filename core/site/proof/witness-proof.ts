import { accept, refuse } from '../../stream/envelope'
import { hasAnswered } from '../changes'
import { siteCommand, siteEvent } from '../define'
import { atServer, proofMinutesLeft } from '../permissions'
import { peopleOf } from '../proofs'
import { noProof } from '../refusals'
import type { ProofWitnessed, WitnessProof } from './witness-proof.schema'

export const witnessProof = siteCommand('witnessProof', {
  kind: 'permission',
  ownPin: true,
  decide(site, command: WitnessProof, { actor, now, proofLimitMinutes, basedOnSeq, onVisit }) {
    const proof = site.proofs[command.proofId]
    if (!proof) return noProof()
    if (!onVisit)
      return refuse(
        'notOnVisit',
        'Only somebody who is on a visit of this home today witnesses a proof.',
        'Have the dispatcher put you on the visit, or make your own proof.',
      )
    if (proof.status !== 'living') return refuse('notProven', 'There is no finished, valid proof to witness.')
    if (proofMinutesLeft(proof, atServer(now, proofLimitMinutes)) <= 0)
      return refuse('proofExpired', 'This proof is too old to rely on.', 'Prove it dead again.')
    if (basedOnSeq < proof.basedOnSeq)
      return refuse('lateWord', 'You witnessed this before the proof was finished.', 'Look at the finished proof, then witness it.')
    if (proof.personId === actor.personId) return refuse('ownProof', 'Nobody witnesses their own proof.', 'Ask a crew mate.')
    if (peopleOf(proof).some((person) => person.personId === actor.personId))
      return refuse('alreadyWitnessed', 'You have already witnessed this proof.')
    return accept(proofWitnessed({ ...command, boxId: proof.boxId }))
  },
})

export const proofWitnessed = siteEvent('proofWitnessed', {
  hands: true,
  evolve(site, payload: ProofWitnessed, event) {
    const { personId, name, initials, licensed } = event.actor
    site.proofs[payload.proofId]!.witnesses.push({ personId, name, initials, licensed })
    hasAnswered(site, personId, payload.boxId)
  },
  say: (payload, { box }) => `witnessed the proof at ${box(payload.boxId)}`,
})
