import { breakerMark, type SiteState } from '../../core/safety'

/** A breaker of the record as screens name it in a list or on a button. */
export const markOf = (site: SiteState, id: string): string => (site.breakers[id] ? breakerMark(site, site.breakers[id]) : '?')
