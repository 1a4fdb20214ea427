import { accept, refuse } from '../../stream/envelope'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import { mainBreakers } from '../feeds'
import { sentence } from '../names'
import type { RuleOutSource, SourceRuledOut } from './rule-out-source.schema'

export const ruleOutSource = siteCommand('ruleOutSource', {
  kind: 'work',
  decide(site, command: RuleOutSource, context) {
    const source = site.sources[command.sourceId]
    if (!source) return refuse('noSuchSource', 'There is no such source at this site.')
    if (!context.actor.licensed)
      return refuse('licenceNeeded', 'Only a licensed person records that a source reaches no box.', 'Ask a licensed crew mate.')
    if (waited(context)) return refuse('onlineOnly', 'This was entered without network.', 'Look again, then record it.')
    if (mainBreakers(site).some((main) => main.sourceId === source.id))
      return refuse('hasPoint', `${sentence(source.name)} has a switching point: open and tag that.`)
    return accept(sourceRuledOut(command))
  },
})

export const sourceRuledOut = siteEvent('sourceRuledOut', {
  evolve(site, payload: SourceRuledOut) {
    site.sources[payload.sourceId]!.ruledOut = payload.reason
  },
  say: (payload, { site }) => `recorded that ${site.sources[payload.sourceId]?.name ?? 'a source'} reaches no box – ${payload.reason}`,
})
