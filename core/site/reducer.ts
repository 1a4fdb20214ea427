import type { StreamEvent, StreamReducer, UpcasterTable } from '../stream'
import type { Consequence, SignConsequence, SiteBox, SiteEvent, SiteEventType } from './schema'
import { breakerMark, isBehind, isKnownLive } from './feeds'
import { minutesBetween } from './permissions'
import { peopleOf } from './proof'
import { deadBelowVolts } from './reading'
import type { Ask, BoxState, Sign, SiteState } from './state'
import { stopWords } from './words'

/** Bump when evolve changes what a stored stream folds to: snapshots of another version are thrown away. */
export const siteReducerVersion = 4

const ends = { voids: [], alarms: [] }
const sign = { ...ends, reached: [], suspends: [], suspense: false, unexplained: false }
const withEnds = (payload: Record<string, unknown>) => ({ ...ends, ...payload })
// Assigned, not spread: three times as fast where ten thousand old readings are lifted.
const withSign = (payload: Record<string, unknown>) => Object.assign({}, sign, payload)
/** Positions were text before they were structure: what was read then is history, and no proof rests on it. */
const positionAsText = (payload: Record<string, unknown>) => ({ ...payload, position: [], positionWas: payload.position })

export const siteUpcasters: UpcasterTable = {
  siteLaidOut: [withEnds],
  breakerObserved: [(payload) => ({ ...payload, how: payload.note === 'found' ? 'found' : 'did', again: false, knewSeq: 0 })],
  liveObserved: [(payload) => withSign({ impedance: null, instrumentId: null, a: '', b: '', ...payload })],
  tagHung: [(payload) => ({ ...payload, company: false, notice: '' })],
  tagRemoved: [withEnds],
  tagRehung: [(payload) => withEnds({ cause: '', ...payload })],
  roundSeen: [withSign],
  boxClosed: [withEnds],
  boxGuarded: [withEnds],
  // Proofs of the first edition's rules end: they say less than one relies on now.
  proofStarted: [(payload) => withEnds({ everyPair: true, edition: 1, ...payload })],
  referenceSeen: [
    ({ against, volts, ...payload }) => ({
      ...payload,
      seen: {
        kind: 'livePoint',
        breakerId: '',
        name: against,
        lineToNeutral: volts,
        referenceToLine: volts,
        referenceToNeutral: 0,
      },
      again: false,
      anew: false,
      warning: null,
    }),
  ],
  readingTaken: [(payload) => withSign(positionAsText({ boxId: '', restores: [], neutral: null, ...payload }))],
  readingsSwept: [(payload) => withEnds(positionAsText({ restores: [], ...payload }))],
  proofFinished: [({ good, ...payload }) => withEnds({ ...payload, outcome: good ? 'good' : 'recheck', edition: 1 })],
  proofAbandoned: [withEnds],
  closeGranted: [(payload) => ({ ...payload, clearanceId: null, expiresAt: null })],
  partedTested: [(payload) => withSign({ instrumentId: '', testerVolts: 0, ...payload })],
  siteLeft: [withEnds],
}

type Handlers = { [T in SiteEventType]: (site: SiteState, payload: Extract<SiteEvent, { type: T }>['payload'], event: StreamEvent) => void }

/** Ends proofs. */
function voidProofs(site: SiteState, ids: string[], reason: string): void {
  for (const id of ids) {
    const proof = site.proofs[id]
    if (!proof || proof.status === 'void') continue
    proof.status = 'void'
    proof.voidReason = reason
    for (const one of Object.values(site.signs)) one.suspends = one.suspends.filter((other) => other !== id)
  }
}

/**
 * Alarms people, with the boxes their hands may be in: those of the proofs they rely on and those they opened. What the
 * event ends is ended after this. Whoever has none of these is told, and nothing waits for them.
 */
function raise(site: SiteState, alarms: string[], voids: string[], boxIds: string[], breakerId: string | null, event: StreamEvent): void {
  for (const personId of alarms) {
    const person = site.people[personId]
    const relied = voids.flatMap((id) => {
      const proof = site.proofs[id]
      return proof && peopleOf(proof).some((one) => one.personId === personId) ? proof.boxId : []
    })
    const opened = boxIds.filter((id) => {
      const one = site.boxes[id]
      return one && one.closure !== 'closed' && personId in one.openWords
    })
    site.alarms[`${event.seq} ${personId}`] = {
      personId,
      name: person?.name ?? '',
      initials: person?.initials ?? '',
      boxIds: [...new Set([...relied, ...opened])],
      seq: event.seq,
      what: event.type,
      by: event.actor.name,
      breakerId,
      at: event.receivedAt,
      shownAt: null,
    }
  }
}
function end(
  site: SiteState,
  { voids, alarms }: Consequence,
  reason: string,
  event: StreamEvent,
  { boxIds = [], breakerId = null }: { boxIds?: string[]; breakerId?: string | null } = {},
): void {
  raise(site, alarms, voids, boxIds, breakerId, event)
  voidProofs(site, voids, reason)
}

