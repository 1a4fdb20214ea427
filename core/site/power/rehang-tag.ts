import { accept, refuse } from '../../stream/envelope'
import { quoted } from '../../stream/telling'
import { end } from '../changes'
import { endOf, ownProofsIn } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { boxesBehind, permitOn } from '../feeds'
import { withEnds } from '../lifts'
import { breakerName, sentence } from '../names'
import { ended } from '../telling'
import type { RehangTag, TagRehung } from './rehang-tag.schema'

export const rehangTag = siteCommand('rehangTag', {
  kind: 'permission',
  ownPin: true,
  decide(site, command: RehangTag, { actor }) {
    const tag = site.tags[command.tagId]
    if (!tag) return refuse('noSuchTag', 'This tag is not hanging.')
    if (tag.personId !== actor.personId) return refuse('notYourTag', `This is the tag of ${tag.name}.`)
    if (tag.suspendedFor === null && !tag.defeated) return refuse('notSuspended', 'This tag hangs already.')
    if (tag.defeated && command.cause.length < 3)
      return refuse(
        'causeMissing',
        `${sentence(breakerName(site, site.breakers[tag.breakerId]!))} was found closed under your tag.`,
        'Record what happened to your lock, then hang it again.',
      )
    const breaker = site.breakers[tag.breakerId]!
    if (permitOn(site, breaker.id))
      return refuse(
        'grantOutstanding',
        `A permit to close ${breakerName(site, breaker)} is given.`,
        'Have it answered and the {breaker} opened first.',
      )
    if (breaker.state !== 'open')
      return refuse('notOpen', `${sentence(breakerName(site, breaker))} is ${breaker.state}.`, 'Open it and record it open.')
    const ends = endOf(site, ownProofsIn(site, boxesBehind(site, tag.breakerId), actor.personId), actor)
    return accept(tagRehung({ ...command, breakerId: tag.breakerId, ...ends }))
  },
})

export const tagRehung = siteEvent('tagRehung', {
  hands: true,
  lifts: [(payload) => withEnds({ cause: '', ...payload })],
  evolve(site, payload: TagRehung, event) {
    const tag = site.tags[payload.tagId]!
    tag.suspendedFor = null
    tag.defeated = false
    tag.hungAt = event.at
    tag.hungSeq = event.seq
    end(site, payload, { code: 'tagHungAgain' }, event, { breakerId: payload.breakerId })
  },
  say: (payload, { breaker }) => `hung the tag again on ${breaker(payload.breakerId)}${quoted(payload.cause)}.${ended(payload.voids)}`,
})
