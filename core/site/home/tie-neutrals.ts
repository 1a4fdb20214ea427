import { accept } from '../../stream/envelope'
import { end } from '../changes'
import { consequenceOfPath } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { boxesBehind } from '../feeds'
import { noBreaker } from '../refusals'
import { ended } from '../telling'
import type { NeutralsTied, TieNeutrals } from './tie-neutrals.schema'

export const tieNeutrals = siteCommand('tieNeutrals', {
  kind: 'fact',
  queues: true,
  decide(site, command: TieNeutrals, { actor }) {
    if (command.breakerIds.some((id) => !site.breakers[id])) return noBreaker()
    const boxes = command.breakerIds.flatMap((id) => boxesBehind(site, id))
    return accept(neutralsTied({ ...command, ...consequenceOfPath(site, boxes, command.breakerIds, actor) }))
  },
})

export const neutralsTied = siteEvent('neutralsTied', {
  evolve(site, payload: NeutralsTied, event) {
    site.neutralTies.push(payload.breakerIds)
    end(site, payload, { code: 'neutralShared' }, event, { boxIds: Object.keys(site.boxes) })
  },
  say: (payload, { breaker }) =>
    `found a shared neutral between ${payload.breakerIds.map(breaker).join(' and ')} – ${payload.basis}.${ended(payload.voids)}`,
})
