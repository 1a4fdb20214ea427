import { readingWord } from '../wiring/identify/found-box'
import { causeWords, energiseWords, photoWords, remedyWords } from './words'
import {
  boxName,
  markOf,
  breakerName,
  causeWordsOf,
  positionText,
  type ReferenceSeen,
  type SiteEvent,
  type SiteState,
  stopWords,
} from '../site'
import type { StreamEvent } from '../stream'
import { roundTo } from '../units/round'
import type { JobEvent } from './schema'
import type { JobState } from './state'

export interface HistoryLine {
  id: string
  stream: 'site' | 'job'
  seq: number
  at: string
  receivedAt: string
  who: string
  initials: string
  what: string
  /** Alarms and refusals by the physical world stand out. */
  tone: 'plain' | 'alarm' | 'good'
}

type Sentence = string | { what: string; tone: HistoryLine['tone'] }
const alarm = (what: string): Sentence => ({ what, tone: 'alarm' })
const good = (what: string): Sentence => ({ what, tone: 'good' })

/** Of what waited on a phone while its proof ended. */
const doubtWords = ' – in doubt: its proof had ended before this arrived'
const quoted = (text: string) => (text ? ` – ${text}` : '')
const ended = (voids: string[]) => (voids.length ? ` ${voids.length === 1 ? 'One proof has' : `${voids.length} proofs have`} ended.` : '')

const rangeText = (impedance: string) => (impedance === 'steps' ? 'two-pole detector' : `${impedance} impedance`)
const referenceText = (seen: ReferenceSeen) =>
  seen.kind === 'livePoint'
    ? `${roundTo(seen.referenceToLine, 2)} V to the line and ${roundTo(seen.referenceToNeutral, 2)} V to the neutral of ${seen.name}`
    : `${seen.ohms} Ω to ${seen.kind === 'twoEarths' ? seen.second : 'the main earth bar'}, ${seen.leadOhms} Ω of it leads`

