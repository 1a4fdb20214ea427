import { accept, payloadOf, refuse, type Actor, type Decision } from '../stream'
import { boxesReached, mainBreakers } from './feeds'
import { breakerName, hasLicensedEyes, isLeftSafe, minutesBetween, sentence, soloOf } from './permissions'
import { isSignature } from './signature'
import { boxName, peopleAtRisk, plateIsOff, proofsIn } from './proof'
import { consequenceFor, consequenceOfPath, endOf, noBox, nothingEnds, waited, type Handlers } from './decide-context'
import type { SiteEvent } from './schema'
import type { BoxState, Proof, SiteState } from './state'

/** Whoever did something here this recently is taken to be here, minutes. Common practice, no source. */
const stillHereMinutes = 30

type Person = NonNullable<BoxState['openedBy']>

/** Measuring live, working alone, alarms, people who are gone, second sources, and leaving. */
export const crewHandlers: Handlers<
  | 'startMeasuring'
  | 'endMeasuring'
  | 'startSolo'
  | 'checkIn'
  | 'endSolo'
  | 'confirmStopped'
  | 'stopWork'
  | 'tellStop'
  | 'endStop'
  | 'showAlarm'
  | 'declareAbsent'
  | 'withdrawAbsent'
  | 'confirmAbsent'
  | 'notePerson'
  | 'recordSource'
  | 'recordSourcePoint'
  | 'ruleOutSource'
  | 'leaveSite'
