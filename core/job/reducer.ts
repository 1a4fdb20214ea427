import type { StreamEvent, StreamReducer, UpcasterTable } from '../stream'
import type { JobEvent, JobEventType } from './schema'
import { emptyPlan } from '../wiring/plan/plan-words'
import { emptyWiring, type BoxWork, type JobState } from './state'

/** Bump when evolve changes what a stored stream folds to: snapshots of another version are thrown away. */
export const jobReducerVersion = 5

export const jobUpcasters: UpcasterTable = {
  roleEstablished: [(payload) => ({ volts: [], ohms: null, ...payload })],
  stepMarked: [(payload) => ({ modelId: null, ...payload })],
  // Tests of before carry no time of their own: they count as made when they arrived.
  pointTested: [(payload) => ({ madeAt: null, ...payload })],
}

type Handlers = { [T in JobEventType]: (job: JobState, payload: Extract<JobEvent, { type: T }>['payload'], event: StreamEvent) => void }

function workOn(job: JobState, boxId: string): BoxWork {
  return (job.boxes[boxId] ??= { roles: {}, devices: {}, steps: {} })
}

const wiringOn = (job: JobState, boxId: string) => (workOn(job, boxId).wiring ??= emptyWiring())

/** Types that change what the customer signs for. */
const material: ReadonlySet<string> = new Set<JobEventType>([
  'deviceChosen',
  'unitRecorded',
  'pointTested',
  'pairingRecorded',
  'unitNamed',
  'defectListed',
  'defectSettled',
  'unitReplaced',
])

const unnamed = () => ({ name: '', namedBy: null, nameSeq: 0, otherNames: [] })