function siteSentence(site: SiteState, event: SiteEvent): Sentence {
  const breaker = (id: string) => (site.breakers[id] ? breakerName(site, site.breakers[id]) : 'a breaker')
  const box = (id: string) => (site.boxes[id] ? boxName(site, site.boxes[id]) : 'a box')
  const proofBox = (id: string) => box(site.proofs[id]?.boxId ?? '')
  switch (event.type) {
    case 'siteLaidOut':
      return `laid out the site: ${event.payload.breakers.length} breakers, ${event.payload.boxes.length} boxes`
    case 'breakerObserved': {
      const { state, late, again, note, voids, breakerId } = event.payload
      const found = again ? `opened ${breaker(breakerId)}, which had been closed meanwhile` : `found ${breaker(breakerId)} ${state}`
      const text = `${found}${late ? ' (late word: changes nothing)' : ''}${quoted(note)}.${ended(voids)}`
      return voids.length && (state !== 'open' || again) ? alarm(text) : text
    }
    case 'liveObserved':
      return alarm(
        `saw voltage at ${box(event.payload.boxId)}${event.payload.volts === null ? '' : `: ${event.payload.volts} V`}${quoted(event.payload.note)}.${ended(event.payload.voids)}`,
      )
    case 'causeRecorded':
      return `recorded what the voltage at ${box(event.payload.boxId)} was: ${causeWordsOf(site, event.payload.cause)}.${ended(event.payload.voids)}`
    case 'alarmShown':
      return 'was shown the alarm'
    case 'sourceRecorded':
      return alarm(`found another source: ${event.payload.name} (${event.payload.kind}).${ended(event.payload.voids)}`)
    case 'sourcePointRecorded':
      return `recorded where ${site.sources[event.payload.sourceId]?.name ?? 'a source'} is switched off: ${event.payload.number} – ${event.payload.basis}`
    case 'sourceRuledOut':
      return `recorded that ${site.sources[event.payload.sourceId]?.name ?? 'a source'} reaches no box – ${event.payload.reason}`
    case 'absenceDeclared':
      return alarm(`declared ${event.payload.name} off the site – ${event.payload.reason}${quoted(event.payload.explained)}`)
    case 'absenceWithdrawn':
      return `took back that ${site.people[event.payload.personId]?.name ?? 'somebody'} is off the site`
    case 'absentEnded':
      return alarm(
        `confirmed that ${event.payload.name} is off the site${event.payload.household ? ` (signed by ${event.payload.household.name})` : ''}: ${event.payload.tagIds.length} ${event.payload.tagIds.length === 1 ? 'tag' : 'tags'} taken off.${ended(event.payload.voids)}`,
      )
    case 'boxLookedInto':
      return `looked into ${box(event.payload.boxId)} with the power on, nothing touched`
    case 'boxReopened':
      return `took back that ${box(event.payload.boxId)} is closed`
    case 'guardTakenOver':
      return `guards ${box(event.payload.boxId)} now`
    case 'readingMoved':
      return `moved a reading at ${box(event.payload.boxId)} from ${event.payload.from} to ${event.payload.to}`
    case 'testerRechecked':
      return event.payload.testerGood
        ? `tried the tester on ${event.payload.source.name}: ${event.payload.volts} V, the tester is good. The proof at ${box(event.payload.boxId)} has ended`
        : alarm(
            `tried the tester on ${event.payload.source.name}: ${event.payload.volts} V. The tester failed.${ended(event.payload.voids)}`,
          )
    case 'instrumentFailed':
      return alarm(`${event.payload.name} failed${quoted(event.payload.why)}.${ended(event.payload.voids)}`)
    case 'personNoted':
      return `changed the role or licence of ${site.people[event.payload.personId]?.name ?? 'somebody'}.${ended(event.payload.voids)}`
    case 'tripCauseRecorded':
      return `recorded why ${breaker(event.payload.breakerId)} tripped – ${event.payload.cause}`
    case 'offLimitsMarked':
      return event.payload.reason === null
        ? `lifted “do not open” from ${breaker(event.payload.breakerId)}`
        : `marked ${breaker(event.payload.breakerId)} “do not open” – ${event.payload.reason}`
    case 'tagHung':
      return `hung ${event.payload.company ? 'the company’s lock' : 'a tag'} on ${breaker(event.payload.breakerId)}${event.payload.lock ? ` with lock ${event.payload.lock}` : ` – ${event.payload.measure}`}`
    case 'tagRemoved':
      return `took the tag off ${breaker(event.payload.breakerId)}.${ended(event.payload.voids)}`
    case 'tagRehung':
      return `hung the tag again on ${breaker(event.payload.breakerId)}${quoted(event.payload.cause)}.${ended(event.payload.voids)}`
    case 'tagOverridden':
      return alarm(`took ${event.payload.ownerName}’s tag off ${breaker(event.payload.breakerId)} – ${event.payload.reason}`)
    case 'feedsSet':
      return `set the feeds of ${box(event.payload.boxId)} to ${event.payload.breakerIds.map(breaker).join(', ') || 'none known'}${event.payload.unknownFeed ? ' and an unknown one' : ''} – ${event.payload.basis}.${ended(event.payload.voids)}`
    case 'roundSeen': {
      const { open, seen, voids } = event.payload
      const off = Object.entries(seen).flatMap(([id, what]) => (what === 'off' ? [box(id)] : []))
      const part = Object.entries(seen).flatMap(([id, what]) => (what === 'part' ? [box(id)] : []))
      const on = Object.keys(seen).length - off.length - part.length
      return `saw, with ${open.map((id) => markOf(site, id)).join(', ') || 'nothing'} open: off ${off.join(', ') || 'none'};${part.length ? ` some off ${part.join(', ')};` : ''} on ${on}.${ended(voids)}`
    }
    case 'roundTakenBack':
      return `took round ${event.payload.round} of the hunt back: it was seen wrong`
    case 'huntScoped':
      return event.payload.boxIds.length ? `traces ${event.payload.boxIds.length} boxes` : 'traces the boxes whose feed nobody knows'
    case 'roundsForgotten':
      return `started the breaker hunt over – ${event.payload.reason}`
    case 'neutralsTied':
      return `found a shared neutral between ${event.payload.breakerIds.map(breaker).join(' and ')} – ${event.payload.basis}.${ended(event.payload.voids)}`
    case 'boxOpened':
      return `opened ${box(event.payload.boxId)}`
    case 'boxClosed':
      return `closed ${box(event.payload.boxId)}`
    case 'boxGuarded':
      return `capped and guarded ${box(event.payload.boxId)} – ${event.payload.how}`
    case 'conductorsRecorded':
      return `recorded ${event.payload.conductors.length} conductors in ${box(event.payload.boxId)}: ${event.payload.conductors.map((conductor) => `${conductor.letter} ${conductor.colour}`).join(', ')}.${ended(event.payload.voids)}`
    case 'proofStarted':
      return `proved ${event.payload.instrument.name} on ${event.payload.source.name} (${event.payload.volts} V) to test ${box(event.payload.boxId)}`
    case 'referenceSeen':
      return `saw the reference good${event.payload.again ? ' again' : ''}: ${referenceText(event.payload.seen)}`
    case 'readingTaken': {
      const { a, b, position, impedance, volts, stopped, proofId } = event.payload
      const text = `read ${a} to ${b === 'REF' ? 'reference' : b} at ${proofBox(proofId)}${position.length ? `, ${positionText(site, position)}` : ''}: ${volts} V, ${rangeText(impedance)}`
      return stopped || event.payload.suspends.length ? alarm(`${text}. Stop.`) : text
    }
    case 'readingsSwept':
      return `read ${event.payload.pairs.length} pairs at ${proofBox(event.payload.proofId)}${event.payload.position.length ? `, ${positionText(site, event.payload.position)}` : ''}: none above ${event.payload.highestVolts} V, ${rangeText(event.payload.impedance)}`
    case 'proofFinished':
      return event.payload.outcome === 'good'
        ? good(
            `proved ${box(event.payload.boxId)} dead; tester good again at ${event.payload.volts} V on ${site.proofs[event.payload.proofId]?.sourceName ?? 'its source'}`,
          )
        : alarm(
            `tried the tester again at ${box(event.payload.boxId)}: ${event.payload.volts} V, ${site.proofs[event.payload.proofId]?.sourceVolts ?? 'more'} V before. It is in doubt`,
          )
    case 'proofAbandoned':
      return `gave up the proof at ${box(event.payload.boxId)} – ${event.payload.reason}`
    case 'proofWitnessed':
      return `witnessed the proof at ${box(event.payload.boxId)}`
    case 'closeGranted':
      return `was given leave to close ${breaker(event.payload.breakerId)}: it counts as live.${ended(event.payload.voids)}`
    case 'grantAnswered':
      return `${event.payload.answer === 'closed' ? 'closed' : 'gave up closing'} ${breaker(event.payload.breakerId)}`
    case 'grantOverridden':
      return alarm(`ended the leave of ${event.payload.ownerName} to close ${breaker(event.payload.breakerId)} – ${event.payload.reason}`)
    case 'openAsked':
      return `asked to have ${breaker(event.payload.breakerId)} opened${event.payload.boxId ? ` for ${box(event.payload.boxId)}` : ''}${quoted(event.payload.note)}`
    case 'energiseAsked':
      return `asked everyone to stand clear: ${breaker(event.payload.breakerId)} on for a moment, ${energiseWords[event.payload.purpose]}${quoted(event.payload.note)}`
    case 'askWithdrawn':
      return 'withdrew the request'
    case 'clearConfirmed':
      return `said clear of ${breaker(event.payload.breakerId)}${event.payload.tagIds.length ? '; the tag is suspended' : ''}`
    case 'clearTakenBack':
      return alarm('is no longer clear')
    case 'measuringStarted':
      return `measures live at ${box(event.payload.boxId)}${event.payload.warnedIds.length ? ', mates warned' : ', working alone'}`
    case 'measuringEnded':
      return 'finished measuring live'
    case 'neutralParted':
      return `parted the neutral “${event.payload.what}” at ${box(event.payload.boxId)} (${event.payload.basis.kind === 'clamp' ? `clamp ${event.payload.basis.amps} A` : `${event.payload.basis.breakerIds.map(breaker).join(', ')} open`})`
    case 'partedTested': {
      const text = `tested both ends of the parted neutral at ${box(event.payload.boxId)}: ${event.payload.voltsHere} V and ${event.payload.voltsAway} V`
      return event.payload.stopped ? alarm(`${text}. Stop.`) : text
    }
    case 'soloStarted':
      return `works alone; contact ${event.payload.contact}, check-in every ${event.payload.everyMinutes} minutes`
    case 'checkedIn':
      return 'checked in'
    case 'soloEnded':
      return 'no longer works alone'
    case 'workStopped':
      return alarm('stopped the work')
    case 'stopTold':
      return alarm(`said what had happened: ${stopWords[event.payload.what]}${quoted(event.payload.note)}`)
    case 'workResumed':
      return `said that work goes on${quoted(event.payload.note)}`
    case 'stopConfirmed':
      return 'has stopped: hands out'
    case 'siteLeft':
      return `left the site.${ended(event.payload.voids)}`
  }
}

