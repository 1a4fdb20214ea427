import { accept, refuse } from '../../stream/envelope'
import { boxAt, end } from '../changes'
import { consequenceOfPath } from '../consequence'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import { noBox, noBreaker } from '../refusals'
import { ended } from '../telling'
import type { FeedsSet, SetFeeds } from './set-feeds.schema'

export const setFeeds = siteCommand('setFeeds', {
  kind: 'work',
  queues: true,
  decide(site, command: SetFeeds, context) {
    const { actor } = context
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (command.breakerIds.some((id) => !site.breakers[id])) return noBreaker()
    const drops = box.breakerIds.some((id) => !command.breakerIds.includes(id)) || (box.unknownFeed && !command.unknownFeed)
    if (drops && !actor.licensed)
      return refuse('licenceNeeded', 'Only a licensed person rules out a feed.', 'Record what you found, and ask a licensed crew mate.')
    if (drops && waited(context))
      return refuse(
        'onlineOnly',
        'A feed is ruled out only as things are now; they may have changed since.',
        'Look at the power as it is now, then record it again.',
      )
    return accept(feedsSet({ ...command, ...consequenceOfPath(site, [box], [], actor) }))
  },
})

export const feedsSet = siteEvent('feedsSet', {
  evolve(site, payload: FeedsSet, event) {
    boxAt(site, payload.boxId).breakerIds = payload.breakerIds
    boxAt(site, payload.boxId).unknownFeed = payload.unknownFeed
    end(site, payload, { code: 'feedsChanged' }, event, { boxIds: [payload.boxId] })
  },
  say: (payload, { breaker, box }) =>
    `set the feeds of ${box(payload.boxId)} to ${payload.breakerIds.map(breaker).join(', ') || 'none known'}${payload.unknownFeed ? ' and an unknown one' : ''} – ${payload.basis}.${ended(payload.voids)}`,
})
