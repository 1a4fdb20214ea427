import { breakerMark } from './feeds'
import type { SignCause } from './parts.schema'
import type { BreakerRecord, SiteState } from './state'
import { signCauseWords } from './words'

/** A breaker in words, with its panel wherever a site has more than one. */
export function breakerName(site: SiteState, breaker: BreakerRecord): string {
  const what = breaker.role === 'main' ? 'main' : 'breaker'
  return breaker.number === 'main' ? breakerMark(site, breaker) : `${what} ${breakerMark(site, breaker)}`
}
export const sentence = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
/** The cause of a voltage in words, with its breaker or note. */
export function causeWordsOf(site: SiteState, cause: SignCause): string {
  const breaker = 'breakerId' in cause ? site.breakers[cause.breakerId] : undefined
  const detail = breaker ? `: ${breakerName(site, breaker)}` : 'note' in cause ? ` (${cause.note})` : ''
  return `${signCauseWords[cause.kind]}${detail}`
}
