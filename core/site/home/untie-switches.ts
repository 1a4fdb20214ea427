import { accept, refuse } from '../../stream/envelope'
import { boxAt } from '../changes'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import { boxName } from '../proofs'
import { noBox } from '../refusals'
import type { SwitchesUntied, UntieSwitches } from './untie-switches.schema'

/** Fewer positions to read from now on: what takes a path away is for a licensed person, as things are now. */
export const untieSwitches = siteCommand('untieSwitches', {
  kind: 'work',
  by: 'office',
  decide(site, command: UntieSwitches, context) {
    const [box, other] = [site.boxes[command.boxId], site.boxes[command.otherId]]
    if (!box || !other) return noBox()
    if (!box.farBoxIds.includes(other.id) && !other.farBoxIds.includes(box.id))
      return refuse('notTied', `${boxName(site, box)} and ${boxName(site, other)} are not switched together on record.`)
    if (!context.actor.licensed)
      return refuse('licenceNeeded', 'Only a licensed person records that a switch does not act here.', 'Ask a licensed crew mate.')
    if (waited(context)) return refuse('onlineOnly', 'This was entered without network.', 'Look again, then record it.')
    if (box.closure !== 'closed' || other.closure !== 'closed')
      return refuse('boxOpen', 'One of the two is open: it is read in all positions until it is closed up.', 'Close both up first.')
    return accept(switchesUntied(command))
  },
})

export const switchesUntied = siteEvent('switchesUntied', {
  evolve(site, { boxId, otherId }: SwitchesUntied) {
    const [box, other] = [boxAt(site, boxId), boxAt(site, otherId)]
    box.farBoxIds = box.farBoxIds.filter((id) => id !== otherId)
    other.farBoxIds = other.farBoxIds.filter((id) => id !== boxId)
  },
  say: ({ boxId, otherId, reason }, { box }) => `recorded that ${box(boxId)} and ${box(otherId)} switch nothing together – ${reason}`,
})
