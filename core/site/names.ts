import { inTrade } from '../units/trade-words'
import { breakerMark } from './feeds'
import type { SignCause } from './parts.schema'
import type { BreakerRecord, SiteState } from './state'
import { signCauseWords } from './words'

/** A breaker in words, as they are called under this supply, with its panel wherever a site has more than one. */
export function breakerName(site: SiteState, breaker: BreakerRecord): string {
  const what = breaker.role === 'main' ? 'main' : inTrade('{breaker}', site.schemeId)
  return breaker.number === 'main' ? breakerMark(site, breaker) : `${what} ${breakerMark(site, breaker)}`
}
/** One name, however it is typed. */
export const sameName = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase()

/** Another box that bears this name in this room. */
export const isBoxNamed = (site: SiteState, roomId: string, name: string, except: string | null = null): boolean =>
  site.boxOrder.some((id) => id !== except && site.boxes[id]!.roomId === roomId && sameName(site.boxes[id]!.name, name))

/** With a capital, also where a word of the trade comes first. */
export const sentence = (text: string): string =>
  text.replace(/^(\{?)(.)/, (_, brace: string, first: string) => brace + first.toUpperCase())
/** The cause of a voltage in words, with its breaker or note. */
export function causeWordsOf(site: SiteState, cause: SignCause): string {
  const breaker = 'breakerId' in cause ? site.breakers[cause.breakerId] : undefined
  const detail = breaker ? `: ${breakerName(site, breaker)}` : 'note' in cause ? ` (${cause.note})` : ''
  return `${inTrade(signCauseWords[cause.kind], site.schemeId)}${detail}`
}
