import { permitOn, tagsOn } from '../feeds'
import { breakerName, sentence } from '../names'
import type { SiteState } from '../state'
import { no, unknownAnswer, type Answer, type Asker } from './answer'

/** May a tag be hung here? Only on an open point, never while a request to close is unanswered. */
export function canTag(site: SiteState, breakerId: string, asker: Asker): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  const breaker = site.breakers[breakerId]
  if (!breaker) return no('noSuchBreaker', ['There is no such {breaker} at this site.'], [])
  const permit = permitOn(site, breakerId)
  if (permit)
    return no(
      'grantOutstanding',
      [`${permit.name} has a permit to close ${breakerName(site, breaker)} and has not answered.`],
      ['Have the permit answered first.'],
    )
  if (breaker.state !== 'open')
    return no(
      'notOpen',
      [
        `${sentence(breakerName(site, breaker))} is ${breaker.state === 'unknown' ? 'in an unknown position' : breaker.state}. A tag hangs only on an open {breaker}.`,
      ],
      ['Open it and record it open.'],
    )
  if (tagsOn(site, breakerId).some((tag) => tag.personId === asker.personId && !tag.company))
    return no('alreadyTagged', [`Your tag already hangs on ${breakerName(site, breaker)}.`], [])
  return { yes: true, restsOn: [`${breakerName(site, breaker)} is recorded open`] }
}
