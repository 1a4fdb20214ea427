import { accept, refuse } from '../../stream/envelope'
import { boxAt, openUp, raise } from '../changes'
import { siteCommand, siteEvent } from '../define'
import { sentence } from '../names'
import { permitReaching, loneWorkOf } from '../permissions'
import { boxName, plateIsOff } from '../proofs'
import { noBox } from '../refusals'
import type { BoxLookedInto, LookIn } from './look-in.schema'

export const lookIn = siteCommand('lookIn', {
  kind: 'work',
  decide(site, command: LookIn, { actor, now }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (!actor.licensed)
      return refuse('licenceNeeded', 'Looking into a box with the power on is for a licensed person.', 'Open and tag its {breaker} first.')
    if (plateIsOff(box)) return refuse('alreadyOpen', `${sentence(boxName(site, box))} is open already.`)
    const warnedIds = command.warnedIds.filter((id) => id !== actor.personId)
    if (warnedIds.length === 0 && !loneWorkOf(site, actor.personId, { now }).working)
      return refuse('nobodyWarned', 'Nobody has been warned.', 'Name the crew mate you told, or start working alone with a contact.')
    const permit = permitReaching(site, box)
    const alarms = permit && permit.personId !== actor.personId ? [permit.personId] : []
    return accept(boxLookedInto({ ...command, warnedIds, alarms }))
  },
})

export const boxLookedInto = siteEvent('boxLookedInto', {
  hands: true,
  evolve(site, payload: BoxLookedInto, event) {
    const target = boxAt(site, payload.boxId)
    const { lastOpenedAt } = target
    openUp(site, target, event)
    // Nothing is touched: what was tested before still stands.
    Object.assign(target, { closure: 'looking', lastOpenedAt })
    raise(site, payload.alarms, [], [payload.boxId], null, event)
  },
  say: (payload, { box }) => `looked into ${box(payload.boxId)} with the power on, nothing touched`,
})
