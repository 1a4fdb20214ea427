import type { BoxState, SiteState } from '../state'

/** Does anybody rely on this box, measure in it, or have to answer for it? */
export function isUnderWay(site: SiteState, box: BoxState): boolean {
  const proof = box.proofId ? site.proofs[box.proofId] : undefined
  return (
    (proof !== undefined && proof.status !== 'void') ||
    Object.values(site.measuring).some((one) => one.boxId === box.id) ||
    Object.values(site.alarms).some((one) => one.boxIds.includes(box.id)) ||
    Object.values(site.signs).some((one) => one.reached.includes(box.id)) ||
    Object.values(site.asks).some((one) => one.boxId === box.id)
  )
}
