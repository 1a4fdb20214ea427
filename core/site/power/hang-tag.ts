import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { tagsOn } from '../feeds'
import { breakerName } from '../names'
import { canTag } from '../permissions'
import { refuseAnswer } from '../refusals'
import type { HangTag, TagHung } from './hang-tag.schema'

export const hangTag = siteCommand('hangTag', {
  kind: 'work',
  queues: true,
  decide(site, command: HangTag, { actor, basedOnSeq }) {
    const point = site.breakers[command.breakerId]
    if (point && basedOnSeq < point.energisedSeq)
      return refuse(
        'lateTag',
        `You hung this tag before ${breakerName(site, point)} was found ${point.state === 'open' ? 'closed' : point.state}: things have changed since.`,
        'Check the lever and your lock, then hang the tag again.',
      )
    const answer = canTag(site, command.breakerId, actor)
    if (!answer.yes && !(command.company && answer.code === 'alreadyTagged')) return refuseAnswer(answer)
    if (!command.lock && (!command.measure || command.company))
      return refuse(
        'noLock',
        command.company
          ? 'The company’s lock is a real lock: record which one hangs there.'
          : 'A tag stands for a lock, or for a written extra measure.',
        'Name the lock, or write what else keeps the {breaker} open.',
      )
    if (command.company && !command.notice)
      return refuse('noNotice', 'A lock left overnight needs a notice at the {breaker}.', 'Write on it who to call and why it is off.')
    if (command.company && tagsOn(site, command.breakerId).some((tag) => tag.company))
      return refuse('alreadyTagged', 'The company’s lock already hangs here.')
    if (site.tags[command.tagId]) return refuse('tagExists', 'This tag already hangs.')
    const lock = command.lock.toLowerCase()
    const elsewhere = lock ? Object.values(site.tags).find((tag) => tag.lock.toLowerCase() === lock) : undefined
    if (elsewhere)
      return refuse(
        'lockElsewhere',
        `Lock ${command.lock} already hangs on ${breakerName(site, site.breakers[elsewhere.breakerId]!)} (${elsewhere.initials}).`,
        'One lock hangs in one place. Name the lock that hangs here.',
      )
    return accept(tagHung(command))
  },
  label: () => 'tag hung',
})

export const tagHung = siteEvent('tagHung', {
  hands: true,
  lifts: [(payload) => ({ ...payload, company: false, notice: '' })],
  evolve(site, payload: TagHung, event) {
    site.tags[payload.tagId] = {
      id: payload.tagId,
      breakerId: payload.breakerId,
      personId: event.actor.personId,
      initials: event.actor.initials,
      name: event.actor.name,
      lock: payload.lock,
      measure: payload.measure,
      hungAt: event.at,
      hungSeq: event.seq,
      company: payload.company,
      notice: payload.notice,
      suspendedFor: null,
      defeated: false,
    }
  },
  say: (payload, { breaker }) =>
    `hung ${payload.company ? 'the company’s lock' : 'a tag'} on ${breaker(payload.breakerId)}${payload.lock ? ` with lock ${payload.lock}` : ` – ${payload.measure}`}`,
})