> = {
  startMeasuring(site, command, { actor, now }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (!actor.licensed) return refuse('licenceNeeded', 'Measuring on live parts is for a licensed person.', 'Ask a licensed crew mate.')
    if (site.measuring[command.measureId]) return refuse('measureExists', 'This is already announced.')
    if (box.closure === 'closed')
      return refuse('boxClosed', `${sentence(boxName(site, box))} is closed up.`, 'Take the plate off and record the box open.')
    const asks = command.warnedIds.filter((id) => id !== actor.personId)
    const alone = soloOf(site, actor.personId, { now })
    if (asks.length === 0 && !alone.working)
      return refuse('nobodyWarned', 'Nobody is warned.', 'Name the crew mate you warned, or start working alone with a contact.')
    if (alone.overdue) return refuse('checkInDue', 'Your check-in is overdue.', 'Check in with your contact first.')
    return accept<SiteEvent>({ type: 'measuringStarted', payload: { ...payloadOf(command), warnedIds: asks, asks } })
  },

  endMeasuring(site, command, { actor }) {
    const entry = site.measuring[command.measureId]
    if (!entry) return refuse('noSuchMeasure', 'This has ended already.')
    if (entry.personId !== actor.personId && actor.role !== 'lead') return refuse('notYours', `${entry.name} is measuring.`)
    return accept<SiteEvent>({ type: 'measuringEnded', payload: payloadOf(command) })
  },

  startSolo(site, command, { actor, now }) {
    if (!actor.licensed) return refuse('licenceNeeded', 'Only a licensed person works alone.', 'Work beside a licensed crew mate.')
    if (site.solo[actor.personId]) return refuse('alreadySolo', 'You already work alone here.')
    return accept<SiteEvent>({ type: 'soloStarted', payload: { ...payloadOf(command), dueAt: later(now, command.everyMinutes) } })
  },

  checkIn(site, _command, { actor, now, heldMs }) {
    const solo = site.solo[actor.personId]
    if (!solo) return refuse('notSolo', 'You do not work alone here.')
    // A check-in that waited on the phone says how things were then.
    return accept<SiteEvent>({ type: 'checkedIn', payload: { dueAt: later(now, solo.everyMinutes - heldMs / 60_000) } })
  },

  endSolo(site, _command, { actor }) {
    if (!site.solo[actor.personId]) return refuse('notSolo', 'You do not work alone here.')
    return accept<SiteEvent>({ type: 'soloEnded', payload: {} })
  },

  confirmStopped(site, _command, { actor, basedOnSeq }) {
    const mine = Object.values(site.alarms).filter((alarm) => alarm.personId === actor.personId)
    if (mine.length === 0) return refuse('nothingToAnswer', 'No alarm waits for your answer.')
    if (mine.some((alarm) => alarm.seq > basedOnSeq)) return refuse('lateWord', 'Another alarm has come since.', 'Read it, then answer.')
    return accept<SiteEvent>({ type: 'stopConfirmed', payload: {} })
  },

  stopWork(site, command, { actor }) {
    if (site.stop) return refuse('alreadyStopped', `${site.stop.name} has stopped the work here already.`)
    const boxes = Object.values(site.boxes)
    const concerned = new Set([...Object.keys(site.onSite), ...peopleAtRisk(site, boxes, Object.keys(site.breakers))])
    for (const grant of Object.values(site.grants)) concerned.add(grant.personId)
    concerned.delete(actor.personId)
    return accept<SiteEvent>({ type: 'workStopped', payload: { ...payloadOf(command), alarms: [...concerned] } })
  },
  tellStop(site, command, { actor }) {
    if (site.stop?.id !== command.stopId) return refuse('noSuchStop', 'Work goes on here already.')
    // Nobody knows yet which circuit it was: nothing that was proven before counts.
    const power = command.what === 'voltage' || command.what === 'shock'
    const proofs = power ? Object.values(site.proofs).filter((proof) => proof.status !== 'void') : []
    return accept<SiteEvent>({ type: 'stopTold', payload: { ...payloadOf(command), ...endOf(site, proofs, actor) } })
  },
  endStop(site, command, { actor }) {
    if (site.stop?.id !== command.stopId) return refuse('noSuchStop', 'Work goes on here already.')
    if (site.stop.personId !== actor.personId && actor.role !== 'lead')
      return refuse('notYours', `${site.stop.name} stopped the work.`, `${site.stop.initials} or a lead says that it goes on.`)
    return accept<SiteEvent>({ type: 'workResumed', payload: payloadOf(command) })
  },

  showAlarm(site, _command, { actor }) {
    const unseen = Object.values(site.alarms).some((alarm) => alarm.personId === actor.personId && alarm.shownAt === null)
    return unseen ? accept<SiteEvent>({ type: 'alarmShown', payload: {} }) : refuse('nothingToShow', 'No alarm waits to be shown.')
  },

  declareAbsent(site, command, { actor, now }) {
    const person = site.people[command.personId]
    if (actor.role !== 'lead') return refuse('leadOnly', 'Only a lead ends what an absent person left.', 'Call the lead.')
    if (command.personId === actor.personId) return refuse('ownTag', 'This is yours: answer it, or take it off yourself.')
    if (!person || !leftBehind(site, command.personId)) return refuse('nothingLeft', 'This person has left nothing here.')
    if (site.absences[command.personId]) return refuse('alreadyDeclared', 'This is declared already, and waits for a second person.')
    const seemsHere = command.personId in site.onSite || minutesBetween(person.lastAt, now) < stillHereMinutes
    if (seemsHere && command.explained.length < 10)
      return refuse(
        'seemsHere',
        `The record has ${person.name} on site; the last word from them came ${Math.max(0, Math.round(minutesBetween(person.lastAt, now)))} minutes ago.`,
        'Call them. Then write how you know that they have left the building.',
      )
    return accept<SiteEvent>({ type: 'absenceDeclared', payload: { ...payloadOf(command), name: person.name } })
  },

  withdrawAbsent(site, command, { actor }) {
    if (!site.absences[command.personId]) return refuse('notDeclared', 'Nobody has declared this person absent.')
    if (actor.role !== 'lead' && actor.personId !== command.personId)
      return refuse('leadOnly', 'A lead or the person takes this back.', 'Call the lead.')
    return accept<SiteEvent>({ type: 'absenceWithdrawn', payload: payloadOf(command) })
  },

  confirmAbsent(site, command, { actor, ...context }) {
    const absence = site.absences[command.personId]
    if (!absence) return refuse('notDeclared', 'No lead has declared this person absent.', 'The lead begins.')
    if (actor.personId === command.personId)
      return refuse('notAbsent', 'You are here: take back what was declared, and take your things off.')
    if (command.household && !isSignature(command.household.strokes))
      return refuse('noSignature', 'That is a dot, not a signature.', 'Whoever signs does it with the whole name.')
    if (actor.personId === absence.declaredBy.personId && !command.household)
      return refuse(
        'secondPerson',
        'A second person confirms that they have left.',
        'A crew mate or the office does it on their own device; with nobody else in the company, somebody at the home signs here.',
      )
    if (waited(context)) return refuse('onlineOnly', 'This waited without network.', 'Look again whether they are really gone.')
    const tags = Object.values(site.tags).filter((tag) => tag.personId === command.personId && !tag.company)
    const grants = Object.values(site.grants).filter((grant) => grant.personId === command.personId)
    const reached = grants.flatMap((grant) => boxesReached(site, grant.breakerId))
    const mates = consequenceFor(site, [...new Set(reached)], [], actor)
    const ends = endOf(site, [...new Set([...restingOn(site, command.personId), ...proofsIn(site, reached)])], actor)
    return accept<SiteEvent>({
      type: 'absentEnded',
      payload: {
        ...payloadOf(command),
        name: absence.name,
        declaredBy: absence.declaredBy.name,
        reason: absence.reason,
        tagIds: tags.map((tag) => tag.id),
        breakerIds: grants.map((grant) => grant.breakerId),
        voids: ends.voids,
        alarms: [...new Set([...mates.alarms, ...ends.alarms])].filter((id) => id !== command.personId),
      },
    })
  },

  notePerson(site, command, { actor }) {
    const ended = command.licensed && command.active ? [] : withoutLicensedEyes(site, command.personId)
    return accept<SiteEvent>({ type: 'personNoted', payload: { ...payloadOf(command), ...endOf(site, ended, actor) } })
  },

  recordSource(site, command, { actor }) {
    if (site.sources[command.sourceId]) return refuse('sourceExists', 'This source is on record already.')
    return accept<SiteEvent>({
      type: 'sourceRecorded',
      payload: { ...payloadOf(command), ...consequenceOfPath(site, Object.values(site.boxes), [], actor) },
    })
  },

  recordSourcePoint(site, command, context) {
    const source = site.sources[command.sourceId]
    if (!source) return refuse('noSuchSource', 'There is no such source at this site.')
    if (!site.panels[command.panelId]) return refuse('noSuchPanel', 'There is no such panel at this site.')
    if (site.breakers[command.breakerId]) return refuse('breakerExists', 'This breaker is on record already.')
    if (!context.actor.licensed)
      return refuse('licenceNeeded', 'Where a source is switched off is for a licensed person to say.', 'Ask a licensed crew mate.')
    if (waited(context)) return refuse('onlineOnly', 'This waited without network.', 'Look again, then record it.')
    if (mainBreakers(site).some((main) => main.number.toLowerCase() === command.number.toLowerCase() && main.panelId === command.panelId))
      return refuse('nameTaken', `A main ${command.number} is on record there already.`, 'Give this one a name of its own.')
    return accept<SiteEvent>({ type: 'sourcePointRecorded', payload: { ...payloadOf(command), ...nothingEnds } })
  },

  ruleOutSource(site, command, context) {
    const source = site.sources[command.sourceId]
    if (!source) return refuse('noSuchSource', 'There is no such source at this site.')
    if (!context.actor.licensed)
      return refuse('licenceNeeded', 'That a source reaches no box is for a licensed person to say.', 'Ask a licensed crew mate.')
    if (waited(context)) return refuse('onlineOnly', 'This waited without network.', 'Look again, then record it.')
    if (mainBreakers(site).some((main) => main.sourceId === source.id))
      return refuse('hasPoint', `${sentence(source.name)} has a switching point: open and tag that.`)
    return accept<SiteEvent>({ type: 'sourceRuledOut', payload: payloadOf(command) })
  },

  leaveSite(site, _command, { actor }) {
    return decideLeave(site, actor)
  },
}

