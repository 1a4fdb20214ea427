import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { end } from '../changes'
import { consequenceOfPath } from '../consequence'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import { boxesOfPanel, permitOn } from '../feeds'
import { breakerName, sentence } from '../names'
import { noBreaker } from '../refusals'
import { ended } from '../telling'
import type { PanelUnfed, UnfeedPanel } from './unfeed-panel.schema'

/**
 * Recorded by mistake: this breaker does not feed that panel. Opening it cuts nothing there, so whatever was proven behind it
 * ends; and as it takes a path away, a licensed person says it, as things are now.
 */
export const unfeedPanel = siteCommand('unfeedPanel', {
  kind: 'work',
  by: 'office',
  decide(site, command: UnfeedPanel, context) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    const panelId = breaker.suppliesPanelId
    const what = sentence(breakerName(site, breaker))
    if (!panelId || breaker.role === 'main') return refuse('feedsNoPanel', `${what} feeds no other {panel} on record.`)
    if (!context.actor.licensed)
      return refuse(
        'licenceNeeded',
        'Only a licensed person records that {a breaker} does not feed {a panel}.',
        'Ask a licensed crew mate.',
      )
    if (waited(context)) return refuse('onlineOnly', 'This was entered without network.', 'Look again, then record it.')
    const permit = permitOn(site, breaker.id)
    if (permit)
      return refuse('grantOutstanding', `${permit.name} may be closing ${breakerName(site, breaker)} right now.`, 'Have it answered first.')
    const ends = consequenceOfPath(site, boxesOfPanel(site, panelId), [], null)
    return accept(panelUnfed({ ...command, panelId, name: site.panels[panelId]?.name ?? '', ...ends }))
  },
})

export const panelUnfed = siteEvent('panelUnfed', {
  evolve(site, payload: PanelUnfed, event) {
    const breaker = site.breakers[payload.breakerId]!
    const reached = boxesOfPanel(site, payload.panelId).map(({ id }) => id)
    breaker.suppliesPanelId = null
    if (breaker.role === 'feeder') breaker.role = 'branch'
    // What it carries power to is another question now: nothing was shown apart from it as a branch.
    for (const box of Object.values(site.boxes)) delete box.ruledOut[breaker.id]
    end(site, payload, { code: 'feedRemoved' }, event, { boxIds: reached })
  },
  say(payload, { breaker }) {
    const text = `recorded that ${breaker(payload.breakerId)} does not feed ${payload.name} – ${payload.reason}.${ended(payload.voids)}`
    return payload.voids.length ? alarm(text) : text
  },
})
