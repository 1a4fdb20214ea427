import { accept, refuse } from '../../stream/envelope'
import { boxAt } from '../changes'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import { sentence } from '../names'
import { boxName } from '../proofs'
import { noBox } from '../refusals'
import { isUnderWay } from './under-way'
import type { BoxRetired, RetireBox } from './retire-box.schema'

/**
 * Listed twice, or not there. It leaves the lists and stays in the record: whoever says that it is open after all (a phone
 * that was away) brings it back.
 */
export const retireBox = siteCommand('retireBox', {
  kind: 'work',
  by: 'office',
  decide(site, command: RetireBox, context) {
    const box = site.boxes[command.boxId]
    if (!box || box.retired) return noBox()
    const name = boxName(site, box)
    if (!context.actor.licensed && context.actor.role !== 'dispatcher')
      return refuse('licenceNeeded', 'Only a licensed person or the office takes a box off the record.', 'Ask a licensed crew mate.')
    if (waited(context)) return refuse('onlineOnly', 'This was entered without network.', 'Look again, then record it.')
    if (box.closure !== 'closed') return refuse('boxOpen', `${sentence(name)} is open.`, 'Close it up first.')
    if (context.installedGangs(box.id).length)
      return refuse('unitInstalled', `A device is installed in ${name}.`, 'Replace or remove it through a callback first.')
    if (isUnderWay(site, box)) return refuse('boxInUse', `Something is under way at ${name}.`, 'Finish it first.')
    return accept(boxRetired(command))
  },
})

export const boxRetired = siteEvent('boxRetired', {
  evolve(site, payload: BoxRetired, event) {
    boxAt(site, payload.boxId).retired = { by: event.actor.name, at: event.receivedAt, reason: payload.reason }
    site.boxOrder = site.boxOrder.filter((id) => id !== payload.boxId)
    if (site.huntScope) site.huntScope = site.huntScope.filter((id) => id !== payload.boxId)
  },
  say: (payload, { box }) => `took ${box(payload.boxId)} off the record – ${payload.reason}`,
})