function jobSentence(job: JobState, site: SiteState, event: JobEvent, nameOf: (personId: string) => string): Sentence {
  const box = (id: string | null) => (id ? (site.boxes[id]?.name ?? 'a box') : 'the home')
  const point = (id: string | null) => (id ? (job.points[id]?.name ?? 'a point') : 'the home')
  const unit = (id: string) => {
    const known = job.units[id]
    return !known ? 'a device' : known.name ? `${known.name} (${known.serial})` : known.serial
  }
  const callbackUnit = (id: string) => unit(job.callbacks[id]?.unitId ?? '')
  switch (event.type) {
    case 'jobOpened':
      return `opened the job with ${event.payload.points.length} points in ${event.payload.boxIds.length} boxes`
    case 'visitScheduled':
      return `scheduled ${event.payload.kind === 'install' ? 'an' : 'a'} ${event.payload.kind} visit for ${event.payload.personIds.map(nameOf).join(' and ')}`
    case 'visitMoved':
      return `changed the visit: ${event.payload.personIds.map(nameOf).join(' and ')}`
    case 'visitCancelled':
      return `cancelled the visit – ${event.payload.reason}`
    case 'arrived':
      return 'arrived'
    case 'visitFinished':
      return 'ended the visit'
    case 'visitResumed':
      return 'went on with the visit'
    case 'photoAdded':
      return `added a picture “${photoWords[event.payload.kind]}” of ${box(event.payload.boxId)}${quoted(event.payload.caption)}`
    case 'roleEstablished':
      return `established ${event.payload.letter} as ${event.payload.role} at ${box(event.payload.boxId)} (${event.payload.method === 'oldTerminal' ? 'old terminal' : event.payload.method}${event.payload.volts.length ? `: ${event.payload.volts.join(' V and ')} V` : event.payload.ohms === null ? '' : `: ${event.payload.ohms} Ω`})${event.payload.inDoubt ? doubtWords : ''}`
    case 'doubtCleared':
      return `looked at what was in doubt at ${box(event.payload.boxId)}: it is right`
    case 'foundNoted':
      return `described ${box(event.payload.boxId)} as found: ${event.payload.notes.splices.length} splices, ${event.payload.notes.oldSwitches.length} old switches`
    case 'wiresRead':
      return `read ${event.payload.readings.map((reading) => `${reading.a}–${reading.b === 'REF' ? 'ground' : reading.b} ${readingWord(reading)}`).join(', ')} at ${box(event.payload.boxId)}, ${event.payload.readings[0]!.closed.length ? `with ${event.payload.readings[0]!.closed.join(' and ')} closed` : 'dead'}`
    case 'readingsForgotten':
      return `began ${box(event.payload.boxId)} anew – ${event.payload.reason}`
    case 'wiringPlanned':
      return event.payload.plan
        ? `laid the wiring of ${box(event.payload.boxId)}`
        : `went back to the proposed wiring of ${box(event.payload.boxId)}`
    case 'functionsObserved':
      return `noted what ${box(event.payload.boxId)} does in ${event.payload.rows.length} positions`
    case 'deviceChosen':
      return `chose ${event.payload.model.maker} ${event.payload.model.name} for ${box(event.payload.boxId)}, gang ${event.payload.gang}`
    case 'deviceUnchosen':
      return `took the choice of a device back at ${box(event.payload.boxId)}, gang ${event.payload.gang}`
    case 'oldSwitchKept':
      return event.payload.stays
        ? `the old switch stays at ${box(event.payload.boxId)}, gang ${event.payload.gang}`
        : `the old switch does not stay at ${box(event.payload.boxId)}, gang ${event.payload.gang}`
    case 'stepMarked':
      return `${event.payload.done ? 'did' : 'took back'} at ${box(event.payload.boxId)}: ${event.payload.text}${event.payload.inDoubt ? doubtWords : ''}`
    case 'unitRecorded':
      return `recorded serial ${event.payload.serial} at ${box(event.payload.boxId)}${event.payload.code.kind === 'none' ? '' : `, setup code …${event.payload.code.ending} (${event.payload.code.checked === 'typedTwice' ? 'typed twice' : event.payload.code.checked === 'checkDigit' ? 'check digit fits' : 'scanned text read'})`}`
    case 'pointTested': {
      const text = `${point(event.payload.pointId)}: ${event.payload.what} – ${event.payload.result}${quoted(event.payload.note)}`
      return event.payload.result === 'fail' ? alarm(text) : text
    }
    case 'pairingRecorded': {
      const { result, network, signal, note, unitId } = event.payload
      return result === 'joined'
        ? `joined ${unit(unitId)} to ${network}${signal ? (signal.kind === 'dbm' ? ` at ${signal.dbm} dBm` : ` with ${signal.bars} bars`) : ''}`
        : alarm(`${unit(unitId)} did not join – ${note}`)
    }
    case 'unitNamed':
      return `named ${job.units[event.payload.unitId]?.serial ?? 'a device'} “${event.payload.name}”${event.payload.despiteClash ? ' although it contains another name' : ''}`
    case 'unitNameContested':
      return alarm(
        `named ${job.units[event.payload.unitId]?.serial ?? 'a device'} “${event.payload.name}” without knowing of the other name: pick one`,
      )
    case 'defectListed':
      return alarm(`listed an open defect at ${point(event.payload.pointId)} – ${event.payload.text}`)
    case 'defectSettled':
      return `settled “${job.defects[event.payload.defectId]?.text ?? 'a defect'}” – ${event.payload.how}`
    case 'handoverTicked':
      return `${event.payload.done ? 'ticked' : 'unticked'} “${event.payload.text}”`
    case 'handoverSigned':
      return good(
        `took the signature of ${event.payload.signer}${event.payload.acceptedDefectIds.length ? `, with ${event.payload.acceptedDefectIds.length} open defect(s) accepted` : ''}`,
      )
    case 'handoverCompleted':
      return good('handed the job over')
    case 'callbackOpened':
      return alarm(`opened a callback for ${unit(event.payload.unitId)} – ${event.payload.what}`)
    case 'callbackDiagnosed':
      return `diagnosed ${callbackUnit(event.payload.callbackId)}: ${causeWords[event.payload.causeKind]} – ${event.payload.cause}; remedy: ${remedyWords[event.payload.remedy]}`
    case 'unitReplaced':
      return `replaced ${event.payload.oldSerial} (${event.payload.oldUnitGoes}) by ${event.payload.serial}`
    case 'callbackClosed':
      return good(`closed the callback for ${callbackUnit(event.payload.callbackId)} – ${event.payload.resolution}`)
  }
}

/** One event as a line of history: who, when, what, with readings. */
export function historyLine(event: StreamEvent, job: JobState, site: SiteState, nameOf: (personId: string) => string): HistoryLine {
  const sentence =
    event.stream === 'site'
      ? siteSentence(site, event as unknown as SiteEvent)
      : jobSentence(job, site, event as unknown as JobEvent, nameOf)
  const { what, tone } =
    typeof sentence === 'object'
      ? sentence
      : { what: sentence ?? `recorded ${event.type}, which this program does not know`, tone: 'plain' as const }
  return {
    id: event.id,
    stream: event.stream,
    seq: event.seq,
    at: event.at,
    receivedAt: event.receivedAt,
    who: event.actor.name,
    initials: event.actor.initials,
    what: event.actor.via ? `${what} (own PIN, on ${event.actor.via.initials}’s device)` : what,
    tone,
  }
}
