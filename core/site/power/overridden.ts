import { alarm } from '../../stream/telling'
import { end } from '../changes'
import { siteEvent } from '../define'
import type { GrantOverridden, TagOverridden } from './overridden.schema'

export const tagOverridden = siteEvent('tagOverridden', {
  evolve(site, payload: TagOverridden, event) {
    delete site.tags[payload.tagId]
    end(site, payload, { code: 'tagOverridden', name: payload.ownerName }, event, { breakerId: payload.breakerId })
  },
  say: (payload, { breaker }) => alarm(`took ${payload.ownerName}’s tag off ${breaker(payload.breakerId)} – ${payload.reason}`),
})

export const grantOverridden = siteEvent('grantOverridden', {
  evolve(site, payload: GrantOverridden, event) {
    const permit = site.grants[payload.grantId]!
    delete site.grants[payload.grantId]
    if (permit.clearanceId) delete site.asks[permit.clearanceId]
    // Nobody saw what the absent person did: somebody has to look.
    const breaker = site.breakers[payload.breakerId]!
    breaker.state = 'unknown'
    breaker.energisedSeq = event.seq
    breaker.stateSeq = event.seq
    end(site, payload, { code: 'mayBeClosed', breakerId: breaker.id }, event, { breakerId: breaker.id })
  },
  say: (payload, { breaker }) =>
    alarm(`ended the permit of ${payload.ownerName} to close ${breaker(payload.breakerId)} – ${payload.reason}`),
})
