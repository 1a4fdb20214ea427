import type { StreamEvent, StreamReducer, UpcasterTable } from '../stream'
import type { SiteEvent, SiteEventType } from './schema'
import { isBehind, isKnownLive } from './feeds'
import { minutesBetween } from './permissions'
import type { Ask, BoxState, SiteState } from './state'

/** Bump when evolve changes what a stored stream folds to: snapshots of another version are thrown away. */
export const siteReducerVersion = 2

export const siteUpcasters: UpcasterTable = {
  breakerObserved: [(payload) => ({ ...payload, how: payload.note === 'found' ? 'found' : 'did', again: false, knewSeq: 0 })],
  tagHung: [(payload) => ({ ...payload, company: false, notice: '' })],
  closeGranted: [(payload) => ({ ...payload, clearanceId: null, expiresAt: null })],
}

type Handlers = { [T in SiteEventType]: (site: SiteState, payload: Extract<SiteEvent, { type: T }>['payload'], event: StreamEvent) => void }

/** Ends proofs. Whoever else relied on one has to say that they stopped; the person who caused it knows. */
function voidProofs(site: SiteState, ids: string[], reason: string, event: StreamEvent): void {
  for (const id of ids) {
    const proof = site.proofs[id]
    if (!proof || proof.status === 'void') continue
    proof.status = 'void'
    proof.voidReason = reason
    for (const { personId, name, initials } of [proof, ...proof.witnesses])
      if (personId !== event.actor.personId)
        site.unanswered[`${id} ${personId}`] = { personId, name, initials, boxId: proof.boxId, seq: event.seq }
  }
}
function hasAnswered(site: SiteState, personId: string, boxId: string | null): void {
  for (const [key, entry] of Object.entries(site.unanswered))
    if (entry.personId === personId && (boxId === null || entry.boxId === boxId)) delete site.unanswered[key]
}

const box = (site: SiteState, id: string): BoxState => site.boxes[id]!

