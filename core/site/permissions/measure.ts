import { boxName, peopleOf } from '../proofs'
import type { SiteState } from '../state'
import { minutesBetween, no, stoppedAnswer, unknownAnswer, type Answer, type Asker, type Vantage } from './answer'

/** Live probing is announced for this long, minutes. Common practice, no source. */
export const measuringMinutes = 30

/**
 * May this person probe live in this box, now? A licensed person who has announced it to a mate (or works alone by the
 * solo steps), while nobody else may have hands in it. Never needs a proof; never allows touching.
 */
export function canMeasure(site: SiteState, boxId: string, asker: Asker, vantage: Vantage): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  const box = site.boxes[boxId]
  if (!box) return no('noSuchBox', ['There is no such box at this site.'], [])
  const stopped = stoppedAnswer(site)
  if (stopped) return stopped
  if (!asker.licensed) return no('licenceNeeded', ['Only a licensed person measures on live parts.'], ['Ask a licensed crew mate.'])
  const announced = Object.values(site.measuring).find((entry) => entry.boxId === boxId && entry.personId === asker.personId)
  if (!announced)
    return no('notAnnounced', ['Your crew does not know yet that you are measuring live here.'], ['Warn a crew mate, then measure.'])
  if (minutesBetween(announced.startedAt, vantage.now) > measuringMinutes)
    return no('announcedTooLongAgo', [`You warned your crew more than ${measuringMinutes} minutes ago.`], ['Warn them again.'])
  const alone = loneWorkOf(site, asker.personId, vantage)
  if (announced.warnedIds.length === 0 && !alone.working)
    return no('nobodyWarned', ['Nobody was warned.'], ['Warn a crew mate, or start working alone with a contact.'])
  if (alone.overdue) return no('checkInDue', ['Your check-in is overdue.'], ['Check in with your contact first.'])
  const mate = Object.values(site.proofs).find(
    (proof) => proof.boxId === boxId && proof.status !== 'void' && peopleOf(proof).some((person) => person.personId !== asker.personId),
  )
  const alarmed = Object.values(site.alarms).find((entry) => entry.boxIds.includes(boxId) && entry.personId !== asker.personId)
  if (alarmed)
    return no(
      'mateInBox',
      [`${alarmed.name} was alarmed at ${boxName(site, box)} and has not answered: their hands may still be in it.`],
      [`${alarmed.initials} says that they have stopped.`],
    )
  if (mate)
    return no(
      'mateInBox',
      [`${mate.name} relies on a proof in ${boxName(site, box)}.`],
      [`${mate.initials} stands clear and ends the proof.`],
    )
  return {
    yes: true,
    restsOn: [announced.warnedIds.length ? 'crew warned' : 'working alone, contact told', 'nobody else relies on this box'],
  }
}

/** Whether this person works alone, and whether their check-in is overdue. */
export function loneWorkOf(site: SiteState, personId: string, vantage: Pick<Vantage, 'now'>): { working: boolean; overdue: boolean } {
  const solo = site.solo[personId]
  return { working: solo !== undefined, overdue: solo !== undefined && Date.parse(vantage.now) > Date.parse(solo.dueAt) }
}
