import { counted } from '../../units/counted'
import { accept, refuse } from '../../stream/envelope'
import { bringBack, end } from '../changes'
import { fedByItself } from '../circle'
import { consequenceOfPath } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { withEnds, withProtection } from '../lifts'
import { emptyBox } from './empty-box'
import type { BoxState, SiteState } from '../state'
import type { LayOut, SiteLaidOut } from './lay-out.schema'

/** The boxes of a site that a layout gives a path more: a feed, an unknown feed, another far switch, a supply of their panel. */
function boxesChangedBy(site: SiteState, command: LayOut): BoxState[] {
  const supplies = command.breakers.some((breaker) => breaker.suppliesPanelId !== null && site.panels[breaker.suppliesPanelId])
  const sources = command.sources.some((source) => !site.sources[source.id])
  if (supplies || sources) return Object.values(site.boxes)
  return command.boxes.flatMap((added) => {
    const known = site.boxes[added.id]
    const more =
      known &&
      (added.breakerIds.some((id) => !known.breakerIds.includes(id)) ||
        (added.unknownFeed && added.breakerIds.length > 0 && !known.unknownFeed) ||
        added.farBoxIds.some((id) => !known.farBoxIds.includes(id)))
    return more ? [known] : []
  })
}

export const layOut = siteCommand('layOut', {
  kind: 'work',
  by: 'office',
  decide(site, command: LayOut) {
    const breakers = new Set([...Object.keys(site.breakers), ...command.breakers.map((breaker) => breaker.id)])
    const boxes = new Set([...Object.keys(site.boxes), ...command.boxes.map((box) => box.id)])
    for (const box of command.boxes) {
      if (box.breakerIds.some((id) => !breakers.has(id)) || box.farBoxIds.some((id) => !boxes.has(id)))
        return refuse('brokenLayout', `${box.name} refers to {a breaker} or box that is not there.`)
    }
    if (command.breakers.some((breaker) => site.breakers[breaker.id]))
      return refuse('brokenLayout', '{A breaker} in this layout already exists at the site.')
    const supplies = [...Object.values(site.breakers), ...command.breakers].flatMap(({ role, panelId, suppliesPanelId }) =>
      role !== 'main' && panelId !== null && suppliesPanelId !== null ? [[panelId, suppliesPanelId] as const] : [],
    )
    if (fedByItself(supplies))
      return refuse('feedsItself', '{A panel} in this layout feeds itself, over others.', 'Look which feeds which.')
    if (site.seq > 0 && command.schemeId !== site.schemeId)
      return refuse(
        'schemeFixed',
        'This home is on record with a different supply.',
        'Check the address: a home does not change its supply. If the first record is wrong, start a new one.',
      )
    // Who lays out from a desk may be the one whose hands are in the box, by an account that is open in two places.
    return accept(siteLaidOut({ ...command, ...consequenceOfPath(site, boxesChangedBy(site, command), [], null) }))
  },
})

export const siteLaidOut = siteEvent('siteLaidOut', {
  lifts: [withEnds, withProtection],
  evolve(site, payload: SiteLaidOut, event) {
    site.schemeId = payload.schemeId
    for (const source of payload.sources) site.sources[source.id] = { ...source, ruledOut: site.sources[source.id]?.ruledOut ?? null }
    for (const panel of payload.panels) site.panels[panel.id] = panel
    for (const breaker of payload.breakers)
      site.breakers[breaker.id] ??= {
        ...breaker,
        since: null,
        tripCause: null,
        tripUnexplained: breaker.state === 'tripped',
        energisedSeq: event.seq,
        stateSeq: event.seq,
      }
    for (const room of payload.rooms) {
      if (!site.rooms[room.id]) site.roomOrder.push(room.id)
      site.rooms[room.id] = room
    }
    for (const added of payload.boxes) {
      const known = site.boxes[added.id]
      if (!known) site.boxOrder.push(added.id)
      // What a known box gains is added; nothing that is on record is dropped.
      site.boxes[added.id] = known
        ? {
            ...known,
            breakerIds: [...new Set([...known.breakerIds, ...added.breakerIds])],
            unknownFeed: known.unknownFeed || (added.unknownFeed && added.breakerIds.length > 0),
            farBoxIds: [...new Set([...known.farBoxIds, ...added.farBoxIds])],
          }
        : { ...added, ...structuredClone(emptyBox) }
      bringBack(site, site.boxes[added.id]!)
    }
    end(site, payload, { code: 'laidOut' }, event, { boxIds: payload.boxes.map((one) => one.id) })
  },
  say: (payload) =>
    `laid out the site: ${counted(payload.breakers.length, '{breaker}', '{breakers}')}, ${counted(payload.boxes.length, 'box', 'boxes')}`,
})
