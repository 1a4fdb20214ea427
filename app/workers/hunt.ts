import { huntAt, type SiteState } from '../../core/safety'

/** Plans the next round of a breaker hunt off the page's own thread. */
self.onmessage = ({ data }: MessageEvent<{ id: number; site: SiteState; boxIds: string[] }>) =>
  self.postMessage({ id: data.id, hunt: huntAt(data.site, data.boxIds) })