/** What a sign of voltage leaves behind: what it ends or holds in suspense, and the question what it was. */
function leaveSign(
  site: SiteState,
  payload: SignConsequence,
  reason: string,
  event: StreamEvent,
  about: Pick<Sign, 'boxId' | 'what' | 'pair' | 'volts' | 'impedance' | 'instrumentId' | 'proofId'>,
): void {
  const { reached, suspends, suspense } = payload
  raise(site, payload.alarms, [...payload.voids, ...suspends], reached, null, event)
  if (payload.unexplained || suspense)
    site.signs[event.seq] = {
      seq: event.seq,
      at: event.receivedAt,
      reached,
      suspends,
      suspense,
      personId: event.actor.personId,
      name: event.actor.name,
      ...about,
    }
  voidProofs(site, payload.voids, reason)
}

/** Dead by low impedance: in time nothing had happened, and nobody has to answer; too late the proofs are over. */
function clearDoubts(site: SiteState, { restores, voids }: { restores: number[]; voids: string[] }): void {
  for (const seq of restores) {
    delete site.signs[seq]
    if (voids.length === 0) for (const [key, alarm] of Object.entries(site.alarms)) if (alarm.seq === seq) delete site.alarms[key]
  }
  voidProofs(site, voids, 'A doubt was cleared too late.')
}

function hasAnswered(site: SiteState, personId: string, boxId: string | null): void {
  for (const [key, alarm] of Object.entries(site.alarms)) {
    if (alarm.personId !== personId) continue
    if (boxId !== null) alarm.boxIds = alarm.boxIds.filter((id) => id !== boxId)
    if (boxId === null || (alarm.boxIds.length === 0 && alarm.shownAt !== null)) delete site.alarms[key]
  }
}

const box = (site: SiteState, id: string): BoxState => site.boxes[id]!

/** Voltage was seen in this box: whatever was ruled out before is open again. */
function signOfPower(site: SiteState, boxId: string, event: StreamEvent): void {
  const target = box(site, boxId)
  target.liveSeq = event.seq
  target.ruledOut = {}
  for (const part of target.parted) part.tested = false
}
function showedVoltage(target: BoxState, ...letters: string[]): void {
  for (const letter of letters)
    if (target.conductors.some((one) => one.letter === letter) && !target.readLive.includes(letter)) target.readLive.push(letter)
}
/** The lever was found closed: whatever hangs there did not hold it. */
function defeatTags(site: SiteState, breakerId: string): void {
  for (const tag of Object.values(site.tags)) if (tag.breakerId === breakerId) tag.defeated = true
}
const emptyBox: Omit<BoxState, keyof SiteBox> = {
  closure: 'closed',
  guardedBy: null,
  openedBy: null,
  lastOpenedAt: null,
  closedBy: null,
  openWords: {},
  ruledOut: {},
  parted: [],
  readLive: [],
  floats: [],
  shifted: [],
  conductors: [],
  proofId: null,
  liveSeq: 0,
}

/** An opening is reported within this time, minutes: what was ruled out in it is in doubt. Common practice, no source. */
const reportMinutes = 10

/**
 * A breaker is off: since when? Found so, nobody knows, and no box proven meanwhile has ruled it out. Opened by the
 * reporter: what was ruled out after the last they knew of, or a short time ago, may have been after the lever moved.
 */
function doubtRuledOut(site: SiteState, payload: { breakerId: string; how: 'did' | 'found'; knewSeq: number }, event: StreamEvent): void {
  for (const one of Object.values(site.boxes)) {
    const ruled = one.ruledOut[payload.breakerId]
    if (!ruled) continue
    const fresh = minutesBetween(ruled.at, event.receivedAt) < reportMinutes
    if (payload.how === 'found' || ruled.seq > payload.knewSeq || fresh) delete one.ruledOut[payload.breakerId]
  }
}

function openUp(target: BoxState, event: StreamEvent): void {
  target.closure = 'opened'
  target.guardedBy = null
  target.openedBy = personOf(event)
  target.lastOpenedAt = event.receivedAt
  target.closedBy = null
  target.openWords[event.actor.personId] = event.seq
}

