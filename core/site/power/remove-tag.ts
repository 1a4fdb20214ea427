import { accept, refuse } from '../../stream/envelope'
import { end } from '../changes'
import { endOf, nothingEnds, ownProofsIn } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { boxesBehind } from '../feeds'
import { withEnds } from '../lifts'
import { ended } from '../telling'
import type { RemoveTag, TagRemoved } from './remove-tag.schema'

export const removeTag = siteCommand('removeTag', {
  kind: 'work',
  by: 'owner',
  queues: true,
  ownPin: true,
  givesUp: true,
  decide(site, command: RemoveTag, { actor, onCrew }) {
    const tag = site.tags[command.tagId]
    if (!tag) return refuse('noSuchTag', 'This tag is not hanging.')
    if (tag.company) {
      if (!onCrew || !actor.licensed)
        return refuse('licenceNeeded', 'A licensed person of the crew takes the company’s lock off.', 'Ask one, or a lead.')
      return accept(tagRemoved({ ...command, breakerId: tag.breakerId, ...nothingEnds }))
    }
    if (tag.personId !== actor.personId)
      return refuse(
        'notYourTag',
        `This is the tag of ${tag.name}. Only ${tag.initials} takes it off.`,
        `Ask ${tag.initials}: it can be done on any device of the crew with their PIN. If they have left the building, a lead ends what they left open, on record.`,
      )
    const ends = endOf(site, ownProofsIn(site, boxesBehind(site, tag.breakerId), actor.personId), actor)
    return accept(tagRemoved({ ...command, breakerId: tag.breakerId, ...ends }))
  },
  label: () => 'tag taken off',
})

export const tagRemoved = siteEvent('tagRemoved', {
  lifts: [withEnds],
  evolve(site, payload: TagRemoved, event) {
    delete site.tags[payload.tagId]
    end(site, payload, { code: 'tagTakenOff' }, event, { breakerId: payload.breakerId })
  },
  say: (payload, { breaker }) => `took the tag off ${breaker(payload.breakerId)}.${ended(payload.voids)}`,
})
