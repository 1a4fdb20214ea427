import type { SiteState } from '../../site/state'
import { refuse, type Refusal } from '../../stream/envelope'
import type { LinkDoing } from '../../link/words'
import { inTrade } from '../../units/trade-words'
import { noUnit } from '../refusals'
import type { JobState } from '../state'
import { pointIsTestable } from '../test/testable'
import { linkOf } from './link-of'
import { linkTasks, moves, pointsLinked } from './tasks'

/**
 * Why the link is not to do this now; null: it may. What switches a load obeys the rule of every test: closed up, no tags, power on.
 * @param said clear: nobody is at a load that moves; code: the household’s app has shown one for this joining
 */
export function linkObjection(
  job: JobState,
  site: SiteState,
  unitId: string,
  doing: LinkDoing,
  said: { clear: boolean; code: boolean },
): Refusal | null {
  const found = objection(job, site, unitId, doing, said)
  return found && inTrade(found.refusal, site.schemeId)
}
function objection(job: JobState, site: SiteState, unitId: string, doing: LinkDoing, { clear, code }: Parameters<typeof linkObjection>[4]) {
  const unit = job.units[unitId]
  const linked = linkOf(job).units[unitId] !== undefined
  if (!unit) return noUnit()
  if (doing === 'leave') return linked ? null : refuse('notLinked', 'The link has not joined this device.')
  if (unit.removedAt) return noUnit()
  if (doing === 'join') {
    if (unit.model.setupCode !== 'openHome')
      return refuse('otherStandard', `${unit.model.name} does not speak the open home standard.`, 'Pair it by hand, in its maker’s app.')
    return !code && unit.code.kind !== 'manual' && unit.code.kind !== 'qr'
      ? refuse('noCode', 'Its setup code is not on record.', 'Scan it at the device.')
      : null
  }
  if (!linked) return refuse('notLinked', 'The link has not joined this device.', 'Join it over the link first.')
  if (doing === 'homes') return null
  // The household lives there by now: nothing goes on or off by itself, and nobody is let in, while nobody of the crew is with them.
  if (job.handedOverAt && !Object.values(job.visits).some(({ status }) => status === 'onSite'))
    return refuse(
      'handedOver',
      'This home was handed over: its devices are switched and opened over the link on a visit only.',
      'Arrive first.',
    )
  if (doing === 'open') return null
  if (doing === 'name') return unit.name ? null : refuse('noName', 'This device has no name yet.', 'Name it first.')
  // Nothing is switched: whoever runs it at the wall decides.
  if (doing === 'trace')
    return linkTasks.trace(job, unit)
      ? null
      : refuse('noMeter', 'This device has no meter that the link could read.', 'Take its trace as a table.')
  for (const { id } of pointsLinked(job, unit)) {
    const no = pointIsTestable(job, { site }, id)
    if (no) return no
  }
  if (doing === 'check' && !clear && moves(job, unit))
    return refuse('notClear', 'It starts and stops by itself.', 'Nobody has hands, hair or a ladder at it, and whoever is near knows.')
  return linkTasks.work(job, unit, doing === 'wall')
    ? null
    : refuse('nothingToTry', 'There is no load on this device that the link could try.')
}
