import { accept, payloadOf, refuse, type Actor, type Decision } from '../stream'
import { breakerName, isLeftSafe, soloOf } from './permissions'
import { noBox, type Handlers } from './decide-context'
import type { SiteEvent } from './schema'
import type { BoxState, SiteState } from './state'

type Person = NonNullable<BoxState['openedBy']>

/** Measuring live, working alone, and leaving. */
export const crewHandlers: Handlers<
  'startMeasuring' | 'endMeasuring' | 'startSolo' | 'checkIn' | 'endSolo' | 'confirmStopped' | 'leaveSite'
> = {
  startMeasuring(site, command, { actor, now }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (!actor.licensed) return refuse('licenceNeeded', 'Measuring on live parts is for a licensed person.', 'Ask a licensed crew mate.')
    if (site.measuring[command.measureId]) return refuse('measureExists', 'This is already announced.')
    if (box.closure === 'closed') return refuse('boxClosed', `${box.name} is closed up.`, 'Take the plate off and record the box open.')
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
    const mine = Object.values(site.unanswered).filter((entry) => entry.personId === actor.personId)
    if (mine.length === 0) return refuse('nothingToAnswer', 'No alarm waits for your answer.')
    if (mine.some((entry) => entry.seq > basedOnSeq)) return refuse('lateWord', 'Another alarm has come since.', 'Read it, then answer.')
    return accept<SiteEvent>({ type: 'stopConfirmed', payload: {} })
  },

  leaveSite(site, _command, { actor }) {
    return decideLeave(site, actor)
  },
}

const later = (now: string, minutes: number) => new Date(Date.parse(now) + minutes * 60_000).toISOString()

/** Leaving ends one's proofs and is refused while one's tags, leave or bare ends are left behind. */
export function decideLeave(site: SiteState, actor: Actor): Decision<SiteEvent> {
  const tags = Object.values(site.tags).filter((tag) => tag.personId === actor.personId && !tag.company)
  if (tags.length > 0) {
    const names = tags.map((tag) => breakerName(site.breakers[tag.breakerId]!)).join(', ')
    return refuse('tagsLeft', `Your tag still hangs on ${names}.`, 'Close up or guard the boxes, take your tags off, then leave.')
  }
  const grant = Object.values(site.grants).find((candidate) => candidate.personId === actor.personId)
  if (grant)
    return refuse(
      'grantLeft',
      `You asked to close ${breakerName(site.breakers[grant.breakerId]!)} and have not said whether it is closed.`,
      'Answer the request first.',
    )
  const ask = Object.values(site.asks).find((candidate) => candidate.personId === actor.personId && candidate.status !== 'asked')
  if (ask)
    return refuse('askLeft', `${breakerName(site.breakers[ask.breakerId]!)} is closed for you with boxes open.`, 'Open it again first.')
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
        `${box.name} stands open.`,
        'Close it up, cap and guard it, or have its breaker held open by the company’s lock with a notice.',
      )
    handOver[box.id] = mate
  }
  const voids = Object.values(site.proofs)
    .filter((proof) => proof.status !== 'void' && proof.personId === actor.personId)
    .map((proof) => proof.id)
  return accept<SiteEvent>({ type: 'siteLeft', payload: { voids, handOver } })
}
