import { holds, mayFeedUnrecorded } from '../feeds'
import { breakerName, sentence } from '../names'
import { boxName, peopleOf, suspenseOn } from '../proofs'
import { suspenseMinutes } from '../reading'
import type { BoxState, Proof, SiteState } from '../state'
import { whyEnded } from '../why-ended'
import { minutesBetween, no, stoppedAnswer, unknownAnswer, type Answer, type Asker, type Vantage } from './answer'
import { permitReaching, reaches } from './close'
import { isIsolatedFor } from './isolated'

/** Minutes a finished proof still has, negative when its time is over. Infinity while it is being made. */
export function proofMinutesLeft(proof: Proof, vantage: Vantage): number {
  return proof.finishedAt === null ? Infinity : vantage.proofLimitMinutes - minutesBetween(proof.finishedAt, vantage.now)
}

/** May this person rely on this proof? An apprentice only when a licensed person made or witnessed it too. */
function reliesOn(proof: Proof, asker: Asker): boolean {
  const took = peopleOf(proof).some((person) => person.personId === asker.personId)
  return took && hasLicensedEyes(proof, asker)
}
/** Was a licensed person there? `asker` is known as they are now, the others as the record has them. */
export function hasLicensedEyes(proof: Proof, asker?: Asker): boolean {
  const eyes = [{ personId: proof.personId, licensed: proof.proverLicensed }, ...proof.witnesses]
  return eyes.some(({ personId, licensed }) => (personId === asker?.personId ? asker.licensed && licensed : licensed))
}

/** May this person touch the conductors in this box, now? Parted neutrals count as live until both ends were tested. */
export function canTouch(site: SiteState, boxId: string, asker: Asker, vantage: Vantage): Answer {
  if (vantage.acknowledged) return canTouchOffline(vantage.acknowledged, site, boxId, asker, { ...vantage, acknowledged: null })
  if (site.unknownEvent) return unknownAnswer(site)
  if (vantage.outcomeUnknown)
    return no(
      'outcomeUnknown',
      ['What you sent has no answer yet. It may have been accepted, and others may be acting on it.'],
      ['Get a connection. The answer is on the server.'],
    )
  const stopped = stoppedAnswer(site)
  if (stopped) return stopped
  const box = site.boxes[boxId]
  if (!box) return no('noSuchBox', ['There is no such box at this site.'], [])
  const isolation = isIsolatedFor(site, box, asker.personId)
  if (!isolation.yes) return isolation
  const cleared = Object.values(site.asks).find(
    (ask) => ask.clear.some((person) => person.personId === asker.personId) && reaches(site, box, ask.breakerId),
  )
  if (cleared)
    return no(
      'saidClear',
      [`You said clear: ${cleared.name} may have ${breakerName(site, site.breakers[cleared.breakerId]!)} closed.`],
      ['Wait until it is open again, hang your tag again and prove again.'],
    )
  const permit = permitReaching(site, box)
  if (permit) {
    const breaker = site.breakers[permit.breakerId]!
    return no(
      'grantOutstanding',
      [`${permit.name} may be closing ${breakerName(site, breaker)} right now: it counts as live.`],
      [`Have ${permit.name} answer the request, then open, tag and prove again.`],
    )
  }
  const alarm = openAlarmOf(site, box, asker.personId)
  if (alarm)
    return no(
      'alarmOpen',
      ['You were alarmed here and have not answered.'],
      ['Hands out, answer “I have stopped”, then look at the power and prove again.'],
    )
  const proof = box.proofId ? site.proofs[box.proofId] : undefined
  if (!proof || proof.status !== 'living') {
    const why = proof?.status === 'void' ? ` The last proof ended: ${whyEnded(site, proof.voidWhy!)}` : ''
    return no(
      'notProven',
      [`${sentence(boxName(site, box))} is not proven dead.${why}`],
      ['Prove it dead: tester, reference, every conductor, tester.'],
    )
  }
  const sign = suspenseOn(site, proof.id)
  if (sign)
    return no(
      'inSuspense',
      [
        `${sign.name} read ${sign.volts} V with high impedance at ${boxName(site, site.boxes[sign.boxId]!)}: hands out until it is read again with low impedance.`,
      ],
      [`Read the same pair there with low impedance within ${suspenseMinutes} minutes, or record what it was.`],
    )
  if (proofMinutesLeft(proof, vantage) <= 0)
    return no('proofExpired', [`The proof is older than ${vantage.proofLimitMinutes} minutes.`], ['Prove it dead again.'])
  const parted = box.parted.find((part) => !part.tested)
  if (parted)
    return no(
      'partedUntested',
      [`The neutral “${parted.what}” was opened and its two ends are not tested.`],
      ['Test both ends with low impedance.'],
    )
  if (!reliesOn(proof, asker)) {
    if (proof.personId === asker.personId)
      return no(
        'needsWitness',
        ['This proof needs a licensed witness.'],
        ['Ask a licensed crew mate on this visit to witness it, here at the box.'],
      )
    return no('notWitnessed', [`The proof is ${proof.name}'s.`], ['Witness it at the box, or make your own.'])
  }
  return { yes: true, restsOn: [...isolation.restsOn, `proof by ${proof.initials}`] }
}

/** An alarm of this person that has to do with this box and is not answered. */
export const openAlarmOf = (site: SiteState, box: BoxState, personId: string) =>
  Object.values(site.alarms).find((alarm) => alarm.personId === personId && alarm.boxIds.includes(box.id))

/**
 * May this person touch, on a phone without network? `known` is the last state the server acknowledged, `here` the
 * same with this phone's own unsent entries on top. Own acknowledged tags on every path, and an own complete proof
 * that both states allow. Labels lie, and without network nobody can say what else is switched: so either the crew
 * knows of the work (the proof was started before the connection went, which keeps everything else that is off, off),
 * or nothing is left that could feed the box unknown. What the server says on return can only be stricter.
 */
export function canTouchOffline(known: SiteState, here: SiteState, boxId: string, asker: Asker, vantage: Vantage): Answer {
  const box = known.boxes[boxId]
  if (!box) return no('noSuchBox', ['There is no such box at this site.'], [])
  // A tag that was taken off here protects no more, and the one hung in its place counts when the server has it.
  const tags = Object.fromEntries(Object.entries(known.tags).filter(([id]) => here.tags[id] && holds(here.tags[id])))
  const isolation = isIsolatedFor({ ...known, tags }, box, asker.personId)
  if (!isolation.yes) return isolation
  const touch = canTouch(here, boxId, asker, vantage)
  if (!touch.yes) return touch
  const proof = here.proofs[here.boxes[boxId]?.proofId ?? '']
  if (!proof || proof.personId !== asker.personId)
    return no('offlineOwnProof', ['Without network only your own proof counts.'], ['Prove it dead yourself, or get a connection.'])
  // The same proof: one that was closed up or given up since, even only here, the crew may know as over.
  const crewKnows = proof.id in known.proofs && known.proofs[proof.id]!.status !== 'void'
  const unknown = Object.values(known.breakers).filter((breaker) => mayFeedUnrecorded(known, box, breaker.id))
  if (!crewKnows && unknown.length > 0)
    return no(
      'offlineUnannounced',
      [
        `The crew does not know that you are working in ${boxName(known, box)}. They may close ${breakerName(known, unknown[0]!)}, which has not been shown not to feed this box.`,
      ],
      ['Start the proof where there is a connection (tester on a live source), then continue it here.'],
    )
  return { yes: true, restsOn: [...isolation.restsOn, 'your own proof', 'the last state this phone knows'] }
}
