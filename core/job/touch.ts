import { canTouch } from '../site/permissions'
import { type Refusal, refuse } from '../stream/envelope'
import type { JobContext } from './context'

export function touchOrRefuse(context: JobContext, boxId: string): { ok: false; refusal: Refusal } | null {
  const answer = canTouch(context.site, boxId, context.actor, context)
  return answer.yes ? null : refuse(answer.code, answer.reasons, answer.toYes)
}

/** So long a command travels without having waited, ms. */
const travelsMs = 15_000

/** When it was done, by the server's time. */
export const madeAt = ({ now, heldMs }: JobContext) => new Date(Date.parse(now) - heldMs).toISOString()

/**
 * Was this work done under a proof of its person's, though that has ended by the time it arrives? Then it is stored, in doubt,
 * until somebody has looked: what hands have done is not undone by refusing to write it down.
 */
function wasDoneUnderProof({ site, actor, heldMs, now }: JobContext, boxId: string): boolean {
  const madeAt = Date.parse(now) - heldMs
  return (
    heldMs > travelsMs &&
    Object.values(site.proofs).some(
      (proof) =>
        proof.boxId === boxId &&
        proof.status === 'void' &&
        [proof.personId, ...proof.witnesses.map((one) => one.personId)].includes(actor.personId) &&
        proof.finishedAt !== null &&
        Date.parse(proof.finishedAt) <= madeAt,
    )
  )
}

/** Work at a box needs a proof, or had one when it was done. */
export function touchedOrRefuse(context: JobContext, boxId: string): { inDoubt: boolean } | { ok: false; refusal: Refusal } {
  const locked = touchOrRefuse(context, boxId)
  if (!locked) return { inDoubt: false }
  return wasDoneUnderProof(context, boxId) ? { inDoubt: true } : locked
}
