import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { end } from '../changes'
import { consequenceOfPath, nothingEnds } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { boxesOfPanel, feedIsUnknown } from '../feeds'
import { sameName } from '../names'
import { noBreaker } from '../refusals'
import { ended } from '../telling'
import type { SiteState } from '../state'
import type { PanelRecorded, RecordPanel } from './record-panel.schema'

/** What may now be fed over one point more: what hangs on the panel, and everything whose feed nobody knows. */
const reachedBy = (site: SiteState, panelId: string) => {
  const behind = new Set(boxesOfPanel(site, panelId))
  return Object.values(site.boxes).filter((box) => behind.has(box) || feedIsUnknown(box))
}

export const recordPanel = siteCommand('recordPanel', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: RecordPanel) {
    const known = site.panels[command.panelId]
    const above = command.fedBy ? site.breakers[command.fedBy] : undefined
    if (command.fedBy && !above) return noBreaker()
    const twin = Object.values(site.panels).some((panel) => panel.id !== command.panelId && sameName(panel.name, command.name))
    if (twin) return refuse('nameTaken', `There is {a panel} “${command.name}” already.`, 'Use that one, or give this one its own name.')
    if (above && (above.panelId === command.panelId || isAbove(site, command.panelId, above.id)))
      return refuse('feedsItself', '{A panel} does not feed itself.', 'Pick the {breaker} that feeds it.')
    if (above?.suppliesPanelId && above.suppliesPanelId !== command.panelId)
      return refuse(
        'feedsAnother',
        `{Breaker} ${above.number} feeds ${site.panels[above.suppliesPanelId]?.name ?? 'another {panel}'} on record.`,
        'Pick the {breaker} that feeds this one.',
      )
    const newPath = above !== undefined && above.suppliesPanelId !== command.panelId
    const ends = newPath ? consequenceOfPath(site, reachedBy(site, command.panelId), [], null) : nothingEnds
    return accept(panelRecorded({ ...command, was: known?.name ?? null, ...ends }))
  },
  label: ({ name }) => `{panel}: ${name}`,
})

/** Is the panel above this breaker, on the way from a source? Then feeding it from there would be a circle. */
function isAbove(site: SiteState, panelId: string, breakerId: string, seen: ReadonlySet<string> = new Set()): boolean {
  const breaker = site.breakers[breakerId]
  if (!breaker || breaker.panelId === null || seen.has(breakerId)) return false
  if (breaker.panelId === panelId) return true
  const further = new Set(seen).add(breakerId)
  return Object.values(site.breakers).some(
    (other) => other.suppliesPanelId === breaker.panelId && other.role !== 'main' && isAbove(site, panelId, other.id, further),
  )
}

export const panelRecorded = siteEvent('panelRecorded', {
  evolve(site, payload: PanelRecorded, event) {
    const { panelId, fedBy } = payload
    const reached = reachedBy(site, panelId).map(({ id }) => id)
    site.panels[panelId] = { id: panelId, name: payload.name, place: payload.place }
    const above = fedBy ? site.breakers[fedBy] : undefined
    if (above) {
      above.suppliesPanelId = panelId
      if (above.role === 'branch') above.role = 'feeder'
    }
    end(site, payload, { code: 'laidOut' }, event, { boxIds: reached })
  },
  say(payload, { breaker }) {
    const by = payload.fedBy ? `, fed by ${breaker(payload.fedBy)}` : ''
    const text = `${payload.was === null ? 'found {a panel}' : 'corrected {a panel}'}: ${payload.name}${payload.place ? ` (${payload.place})` : ''}${by}.${ended(payload.voids)}`
    return payload.voids.length ? alarm(text) : text
  },
})
