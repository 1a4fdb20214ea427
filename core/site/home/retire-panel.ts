import { accept, refuse } from '../../stream/envelope'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import type { PanelRetired, RetirePanel } from './retire-panel.schema'

/** Listed by mistake: only an empty one goes, so that nothing that hangs on it is lost. */
export const retirePanel = siteCommand('retirePanel', {
  kind: 'work',
  by: 'office',
  decide(site, command: RetirePanel, context) {
    const panel = site.panels[command.panelId]
    if (!panel) return refuse('noSuchPanel', 'There is no such {panel} at this site.')
    if (!context.actor.licensed)
      return refuse('licenceNeeded', 'Only a licensed person takes {a panel} off the record.', 'Ask a licensed crew mate.')
    if (waited(context)) return refuse('onlineOnly', 'This was entered without network.', 'Look again, then record it.')
    if (Object.values(site.breakers).some((breaker) => breaker.panelId === panel.id))
      return refuse('panelInUse', `{Breakers} sit in ${panel.name} on record.`, 'Take them off the record first.')
    return accept(panelRetired({ ...command, name: panel.name }))
  },
})

export const panelRetired = siteEvent('panelRetired', {
  evolve(site, { panelId }: PanelRetired) {
    delete site.panels[panelId]
    for (const breaker of Object.values(site.breakers)) {
      if (breaker.suppliesPanelId !== panelId) continue
      breaker.suppliesPanelId = null
      if (breaker.role === 'feeder') breaker.role = 'branch'
    }
  },
  say: ({ name, reason }) => `took the {panel} ${name} off the record – ${reason}`,
})
