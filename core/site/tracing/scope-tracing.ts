import { counted } from '../../units/counted'
import { accept } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { noBox } from '../refusals'
import type { HuntScoped, ScopeTracing } from './scope-tracing.schema'

export const scopeTracing = siteCommand('scopeTracing', {
  kind: 'work',
  decide(site, command: ScopeTracing) {
    if (command.boxIds.some((id) => !site.boxes[id])) return noBox()
    return accept(huntScoped(command))
  },
})

export const huntScoped = siteEvent('huntScoped', {
  evolve(site, payload: HuntScoped) {
    if (payload.boxIds.length) site.huntScope = payload.boxIds
    else delete site.huntScope
  },
  say: (payload) =>
    payload.boxIds.length ? `traces ${counted(payload.boxIds.length, 'box', 'boxes')}` : 'traces the boxes whose feed nobody knows',
})