const later = (now: string, minutes: number) => new Date(Date.parse(now) + minutes * 60_000).toISOString()

/** Has this person left tags, leave, requests, proofs, alarms, a guard or an open box behind? */
export function leftBehind(site: SiteState, personId: string): string | null {
  const tag = Object.values(site.tags).find((one) => one.personId === personId && !one.company)
  if (tag) return `a tag on ${breakerName(site, site.breakers[tag.breakerId]!)}`
  const grant = Object.values(site.grants).find((one) => one.personId === personId)
  if (grant) return `leave to close ${breakerName(site, site.breakers[grant.breakerId]!)}`
  if (Object.values(site.asks).some((one) => one.personId === personId && one.kind === 'energise'))
    return 'a request for power for a moment'
  if (Object.values(site.alarms).some((one) => one.personId === personId && one.boxIds.length > 0)) return 'an alarm that is not answered'
  const proof = Object.values(site.proofs).find((one) => one.personId === personId && one.status !== 'void')
  if (proof) return `a proof in ${boxName(site, site.boxes[proof.boxId]!)}`
  const box = Object.values(site.boxes).find((one) => plateIsOff(one) && one.openedBy?.personId === personId && personId in site.onSite)
  if (box) return `${boxName(site, box)} open`
  return site.stop?.personId === personId ? 'work that was stopped' : null
}