const handlers: Handlers = {
  jobOpened(job, payload) {
    job.siteId = payload.siteId
    job.title = payload.title
    job.note = payload.note
    job.boxIds = payload.boxIds
    for (const point of payload.points) {
      job.points[point.id] = point
      job.pointOrder.push(point.id)
    }
  },
  visitScheduled(job, payload) {
    const { visitId, ...rest } = payload
    job.visits[visitId] = { id: visitId, ...rest, status: 'planned', arrivedAt: null, finishedAt: null }
  },
  visitMoved(job, payload) {
    const { visitId, ...rest } = payload
    Object.assign(job.visits[visitId]!, rest)
  },
  visitCancelled(job, payload) {
    job.visits[payload.visitId]!.status = 'cancelled'
  },
  arrived(job, payload, event) {
    const visit = job.visits[payload.visitId]!
    visit.status = 'onSite'
    visit.arrivedAt ??= event.at
  },
  visitFinished(job, payload, event) {
    const visit = job.visits[payload.visitId]!
    visit.status = 'done'
    visit.finishedAt = event.at
  },
  visitResumed(job, payload) {
    Object.assign(job.visits[payload.visitId]!, { status: 'onSite', finishedAt: null })
  },
  photoAdded(job, payload, event) {
    const { photoId, ...rest } = payload
    job.photos.push({ id: photoId, ...rest, at: event.at, by: event.actor.initials })
  },
  roleEstablished(job, payload, event) {
    workOn(job, payload.boxId).roles[payload.letter] = {
      role: payload.role,
      method: payload.method,
      by: event.actor.initials,
      ...(payload.inDoubt ? { inDoubt: true } : {}),
    }
  },
  doubtCleared(job, payload) {
    const { roles, steps } = workOn(job, payload.boxId)
    for (const done of [...Object.values(roles), ...Object.values(steps)]) delete done.inDoubt
  },
  foundNoted(job, payload) {
    // Other joints mean other arrangements: what was read stays, a plan made for the old ones does not.
    Object.assign(wiringOn(job, payload.boxId), { notes: payload.notes, plan: null, observed: [] })
  },
  wiresRead(job, payload) {
    wiringOn(job, payload.boxId).readings.push(...payload.readings)
  },
  readingsForgotten(job, payload) {
    Object.assign(wiringOn(job, payload.boxId), { readings: [], plan: null, observed: [] })
  },
  wiringPlanned(job, payload, event) {
    Object.assign(wiringOn(job, payload.boxId), {
      plan: payload.plan && { ...emptyPlan, ...payload.plan },
      planned: {
        seq: event.seq,
        personId: event.actor.personId,
        initials: event.actor.initials,
        ...(payload.against ? { against: payload.against } : {}),
        ...(payload.elsewhere ? { elsewhere: payload.elsewhere } : {}),
      },
      observed: [],
    })
  },
  functionsObserved(job, payload) {
    wiringOn(job, payload.boxId).observed = payload.rows
  },
  deviceChosen(job, payload) {
    const work = workOn(job, payload.boxId)
    if (work.devices[payload.gang]?.model.id !== payload.model.id)
      work.devices[payload.gang] = { model: payload.model, pointIds: payload.pointIds }
    if (work.oldStays) work.oldStays = work.oldStays.filter((gang) => gang !== payload.gang)
    if (payload.against && work.wiring?.planned) work.wiring.planned.against = payload.against
  },
  deviceUnchosen(job, payload) {
    delete workOn(job, payload.boxId).devices[payload.gang]
  },
  oldSwitchKept(job, payload) {
    const work = workOn(job, payload.boxId)
    const others = (work.oldStays ?? []).filter((gang) => gang !== payload.gang)
    work.oldStays = payload.stays ? [...others, payload.gang] : others
  },
  stepMarked(job, payload, event) {
    const steps = workOn(job, payload.boxId).steps
    const key = `${payload.gang}:${payload.stepId}`
    const { text, modelId } = payload
    if (payload.done) steps[key] = { by: event.actor.initials, at: event.at, text, modelId, ...(payload.inDoubt ? { inDoubt: true } : {}) }
    else delete steps[key]
  },
  unitRecorded(job, payload, event) {
    const known = job.units[payload.unitId]
    const { unitId, boxId, gang, serial, code, model } = payload
    job.units[unitId] = known
      ? { ...known, serial, code }
      : {
          id: unitId,
          boxId,
          gang,
          model,
          serial,
          code,
          installedAt: event.at,
          removedAt: null,
          removedTo: null,
          ...unnamed(),
          pairing: null,
        }
  },
  pointTested(job, payload, event) {
    const { pointId, checkId, result, note } = payload
    ;(job.tests[pointId] ??= {})[checkId] = {
      result,
      note,
      at: event.at,
      by: event.actor.initials,
      madeAt: payload.madeAt ?? event.receivedAt,
    }
  },
  pairingRecorded(job, payload) {
    const unit = job.units[payload.unitId]!
    const { result, network, signal, note } = payload
    unit.pairing = { result, network, signal, note, attempts: (unit.pairing?.attempts ?? 0) + 1 }
  },
  unitNamed(job, payload, event) {
    const unit = job.units[payload.unitId]!
    unit.name = payload.name
    unit.namedBy = { personId: event.actor.personId, initials: event.actor.initials }
    unit.nameSeq = event.seq
    unit.otherNames = []
  },
  unitNameContested(job, payload, event) {
    const unit = job.units[payload.unitId]!
    if (!unit.otherNames.some((other) => other.name === payload.name))
      unit.otherNames.push({ name: payload.name, initials: event.actor.initials })
  },
  defectListed(job, payload) {
    job.defects[payload.defectId] = { id: payload.defectId, pointId: payload.pointId, text: payload.text, status: 'open' }
  },
  defectSettled(job, payload) {
    job.defects[payload.defectId]!.status = 'settled'
  },
  handoverTicked(job, payload, event) {
    if (payload.done) job.ticks[payload.itemId] = { by: event.actor.initials, at: event.at }
    else delete job.ticks[payload.itemId]
  },
  handoverSigned(job, payload, event) {
    const { signatureId, ...rest } = payload
    job.signature = { id: signatureId, ...rest, at: event.at, seq: event.seq }
  },
  handoverCompleted(job, _payload, event) {
    job.handedOverAt = event.at
  },
  callbackOpened(job, payload, event) {
    const { callbackId, unitId, what, since, offlineInApp, wallSwitchFlipped, routerChanged, breakerTripped } = payload
    const signs = [
      offlineInApp && 'offline in the app',
      wallSwitchFlipped && 'wall switch was flipped',
      routerChanged && 'router changed',
      breakerTripped && 'breaker tripped',
    ].filter((sign) => sign !== false)
    job.callbacks[callbackId] = {
      id: callbackId,
      unitId,
      what,
      since,
      signs,
      status: 'open',
      causeKind: null,
      cause: '',
      remedy: null,
      resolution: '',
      openedAt: event.at,
      closedAt: null,
      replacedBy: null,
    }
  },
  callbackDiagnosed(job, payload) {
    const callback = job.callbacks[payload.callbackId]!
    callback.status = 'diagnosed'
    callback.causeKind = payload.causeKind
    callback.cause = payload.cause
    callback.remedy = payload.remedy
  },
  unitReplaced(job, payload, event) {
    const old = job.units[payload.oldUnitId]!
    old.removedAt = event.at
    old.removedTo = payload.oldUnitGoes
    job.units[payload.newUnitId] = {
      id: payload.newUnitId,
      boxId: old.boxId,
      gang: old.gang,
      model: payload.model,
      serial: payload.serial,
      code: payload.code,
      installedAt: event.at,
      removedAt: null,
      removedTo: null,
      ...unnamed(),
      name: old.name,
      pairing: null,
    }
    job.callbacks[payload.callbackId]!.replacedBy = payload.newUnitId
    const work = workOn(job, old.boxId)
    // The new unit proves nothing by the old one's tests, nor by the steps that were done on it.
    for (const pointId of work.devices[old.gang]?.pointIds ?? []) delete job.tests[pointId]
    for (const key of Object.keys(work.steps)) if (key.startsWith(`${old.gang}:`)) delete work.steps[key]
  },
  callbackClosed(job, payload, event) {
    const callback = job.callbacks[payload.callbackId]!
    callback.status = 'closed'
    callback.resolution = payload.resolution
    callback.closedAt = event.at
  },
}

export const jobReducer: StreamReducer<JobState> = {
  upcasters: jobUpcasters,
  knows: (type) => Object.hasOwn(handlers, type),
  evolve(job, event) {
    const handler = handlers[event.type as JobEventType] as (job: JobState, payload: unknown, event: StreamEvent) => void
    handler(job, event.payload, event)
    if (material.has(event.type)) job.materialSeq = event.seq
  },
}
