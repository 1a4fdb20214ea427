import { breakerMark } from './feeds'
import { inTrade } from '../units/trade-words'
import type { SiteState } from './state'
import { plainEnds, stopWords, type WhyEnded } from './words'

/** Why a proof has ended, as a sentence. */
export function whyEnded(site: SiteState, why: WhyEnded): string {
  const mark = (id: string) => (site.breakers[id] ? breakerMark(site, site.breakers[id]) : inTrade('{A breaker}', site.schemeId))
  switch (why.code) {
    case 'breakerFound':
      return `${mark(why.breakerId)} was found ${why.state}.`
    case 'breakerHadBeenClosed':
      return `${mark(why.breakerId)} had been closed meanwhile.`
    case 'leaveGiven':
      return `A permit to close ${mark(why.breakerId)} was given.`
    case 'mayBeClosed':
      return `${mark(why.breakerId)} may have been closed.`
    case 'voltageRead':
      return `${why.a} to ${why.b} read ${why.volts} V with ${why.impedance} impedance.`
    case 'workStopped':
      return `Work was stopped: ${stopWords[why.what]}.`
    case 'absent':
      return `What ${why.name} left was ended: gone from the site.`
    case 'tagOverridden':
      return `The tag of ${why.name} was taken off by a lead.`
    case 'sourceFound':
      return `Another source was found: ${why.name}.`
    case 'instrumentFailed':
      return `${why.name} failed: its readings do not count.`
    case 'sourceFailed':
      return `${why.name} failed as a source; the tester is good.`
    case 'givenUp':
      return why.reason
    default:
      return inTrade(plainEnds[why.code], site.schemeId)
  }
}
