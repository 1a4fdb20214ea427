import type { StreamEvent, StreamReducer, UpcasterTable } from '../stream'
import type { SiteEvent, SiteEventType } from './schema'
import type { BoxState, SiteState } from './state'

/** Bump when evolve changes what a stored stream folds to: snapshots of another version are thrown away. */
export const siteReducerVersion = 1

export const siteUpcasters: UpcasterTable = {}

type Handlers = { [T in SiteEventType]: (site: SiteState, payload: Extract<SiteEvent, { type: T }>['payload'], event: StreamEvent) => void }

function voidProofs(site: SiteState, ids: string[], reason: string): void {
  for (const id of ids) {
    const proof = site.proofs[id]
    if (!proof || proof.status === 'void') continue
    proof.status = 'void'
    proof.voidReason = reason
  }
}

const box = (site: SiteState, id: string): BoxState => site.boxes[id]!

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
        : { ...added, closure: 'closed', guardedBy: null, conductors: [], proofId: null, liveSeq: 0 }
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
    }
    // Only "open" makes anything safer; every other finding ends what was built on the old one.
    if (payload.state !== 'open') breaker.energisedSeq = event.seq
    voidProofs(site, payload.voids, `${breaker.number} was found ${payload.state}.`)
  },
  liveObserved(site, payload, event) {
    box(site, payload.boxId).liveSeq = event.seq
    voidProofs(site, payload.voids, 'A sign of voltage was reported.')
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
    }
  },
  tagRemoved(site, payload) {
    delete site.tags[payload.tagId]
    voidProofs(site, payload.voids, 'The prover took a tag off.')
  },
  tagOverridden(site, payload) {
    delete site.tags[payload.tagId]
    voidProofs(site, payload.voids, `The tag of ${payload.ownerName} was taken off by a lead.`)
  },
  feedsSet(site, payload) {
    box(site, payload.boxId).breakerIds = payload.breakerIds
    box(site, payload.boxId).unknownFeed = payload.unknownFeed
    voidProofs(site, payload.voids, 'The feeds of the box changed.')
  },
  neutralsTied(site, payload) {
    site.neutralTies.push(payload.breakerIds)
    voidProofs(site, payload.voids, 'A shared neutral was found.')
  },
  boxOpened(site, payload) {
    box(site, payload.boxId).closure = 'opened'
    box(site, payload.boxId).guardedBy = null
  },
  boxClosed(site, payload) {
    box(site, payload.boxId).closure = 'closed'
    voidProofs(site, payload.voids, 'The box was closed up.')
  },
  boxGuarded(site, payload, event) {
    box(site, payload.boxId).closure = 'guarded'
    box(site, payload.boxId).guardedBy = event.actor.name
    voidProofs(site, payload.voids, 'The box was capped and guarded.')
  },
  conductorsRecorded(site, payload) {
    box(site, payload.boxId).conductors = payload.conductors
    voidProofs(site, payload.voids, 'Other conductors were found in the box.')
  },
  proofStarted(site, payload, event) {
    const target = box(site, payload.boxId)
    if (target.proofId) voidProofs(site, [target.proofId], 'A new proof was started.')
    target.closure = 'opened'
    target.guardedBy = null
    target.proofId = payload.proofId
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
    box(site, proof.boxId).liveSeq = event.seq
    voidProofs(site, payload.voids, `${a} to ${b} read ${volts} V with ${impedance} impedance.`)
  },
  proofFinished(site, payload, event) {
    const proof = site.proofs[payload.proofId]!
    if (!payload.good) return voidProofs(site, [proof.id], payload.reason ?? 'The tester failed its second check.')
    proof.status = 'living'
    proof.finishedAt = event.receivedAt
    proof.basedOnSeq = event.seq
  },
  proofAbandoned(site, payload) {
    voidProofs(site, [payload.proofId], payload.reason)
  },
  proofWitnessed(site, payload, event) {
    const { personId, initials, licensed } = event.actor
    site.proofs[payload.proofId]!.witnesses.push({ personId, initials, licensed })
  },
  closeGranted(site, payload, event) {
    site.grants[payload.grantId] = {
      id: payload.grantId,
      breakerId: payload.breakerId,
      personId: event.actor.personId,
      name: event.actor.name,
      grantedAt: event.receivedAt,
    }
    site.breakers[payload.breakerId]!.energisedSeq = event.seq
    voidProofs(site, payload.voids, `Leave was given to close ${site.breakers[payload.breakerId]!.number}.`)
  },
  grantAnswered(site, payload, event) {
    const grant = site.grants[payload.grantId]!
    delete site.grants[payload.grantId]
    const breaker = site.breakers[grant.breakerId]!
    if (payload.answer !== 'closed') return
    breaker.state = 'closed'
    breaker.since = event.at
    breaker.energisedSeq = event.seq
  },
  siteLeft(site, payload) {
    voidProofs(site, payload.voids, 'The prover left the site.')
  },
}

export const siteReducer: StreamReducer<SiteState> = {
  upcasters: siteUpcasters,
  knows: (type) => Object.hasOwn(handlers, type),
  evolve(site, event) {
    const handler = handlers[event.type as SiteEventType] as (site: SiteState, payload: unknown, event: StreamEvent) => void
    handler(site, event.payload, event)
  },
}