function addAsk(
  site: SiteState,
  { askId, breakerId, boxId, note }: { askId: string; breakerId: string; boxId: string | null; note: string },
  event: StreamEvent,
  kind: Ask['kind'],
  purpose: Ask['purpose'],
): void {
  const { personId, name, initials } = event.actor
  site.asks[askId] = {
    id: askId,
    kind,
    breakerId,
    boxId,
    personId,
    name,
    initials,
    purpose,
    note,
    askedAt: event.receivedAt,
    askedSeq: event.seq,
    clear: [],
    status: 'asked',
  }
}

const handlers: Handlers = {
  siteLaidOut(site, payload, event) {
    site.schemeId = payload.schemeId
    for (const source of payload.sources) site.sources[source.id] = { ...source, ruledOut: site.sources[source.id]?.ruledOut ?? null }
    for (const panel of payload.panels) site.panels[panel.id] = panel
    for (const breaker of payload.breakers)
      site.breakers[breaker.id] ??= {
        ...breaker,
        since: null,
        tripCause: null,
        tripUnexplained: breaker.state === 'tripped',
        energisedSeq: event.seq,
        stateSeq: event.seq,
      }
    for (const room of payload.rooms) {
      if (!site.rooms[room.id]) site.roomOrder.push(room.id)
      site.rooms[room.id] = room
    }
    for (const added of payload.boxes) {
      const known = site.boxes[added.id]
      if (!known) site.boxOrder.push(added.id)
      // What a known box gains is added; nothing that is on record is dropped.
      site.boxes[added.id] = known
        ? {
            ...known,
            breakerIds: [...new Set([...known.breakerIds, ...added.breakerIds])],
            unknownFeed: known.unknownFeed || (added.unknownFeed && added.breakerIds.length > 0),
            farBoxIds: [...new Set([...known.farBoxIds, ...added.farBoxIds])],
          }
        : { ...added, ...structuredClone(emptyBox) }
    }
    end(site, payload, 'The office recorded another feed, source or switch here.', event, { boxIds: payload.boxes.map((one) => one.id) })
  },
  breakerObserved(site, payload, event) {
    const breaker = site.breakers[payload.breakerId]!
    if (payload.state === 'tripped') {
      breaker.tripUnexplained = true
      breaker.tripCause = null
    }
    if (!payload.late) {
      breaker.state = payload.state
      breaker.since = event.at
      breaker.stateSeq = event.seq
    }
    if (payload.state === 'open' && !payload.late) {
      // What was closed for a moment is open again: the ask is done.
      for (const ask of Object.values(site.asks))
        if (ask.breakerId === breaker.id && (ask.kind === 'open' || ask.status === 'live')) delete site.asks[ask.id]
    }
    if (payload.state !== 'closed') doubtRuledOut(site, payload, event)
    // Only "open" makes anything safer; every other finding ends what was built on the old one.
    if (payload.state !== 'open' || payload.again) breaker.energisedSeq = event.seq
    if (payload.state !== 'open' || payload.again) defeatTags(site, breaker.id)
    const found = payload.again ? 'had been closed meanwhile' : `was found ${payload.state}`
    const boxIds = payload.alarms.length ? Object.keys(site.boxes) : []
    end(site, payload, `${breakerMark(site, breaker)} ${found}.`, event, { boxIds, breakerId: breaker.id })
  },
  liveObserved(site, payload, event) {
    const { boxId, what, volts, impedance, instrumentId, a, b } = payload
    if (!payload.suspense) signOfPower(site, boxId, event)
    if (a && b) showedVoltage(box(site, boxId), a, b)
    const pair = a && b ? { a, b } : null
    leaveSign(site, payload, 'A sign of voltage was reported.', event, { boxId, what, pair, volts, impedance, instrumentId, proofId: null })
  },
  causeRecorded(site, payload, event) {
    const known = site.signs[payload.signSeq]
    if (!known) return
    delete site.signs[payload.signSeq]
    const { cause } = payload
    const pair = known.pair ? [known.pair.a, known.pair.b] : []
    const target = box(site, payload.boxId)
    if (cause.kind === 'ghost') target.floats = [...new Set([...target.floats, ...letters(target, pair)])]
    if (cause.kind === 'neutralShift') target.shifted = [...new Set([...target.shifted, ...letters(target, pair)])]
    if (cause.kind === 'unknown') for (const id of payload.reached) box(site, id).unknownFeed = true
    if (cause.kind === 'testerAtFault' && payload.instrumentId) {
      const name = Object.values(site.proofs).find((proof) => proof.instrumentId === payload.instrumentId)?.instrument.name ?? 'the tester'
      site.failedInstruments[payload.instrumentId] = { name, at: event.receivedAt }
    }
    end(site, payload, 'The cause of a voltage was recorded.', event, { boxIds: payload.reached })
  },
  alarmShown(site, _payload, event) {
    for (const alarm of Object.values(site.alarms)) if (alarm.personId === event.actor.personId) alarm.shownAt ??= event.receivedAt
  },
  sourceRecorded(site, payload, event) {
    const { sourceId: id, kind, name } = payload
    site.sources[id] = { id, kind, name, ruledOut: null }
    end(site, payload, `Another source was found: ${name}.`, event, { boxIds: Object.keys(site.boxes) })
  },
  sourcePointRecorded(site, payload, event) {
    site.breakers[payload.breakerId] = {
      id: payload.breakerId,
      panelId: payload.panelId,
      role: 'main',
      sourceId: payload.sourceId,
      suppliesPanelId: payload.panelId,
      number: payload.number,
      poles: 1,
      amps: null,
      labelAsFound: '',
      // Nobody has looked at its lever for the record yet.
      state: 'unknown',
      offLimits: null,
      since: null,
      tripCause: null,
      tripUnexplained: false,
      energisedSeq: event.seq,
      stateSeq: event.seq,
    }
  },
  sourceRuledOut(site, payload) {
    site.sources[payload.sourceId]!.ruledOut = payload.reason
  },
  tripCauseRecorded(site, payload) {
    const breaker = site.breakers[payload.breakerId]!
    breaker.tripCause = payload.cause
    breaker.tripUnexplained = false
  },
  offLimitsMarked(site, payload) {
    site.breakers[payload.breakerId]!.offLimits = payload.reason
  },
  tagHung(site, payload, event) {
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
  tagRehung(site, payload, event) {
    const tag = site.tags[payload.tagId]!
    tag.suspendedFor = null
    tag.defeated = false
    tag.hungAt = event.at
    tag.hungSeq = event.seq
    end(site, payload, 'The tag was hung again.', event, { breakerId: payload.breakerId })
  },
  tagRemoved(site, payload, event) {
    delete site.tags[payload.tagId]
    end(site, payload, 'The prover took a tag off.', event, { breakerId: payload.breakerId })
  },
  tagOverridden(site, payload, event) {
    delete site.tags[payload.tagId]
    end(site, payload, `The tag of ${payload.ownerName} was taken off by a lead.`, event, { breakerId: payload.breakerId })
  },
  absenceDeclared(site, payload, event) {
    const { personId, name, reason } = payload
    site.absences[personId] = {
      personId,
      name,
      declaredBy: { personId: event.actor.personId, name: event.actor.name },
      reason,
      at: event.receivedAt,
    }
  },
  absenceWithdrawn(site, payload) {
    delete site.absences[payload.personId]
  },
  workStopped(site, payload, event) {
    const { personId, name, initials } = event.actor
    site.stop = { id: payload.stopId, personId, name, initials, at: event.receivedAt, seq: event.seq, what: null, note: '' }
    raise(site, payload.alarms, [], Object.keys(site.boxes), null, event)
  },
  stopTold(site, payload, event) {
    if (site.stop?.id === payload.stopId) Object.assign(site.stop, { what: payload.what, note: payload.note })
    end(site, payload, `Work was stopped: ${stopWords[payload.what]}.`, event)
  },
  workResumed(site) {
    delete site.stop
  },
  absentEnded(site, payload, event) {
    const { personId } = payload
    for (const id of payload.tagIds) delete site.tags[id]
    for (const breakerId of payload.breakerIds) {
      // Nobody saw what the absent person did: somebody has to look.
      const breaker = site.breakers[breakerId]!
      breaker.state = 'unknown'
      breaker.energisedSeq = event.seq
      breaker.stateSeq = event.seq
    }
    for (const grant of Object.values(site.grants))
      if (grant.personId === personId) {
        delete site.grants[grant.id]
        if (grant.clearanceId) delete site.asks[grant.clearanceId]
      }
    for (const ask of Object.values(site.asks)) {
      if (ask.personId === personId) delete site.asks[ask.id]
      ask.clear = ask.clear.filter((person) => person.personId !== personId)
    }
    gone(site, personId, event)
    delete site.absences[personId]
    if (site.stop?.personId === personId) delete site.stop
    end(site, payload, `What ${payload.name} left was ended: gone from the site.`, event)
    // They are told when they sign in again; nothing waits for it.
    site.alarms[`${event.seq} ${personId}`] = {
      personId,
      name: payload.name,
      initials: site.people[personId]?.initials ?? '',
      boxIds: [],
      seq: event.seq,
      what: event.type,
      by: payload.declaredBy,
      breakerId: null,
      at: event.receivedAt,
      shownAt: null,
    }
  },
  feedsSet(site, payload, event) {
    box(site, payload.boxId).breakerIds = payload.breakerIds
    box(site, payload.boxId).unknownFeed = payload.unknownFeed
    end(site, payload, 'The feeds of the box changed.', event, { boxIds: [payload.boxId] })
  },
  roundSeen(site, payload, event) {
    site.huntRounds.push({ open: payload.open, seen: payload.seen })
    const open = new Set(payload.open)
    for (const [boxId, seen] of Object.entries(payload.seen)) {
      const { breakerIds } = box(site, boxId)
      // On, with every feed on record open: something else feeds it.
      if (seen === 'on' && breakerIds.length > 0 && breakerIds.every((id) => open.has(id))) signOfPower(site, boxId, event)
    }
    const { reached } = payload
    if (reached.length === 0)
      return end(site, payload, 'A light was on in a round of openings.', event, { boxIds: Object.keys(payload.seen) })
    leaveSign(site, payload, 'A light was on in a round of openings.', event, {
      boxId: reached[0]!,
      what: 'round',
      pair: null,
      volts: null,
      impedance: null,
      instrumentId: null,
      proofId: null,
    })
  },
  roundTakenBack(site) {
    site.huntRounds.pop()
  },
  huntScoped(site, payload) {
    if (payload.boxIds.length) site.huntScope = payload.boxIds
    else delete site.huntScope
  },
  roundsForgotten(site) {
    site.huntRounds = []
  },
  neutralsTied(site, payload, event) {
    site.neutralTies.push(payload.breakerIds)
    end(site, payload, 'A shared neutral was found.', event, { boxIds: Object.keys(site.boxes) })
  },
  boxOpened(site, payload, event) {
    openUp(box(site, payload.boxId), event)
    raise(site, payload.alarms ?? [], [], [payload.boxId], null, event)
  },
  boxLookedInto(site, payload, event) {
    const target = box(site, payload.boxId)
    const { lastOpenedAt } = target
    openUp(target, event)
    // Nothing is touched: what was tested before still stands.
    Object.assign(target, { closure: 'looking', lastOpenedAt })
    raise(site, payload.alarms, [], [payload.boxId], null, event)
  },
  boxClosed(site, payload, event) {
    const target = box(site, payload.boxId)
    raise(site, payload.alarms, payload.voids, [payload.boxId], null, event)
    const proof = target.proofId ? site.proofs[target.proofId] : undefined
    target.closedBy = {
      personId: event.actor.personId,
      at: event.receivedAt,
      seq: event.seq,
      proofId: proof?.status === 'living' ? proof.id : null,
    }
    Object.assign(target, { closure: 'closed', guardedBy: null, openWords: {}, readLive: [], floats: [], shifted: [] })
    voidProofs(site, payload.voids, 'The box was closed up.')
  },
  boxReopened(site, payload, event) {
    const target = box(site, payload.boxId)
    const { closedBy } = target
    openUp(target, event)
    const proof = closedBy?.proofId ? site.proofs[closedBy.proofId] : undefined
    if (!proof || target.proofId !== proof.id) return
    proof.status = 'living'
    proof.voidReason = null
    // Whoever relied on it was told that it had ended: they witness it again.
    proof.witnesses = []
  },
  boxGuarded(site, payload, event) {
    const target = box(site, payload.boxId)
    raise(site, payload.alarms, payload.voids, [payload.boxId], null, event)
    target.closure = 'guarded'
    target.guardedBy = personOf(event)
    target.openWords = {}
    voidProofs(site, payload.voids, 'The box was capped and guarded.')
  },
  guardTakenOver(site, payload, event) {
    box(site, payload.boxId).guardedBy = personOf(event)
  },
  conductorsRecorded(site, payload, event) {
    const target = box(site, payload.boxId)
    const letters = (conductors: { letter: string }[]) =>
      conductors
        .map((conductor) => conductor.letter)
        .sort()
        .join()
    // Conductors are seen with the plate off.
    if (target.closure === 'closed' || target.closure === 'guarded') openUp(target, event)
    target.openWords[event.actor.personId] = event.seq
    // A conductor nobody tested may bring any feed.
    if (letters(target.conductors) !== letters(payload.conductors)) target.ruledOut = {}
    target.conductors = payload.conductors
    end(site, payload, 'Other conductors were found in the box.', event, { boxIds: [payload.boxId] })
  },
  readingMoved(site, payload) {
    const target = box(site, payload.boxId)
    target.readLive = target.readLive.filter((one) => one !== payload.from)
    showedVoltage(target, payload.to)
  },
  proofStarted(site, payload, event) {
    const target = box(site, payload.boxId)
    end(site, payload, 'A new proof was started.', event)
    if (target.proofId) voidProofs(site, [target.proofId], 'A new proof was started.')
    target.proofId = payload.proofId
    if (target.closure === 'looking') Object.assign(target, { closure: 'opened', lastOpenedAt: event.receivedAt })
    site.instrumentGoodSeq[payload.instrumentId] = event.seq
    hasAnswered(site, event.actor.personId, payload.boxId)
    site.proofs[payload.proofId] = {
      id: payload.proofId,
      boxId: payload.boxId,
      personId: event.actor.personId,
      name: event.actor.name,
      initials: event.actor.initials,
      proverLicensed: event.actor.licensed,
      status: payload.edition === 1 ? 'void' : 'open',
      voidReason: payload.edition === 1 ? 'The rules of a proof have become stricter since.' : null,
      instrumentId: payload.instrumentId,
      instrument: payload.instrument,
      sourceName: payload.source.name,
      sourceVolts: payload.volts,
      sourceBreakerId: payload.source.kind === 'breaker' ? payload.source.breakerId : null,
      reference: null,
      referenceSeenAgain: false,
      everyPair: payload.everyPair,
      recheckVolts: null,
      readings: [],
      witnesses: [],
      startedAt: event.at,
      touchedAt: event.receivedAt,
      finishedAt: null,
      basedOnSeq: event.seq,
    }
  },
  referenceSeen(site, payload, event) {
    const { reference: kind, letter, seen, warning } = payload
    const proof = site.proofs[payload.proofId]!
    // Another reference, or a lead that was moved: what was read against the first says nothing.
    if (payload.anew) proof.readings = []
    proof.reference = { kind, letter, seen, warning }
    proof.referenceSeenAgain = payload.again
    proof.touchedAt = event.receivedAt
  },
  readingTaken(site, payload, event) {
    const proof = site.proofs[payload.proofId]!
    const { a, b, position, impedance, volts, verdict } = payload
    proof.readings.push({ a, b, position, impedance, volts, verdict, at: event.at })
    proof.touchedAt = event.receivedAt
    proof.referenceSeenAgain = false
    const target = box(site, proof.boxId)
    if (volts >= deadBelowVolts) showedVoltage(target, a, b)
    const ends = letters(target, [a, b])
    if (verdict === 'neutralShift') target.shifted = [...new Set([...target.shifted, ...ends])]
    if (verdict === 'dead' && impedance !== 'high') {
      // Coupled voltage, dead once it is loaded: it may show it again and alarms nobody.
      const ghosts = ends.filter((letter) => target.readLive.includes(letter))
      target.floats = [...new Set([...target.floats, ...ghosts])]
    }
    if (payload.restores.length > 0) return clearDoubts(site, payload)
    if (!payload.stopped && !payload.suspense) return
    if (payload.stopped) signOfPower(site, proof.boxId, event)
    leaveSign(site, payload, `${a} to ${b} read ${volts} V with ${impedance} impedance.`, event, {
      boxId: proof.boxId,
      what: 'reading',
      pair: { a, b },
      volts,
      impedance,
      instrumentId: proof.instrumentId,
      proofId: proof.id,
    })
  },
  readingsSwept(site, payload, event) {
    const proof = site.proofs[payload.proofId]!
    const { position, impedance, highestVolts: volts } = payload
    for (const { a, b } of payload.pairs)
      proof.readings.push({ a, b, position, impedance, volts, verdict: 'dead', at: event.at, sweep: true })
    proof.referenceSeenAgain = false
    proof.touchedAt = event.receivedAt
    clearDoubts(site, payload)
  },
  proofFinished(site, payload, event) {
    const proof = site.proofs[payload.proofId]!
    if (payload.edition === 1) return voidProofs(site, [proof.id], 'The rules of a proof have become stricter since.')
    proof.touchedAt = event.receivedAt
    if (payload.outcome === 'recheck') {
      proof.recheckVolts = payload.volts
      return
    }
    const proven = box(site, proof.boxId)
    for (const breaker of Object.values(site.breakers))
      if (isKnownLive(site, breaker) && !isBehind(site, proven, breaker.id) && breaker.energisedSeq <= (payload.knewSeq ?? event.seq))
        proven.ruledOut[breaker.id] = { seq: event.seq, at: event.receivedAt }
    proof.status = 'living'
    proof.finishedAt = payload.finishedAt ?? event.receivedAt
    proof.basedOnSeq = event.seq
    site.instrumentGoodSeq[proof.instrumentId] = event.seq
  },
  testerRechecked(site, payload, event) {
    const proof = site.proofs[payload.proofId]!
    if (payload.testerGood) return end(site, payload, `${proof.sourceName} failed as a source; the tester is good.`, event)
    site.failedInstruments[payload.instrumentId] = { name: proof.instrument.name, at: event.receivedAt }
    end(site, payload, `${proof.instrument.name} failed: nothing it said counts.`, event)
  },
  instrumentFailed(site, payload, event) {
    site.failedInstruments[payload.instrumentId] = { name: payload.name, at: event.receivedAt }
    end(site, payload, `${payload.name} failed: nothing it said counts.`, event)
  },
  proofAbandoned(site, payload, event) {
    if (!payload.voids.includes(payload.proofId)) voidProofs(site, [payload.proofId], payload.reason)
    end(site, payload, payload.reason, event)
  },
  proofWitnessed(site, payload, event) {
    const { personId, name, initials, licensed } = event.actor
    site.proofs[payload.proofId]!.witnesses.push({ personId, name, initials, licensed })
    hasAnswered(site, personId, payload.boxId)
  },
  closeGranted(site, payload, event) {
    site.grants[payload.grantId] = {
      id: payload.grantId,
      breakerId: payload.breakerId,
      personId: event.actor.personId,
      name: event.actor.name,
      grantedAt: event.receivedAt,
      expiresAt: payload.expiresAt,
      clearanceId: payload.clearanceId,
    }
    const ask = payload.clearanceId ? site.asks[payload.clearanceId] : undefined
    if (ask) ask.status = 'granted'
    site.breakers[payload.breakerId]!.energisedSeq = event.seq
    end(site, payload, `Leave was given to close ${breakerMark(site, site.breakers[payload.breakerId]!)}.`, event, {
      breakerId: payload.breakerId,
    })
  },
  grantAnswered(site, payload, event) {
    const grant = site.grants[payload.grantId]!
    delete site.grants[payload.grantId]
    const breaker = site.breakers[grant.breakerId]!
    const ask = grant.clearanceId ? site.asks[grant.clearanceId] : undefined
    if (payload.answer !== 'closed') {
      if (ask) delete site.asks[ask.id]
      return
    }
    if (ask) ask.status = 'live'
    breaker.state = 'closed'
    breaker.since = event.at
    breaker.energisedSeq = event.seq
    breaker.stateSeq = event.seq
  },
  grantOverridden(site, payload, event) {
    const grant = site.grants[payload.grantId]!
    delete site.grants[payload.grantId]
    if (grant.clearanceId) delete site.asks[grant.clearanceId]
    // Nobody saw what the absent person did: somebody has to look.
    const breaker = site.breakers[payload.breakerId]!
    breaker.state = 'unknown'
    breaker.energisedSeq = event.seq
    breaker.stateSeq = event.seq
    end(site, payload, `Nobody knows whether ${breakerMark(site, breaker)} was closed.`, event, { breakerId: breaker.id })
  },
  openAsked(site, payload, event) {
    addAsk(site, payload, event, 'open', null)
  },
  energiseAsked(site, payload, event) {
    addAsk(site, payload, event, 'energise', payload.purpose)
  },
  askWithdrawn(site, payload) {
    delete site.asks[payload.askId]
  },
  clearConfirmed(site, payload, event) {
    const { personId, initials } = event.actor
    site.asks[payload.askId]!.clear.push({ personId, initials })
    for (const id of payload.tagIds) site.tags[id]!.suspendedFor = payload.askId
  },
  clearTakenBack(site, payload, event) {
    const ask = site.asks[payload.askId]!
    ask.clear = ask.clear.filter((person) => person.personId !== event.actor.personId)
  },
  measuringStarted(site, payload, event) {
    const { personId, name, initials } = event.actor
    const { measureId: id, boxId, warnedIds } = payload
    // One box at a time: announcing another ends the last.
    for (const old of Object.values(site.measuring)) if (old.personId === personId) delete site.measuring[old.id]
    site.measuring[id] = { id, boxId, personId, name, initials, startedAt: event.receivedAt, warnedIds }
  },
  measuringEnded(site, payload) {
    delete site.measuring[payload.measureId]
  },
  neutralParted(site, payload, event) {
    box(site, payload.boxId).parted.push({ id: payload.partId, what: payload.what, by: event.actor.initials, tested: false })
  },
  partedTested(site, payload, event) {
    const { boxId, stopped, instrumentId } = payload
    if (!stopped) {
      box(site, boxId).parted.find((part) => part.id === payload.partId)!.tested = true
      return
    }
    signOfPower(site, boxId, event)
    leaveSign(site, payload, 'A parted neutral carries voltage.', event, {
      boxId,
      what: 'parted',
      pair: null,
      volts: Math.max(payload.voltsHere, payload.voltsAway),
      impedance: 'low',
      instrumentId,
      proofId: null,
    })
  },
  personNoted(site, payload, event) {
    const { personId } = payload
    const licensed = payload.licensed && payload.active
    for (const proof of Object.values(site.proofs)) {
      if (proof.status === 'void') continue
      if (proof.personId === personId) proof.proverLicensed &&= licensed
      for (const witness of proof.witnesses) if (witness.personId === personId) witness.licensed &&= licensed
    }
    end(site, payload, 'No licensed person stands behind this proof any more.', event)
  },
  soloStarted(site, payload, event) {
    const { personId, name } = event.actor
    site.solo[personId] = { personId, name, contact: payload.contact, everyMinutes: payload.everyMinutes, dueAt: payload.dueAt }
  },
  checkedIn(site, payload, event) {
    site.solo[event.actor.personId]!.dueAt = payload.dueAt
  },
  soloEnded(site, _payload, event) {
    delete site.solo[event.actor.personId]
  },
  stopConfirmed(site, _payload, event) {
    hasAnswered(site, event.actor.personId, null)
  },
  siteLeft(site, payload, event) {
    for (const personId of payload.people ?? [event.actor.personId]) {
      gone(site, personId, event)
      for (const ask of Object.values(site.asks)) if (ask.personId === personId && ask.status === 'asked') delete site.asks[ask.id]
    }
    for (const [id, person] of Object.entries(payload.handOver ?? {})) {
      box(site, id).openedBy = person
      box(site, id).openWords[person.personId] = event.seq
    }
    end(site, payload, 'The prover or the licensed witness left the site.', event)
  },
}

/** Off the site: nothing here waits for this person, and nobody has to ask them. */
function gone(site: SiteState, personId: string, event: StreamEvent): void {
  const person = site.people[personId]
  if (person) person.leftAt = event.receivedAt
  delete site.onSite[personId]
  hasAnswered(site, personId, null)
  delete site.solo[personId]
  for (const entry of Object.values(site.measuring)) if (entry.personId === personId) delete site.measuring[entry.id]
}
const letters = (target: BoxState, ends: string[]) => ends.filter((end) => target.conductors.some((one) => one.letter === end))
const personOf = ({ actor: { personId, name, initials } }: StreamEvent) => ({ personId, name, initials })

/** What is done with one's own hands at the site. */
const handsOn: ReadonlySet<string> = new Set<SiteEventType>([
  'tagHung',
  'tagRehung',
  'boxOpened',
  'boxClosed',
  'boxGuarded',
  'boxReopened',
  'guardTakenOver',
  'boxLookedInto',
  'conductorsRecorded',
  'proofStarted',
  'proofWitnessed',
  'closeGranted',
  'clearConfirmed',
  'measuringStarted',
  'soloStarted',
])

/** Every kind of entry there is. */
export const siteEventTypes = Object.keys(handlers) as SiteEventType[]

export const siteReducer: StreamReducer<SiteState> = {
  upcasters: siteUpcasters,
  knows: (type) => Object.hasOwn(handlers, type),
  evolve(site, event) {
    const handler = handlers[event.type as SiteEventType] as (site: SiteState, payload: unknown, event: StreamEvent) => void
    const { personId, name, initials } = event.actor
    const leftAt = handsOn.has(event.type) ? undefined : site.people[personId]?.leftAt
    site.people[personId] = { name, initials, lastAt: event.receivedAt, ...(leftAt ? { leftAt } : {}) }
    // Whoever puts a hand to something has arrived, before anything that this brings about.
    if (handsOn.has(event.type)) site.onSite[personId] = { personId, name, initials }
    handler(site, event.payload, event)
  },
}
