import { adding } from '../../stream/upcast'
import { accept } from '../../stream/envelope'
import { boxAt, openUp, raise } from '../changes'
import { siteCommand, siteEvent } from '../define'
import { permitReaching } from '../permissions'
import { noBox } from '../refusals'
import type { BoxOpened, OpenBox } from './open-box.schema'

export const openBox = siteCommand('openBox', {
  kind: 'fact',
  queues: true,
  decide(site, command: OpenBox, { actor }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    // A fact, taken also when it is said to be open already: a plate may have been put on and taken off again meanwhile.
    // Whoever may be closing a breaker on it right now has to know.
    const permit = permitReaching(site, box)
    const alarms = permit && permit.personId !== actor.personId ? [permit.personId] : []
    return accept(boxOpened({ ...command, alarms }))
  },
  label: () => 'plate off',
})

export const boxOpened = siteEvent('boxOpened', {
  hands: true,
  lifts: [adding({ alarms: [] })],
  evolve(site, payload: BoxOpened, event) {
    openUp(site, boxAt(site, payload.boxId), event)
    raise(site, payload.alarms, [], [payload.boxId], null, event)
  },
  say: (payload, { box }) => `opened ${box(payload.boxId)}`,
})