/** Proofs that end when this person goes: their own, and those that no licensed person stands behind then. */
function restingOn(site: SiteState, personId: string): Proof[] {
  const own = Object.values(site.proofs).filter((proof) => proof.status !== 'void' && proof.personId === personId)
  return [...new Set([...own, ...withoutLicensedEyes(site, personId)])]
}

/** Proofs that no licensed person has seen once this one counts as none. */
function withoutLicensedEyes(site: SiteState, personId: string): Proof[] {
  return Object.values(site.proofs).filter(
    (proof) => proof.status === 'living' && hasLicensedEyes(proof) && !hasLicensedEyes(proof, { personId, licensed: false }),
  )
}

/** Leaving ends one's proofs and is refused while one's tags, leave or bare ends are left behind. */
export function decideLeave(site: SiteState, actor: Actor): Decision<SiteEvent> {
  const tags = Object.values(site.tags).filter((tag) => tag.personId === actor.personId && !tag.company)
  if (tags.length > 0) {
    const names = tags.map((tag) => breakerName(site, site.breakers[tag.breakerId]!)).join(', ')
    return refuse('tagsLeft', `Your tag still hangs on ${names}.`, 'Close up or guard the boxes, take your tags off, then leave.')
  }
  const grant = Object.values(site.grants).find((candidate) => candidate.personId === actor.personId)
  if (grant)
    return refuse(
      'grantLeft',
      `You asked to close ${breakerName(site, site.breakers[grant.breakerId]!)} and have not said whether it is closed.`,
      'Answer the request first.',
    )
  const ask = Object.values(site.asks).find((candidate) => candidate.personId === actor.personId && candidate.status !== 'asked')
  if (ask)
    return refuse(
      'askLeft',
      `${sentence(breakerName(site, site.breakers[ask.breakerId]!))} is closed for you with boxes open.`,
      'Open it again first.',
    )
  const handOver: Record<string, Person> = {}
  const mates = Object.values(site.onSite).filter((person) => person.personId !== actor.personId)
  for (const box of Object.values(site.boxes)) {
    const keeper = box.openedBy?.personId
    const kept = keeper !== undefined && keeper !== actor.personId && mates.some((mate) => mate.personId === keeper)
    if (kept || isLeftSafe(site, box)) continue
    // A mate who stays takes the open box over, the one who works in it first. The last to go leaves none.
    const proof = Object.values(site.proofs).find((candidate) => candidate.boxId === box.id && candidate.status !== 'void')
    const mate = mates.find((candidate) => candidate.personId === proof?.personId) ?? mates[0]
    if (!mate)
      return refuse(
        'boxOpen',
        `${sentence(boxName(site, box))} stands open.`,
        'Close it up, cap and guard it, or have its breaker held open by the company’s lock with a notice.',
      )
    handOver[box.id] = mate
  }
  const ends = endOf(site, restingOn(site, actor.personId), actor)
  return accept<SiteEvent>({ type: 'siteLeft', payload: { ...ends, handOver } })
}