/** Voltage was seen in this box: whatever was ruled out before is open again. */
function signOfPower(site: SiteState, boxId: string, event: StreamEvent): void {
  const target = box(site, boxId)
  target.liveSeq = event.seq
  target.ruledOut = {}
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
  const { personId, name, initials } = event.actor
  target.closure = 'opened'
  target.guardedBy = null
  target.openedBy = { personId, name, initials }
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
    for (const source of payload.sources) site.sources[source.id] = source
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
      site.boxes[added.id] = known
        ? { ...known, farBoxIds: [...new Set([...known.farBoxIds, ...added.farBoxIds])] }
        : {
            ...added,
            closure: 'closed',
            guardedBy: null,
            openedBy: null,
            openWords: {},
            ruledOut: {},
            parted: [],
            conductors: [],
            proofId: null,
            liveSeq: 0,
          }
    }
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
    const found = payload.again ? 'had been closed meanwhile' : `was found ${payload.state}`
    voidProofs(site, payload.voids, `${breaker.number} ${found}.`, event)
  },
  liveObserved(site, payload, event) {
    signOfPower(site, payload.boxId, event)
    voidProofs(site, payload.voids, 'A sign of voltage was reported.', event)
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
    }
  },
  tagRehung(site, payload, event) {
    const tag = site.tags[payload.tagId]!
    tag.suspendedFor = null
    tag.hungAt = event.at
    tag.hungSeq = event.seq
    voidProofs(site, payload.voids, 'The tag was off for a moment of power.', event)
  },
  tagRemoved(site, payload, event) {
    delete site.tags[payload.tagId]
    voidProofs(site, payload.voids, 'The prover took a tag off.', event)
  },
  tagOverridden(site, payload, event) {
    delete site.tags[payload.tagId]
    voidProofs(site, payload.voids, `The tag of ${payload.ownerName} was taken off by a lead.`, event)
  },
  feedsSet(site, payload, event) {
    box(site, payload.boxId).breakerIds = payload.breakerIds
    box(site, payload.boxId).unknownFeed = payload.unknownFeed
    voidProofs(site, payload.voids, 'The feeds of the box changed.', event)
  },
  roundSeen(site, payload, event) {
    site.huntRounds.push({ open: payload.open, seen: payload.seen })
    const open = new Set(payload.open)
    for (const [boxId, seen] of Object.entries(payload.seen)) {
      const { breakerIds } = box(site, boxId)
      // On, with every feed on record open: something else feeds it.
      if (seen === 'on' && breakerIds.length > 0 && breakerIds.every((id) => open.has(id))) signOfPower(site, boxId, event)
    }
    voidProofs(site, payload.voids, 'A light was on in a round of openings.', event)
  },
  roundsForgotten(site) {
    site.huntRounds = []
  },
  neutralsTied(site, payload, event) {
    site.neutralTies.push(payload.breakerIds)
    voidProofs(site, payload.voids, 'A shared neutral was found.', event)
  },
  boxOpened(site, payload, event) {
    openUp(box(site, payload.boxId), event)
    box(site, payload.boxId).openWords[event.actor.personId] = event.seq
  },
  boxClosed(site, payload, event) {
    box(site, payload.boxId).closure = 'closed'
    voidProofs(site, payload.voids, 'The box was closed up.', event)
  },
  boxGuarded(site, payload, event) {
    box(site, payload.boxId).closure = 'guarded'
    box(site, payload.boxId).guardedBy = event.actor.name
    voidProofs(site, payload.voids, 'The box was capped and guarded.', event)
  },
  conductorsRecorded(site, payload, event) {
    const target = box(site, payload.boxId)
    const letters = (conductors: { letter: string }[]) =>
      conductors
        .map((conductor) => conductor.letter)
        .sort()
        .join()
    // Conductors are seen with the plate off.
    if (target.closure !== 'opened') openUp(target, event)
    target.openWords[event.actor.personId] = event.seq
    // A conductor nobody tested may bring any feed.
    if (letters(target.conductors) !== letters(payload.conductors)) target.ruledOut = {}
    target.conductors = payload.conductors
    voidProofs(site, payload.voids, 'Other conductors were found in the box.', event)
  },
  proofStarted(site, payload, event) {
    const target = box(site, payload.boxId)
    if (target.proofId) voidProofs(site, [target.proofId], 'A new proof was started.', event)
    target.proofId = payload.proofId
    hasAnswered(site, event.actor.personId, payload.boxId)
    site.proofs[payload.proofId] = {
      id: payload.proofId,
      boxId: payload.boxId,
      personId: event.actor.personId,
      name: event.actor.name,
      initials: event.actor.initials,
      proverLicensed: event.actor.licensed,
      status: 'open',
      voidReason: null,
      instrumentId: payload.instrumentId,
      instrument: payload.instrument,
      sourceName: payload.source.name,
      sourceVolts: payload.volts,
      reference: null,
      readings: [],
      witnesses: [],
      startedAt: event.at,
      touchedAt: event.receivedAt,
      finishedAt: null,
      basedOnSeq: event.seq,
    }
  },
  referenceSeen(site, payload, event) {
    const { reference: kind, against, volts, letter } = payload
    const proof = site.proofs[payload.proofId]!
    proof.reference = { kind, against, volts, letter }
    proof.touchedAt = event.receivedAt
  },
  readingTaken(site, payload, event) {
    const proof = site.proofs[payload.proofId]!
    const { a, b, position, impedance, volts, verdict } = payload
    proof.readings.push({ a, b, position, impedance, volts, verdict, at: event.at })
    proof.touchedAt = event.receivedAt
    if (!payload.stopped) return
    signOfPower(site, proof.boxId, event)
    voidProofs(site, payload.voids, `${a} to ${b} read ${volts} V with ${impedance} impedance.`, event)
  },
  readingsSwept(site, payload, event) {
    const proof = site.proofs[payload.proofId]!
    const { position, impedance, highestVolts: volts } = payload
    for (const { a, b } of payload.pairs)
      proof.readings.push({ a, b, position, impedance, volts, verdict: 'dead', at: event.at, sweep: true })
    proof.touchedAt = event.receivedAt
  },
  proofFinished(site, payload, event) {
    const proof = site.proofs[payload.proofId]!
    if (!payload.good) {
      site.failedInstruments[proof.instrumentId] = { name: proof.instrument.name, at: event.receivedAt }
      return voidProofs(site, [proof.id], payload.reason ?? 'The tester failed its second check.', event)
    }
    const proven = box(site, proof.boxId)
    for (const breaker of Object.values(site.breakers))
      if (isKnownLive(site, breaker) && !isBehind(site, proven, breaker.id) && breaker.energisedSeq <= (payload.knewSeq ?? event.seq))
        proven.ruledOut[breaker.id] = { seq: event.seq, at: event.receivedAt }
    proof.status = 'living'
    proof.finishedAt = payload.finishedAt ?? event.receivedAt
    proof.basedOnSeq = event.seq
  },
  proofAbandoned(site, payload, event) {
    voidProofs(site, [payload.proofId], payload.reason, event)
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
    voidProofs(site, payload.voids, `Leave was given to close ${site.breakers[payload.breakerId]!.number}.`, event)
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
    voidProofs(site, payload.voids, `Nobody knows whether ${breaker.number} was closed.`, event)
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
    box(site, payload.boxId).parted.find((part) => part.id === payload.partId)!.tested = true
    if (!payload.stopped) return
    signOfPower(site, payload.boxId, event)
    voidProofs(site, payload.voids, 'A parted neutral carries voltage.', event)
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
      delete site.onSite[personId]
      hasAnswered(site, personId, null)
      delete site.solo[personId]
      for (const entry of Object.values(site.measuring)) if (entry.personId === personId) delete site.measuring[entry.id]
      for (const ask of Object.values(site.asks)) if (ask.personId === personId && ask.status === 'asked') delete site.asks[ask.id]
    }
    for (const [id, person] of Object.entries(payload.handOver ?? {})) box(site, id).openedBy = person
    voidProofs(site, payload.voids, 'The prover left the site.', event)
  },
}

/** What is done with one's own hands at the site. */
const handsOn: ReadonlySet<string> = new Set<SiteEventType>([
  'tagHung',
  'tagRehung',
  'boxOpened',
  'boxClosed',
  'boxGuarded',
  'conductorsRecorded',
  'proofStarted',
  'proofWitnessed',
  'closeGranted',
  'clearConfirmed',
  'measuringStarted',
  'soloStarted',
])

export const siteReducer: StreamReducer<SiteState> = {
  upcasters: siteUpcasters,
  knows: (type) => Object.hasOwn(handlers, type),
  evolve(site, event) {
    const handler = handlers[event.type as SiteEventType] as (site: SiteState, payload: unknown, event: StreamEvent) => void
    handler(site, event.payload, event)
    if (!handsOn.has(event.type)) return
    const { personId, name, initials } = event.actor
    site.onSite[personId] = { personId, name, initials }
  },
}
