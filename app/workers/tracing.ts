import { tracingAt, type SiteTracing, type SiteState } from '../../core/site'
import { inTrade } from '../../core/units'
import { answers } from './answers'

/** Plans the next round of circuit tracing off the page's own thread. */
export interface TracingTalk {
  question: { site: SiteState; boxIds: string[] }
  answer: SiteTracing
}
answers<TracingTalk>(({ site, boxIds }) => inTrade(tracingAt(site, boxIds), site.schemeId))
