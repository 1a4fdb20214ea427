import { breakerName } from '../names'
import { hasLicensedEyes } from '../permissions'
import { boxName, plateIsOff } from '../proofs'
import type { BoxState, Proof, SiteState } from '../state'

export type Person = NonNullable<BoxState['openedBy']>

/** Has this person left tags, leave, requests, proofs, alarms, a guard or an open box behind? */
export function leftBehind(site: SiteState, personId: string): string | null {
  const tag = Object.values(site.tags).find((one) => one.personId === personId && !one.company)
  if (tag) return `a tag on ${breakerName(site, site.breakers[tag.breakerId]!)}`
  const permit = Object.values(site.grants).find((one) => one.personId === personId)
  if (permit) return `the permit to close ${breakerName(site, site.breakers[permit.breakerId]!)}`
  if (Object.values(site.asks).some((one) => one.personId === personId && one.kind === 'energise')) return 'a request for momentary power'
  if (Object.values(site.alarms).some((one) => one.personId === personId && one.boxIds.length > 0)) return 'an unanswered alarm'
  const proof = Object.values(site.proofs).find((one) => one.personId === personId && one.status !== 'void')
  if (proof) return `a proof in ${boxName(site, site.boxes[proof.boxId]!)}`
  const box = Object.values(site.boxes).find((one) => plateIsOff(one) && one.openedBy?.personId === personId && personId in site.onSite)
  if (box) return `${boxName(site, box)} open`
  return site.stop?.personId === personId ? 'work that was stopped' : null
}

/** Proofs that end when this person goes: their own, and those that no licensed person stands behind then. */
export function restingOn(site: SiteState, personId: string): Proof[] {
  const own = Object.values(site.proofs).filter((proof) => proof.status !== 'void' && proof.personId === personId)
  return [...new Set([...own, ...withoutLicensedEyes(site, personId)])]
}

/** Proofs that no licensed person has seen once this one counts as none. */
export function withoutLicensedEyes(site: SiteState, personId: string): Proof[] {
  return Object.values(site.proofs).filter(
    (proof) => proof.status === 'living' && hasLicensedEyes(proof) && !hasLicensedEyes(proof, { personId, licensed: false }),
  )
}
