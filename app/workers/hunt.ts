import { huntAt, type SiteHunt, type SiteState } from '../../core/site'
import { inTrade } from '../../core/units'
import { answers } from './answers'

/** Plans the next round of a breaker hunt off the page's own thread. */
export interface HuntTalk {
  question: { site: SiteState; boxIds: string[] }
  answer: SiteHunt
}
answers<HuntTalk>(({ site, boxIds }) => inTrade(huntAt(site, boxIds), site.schemeId))
