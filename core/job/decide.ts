import { nameClashes, readSetupCode } from '../commission'
import type { ConnectionMethod } from '../connect'
import { judgeDevice, judgeTogether, type DeviceModel } from '../fit'
import {
  breakerName,
  canMeasure,
  canTouch,
  decideLeave,
  isEnergised,
  isLeftSafe,
  isSignature,
  leftBehind,
  referenceNeutralBelowVolts,
  sentence,
  tagsOn,
  type SafetyClock,
  type SiteEvent,
  type SiteState,
} from '../site'
import { payloadOf, refuse, type Actor, type Refusal } from '../stream'
import { supplySchemes, type SchemeId } from '../units'
import type { Findings, WiringPlan } from '../wiring'
import type { PlanJudgement } from './box-bench'
import { flagRole, foundBoxOf, wiringOf } from './box-wiring'
import { handoverChecklist, handoverObstacles, openDefects } from './handover'
import { checksFor, inDoubtAt, planElsewhereOf, pointStatus, rolesIn, stepsFor, unitAt } from './progress'
import type { JobCommand, JobCommandType, JobEvent, StoredCode } from './schema'
import type { JobState, Unit, Visit } from './state'

/** What the record of a job cannot know by itself. */
export interface JobContext extends SafetyClock {
  actor: Actor
  /** On the crew of a visit of this job, or leads the branch. */
  onCrew: boolean
  /** The newest seq of this record the client had seen, or null when it holds none. */
  jobSeq: number | null
  /** How long it waited on a phone without network, ms. */
  heldMs: number
  site: SiteState
  method: ConnectionMethod
  /** Catalogue entry of the company, or null. */
  model(id: string): DeviceModel | null
  /** Does this uploaded photo belong to the job? */
  hasPhoto(id: string): boolean
  /** People of the branch, by id. */
  isPerson(id: string): boolean
  /** Names of units that other jobs installed in the same home. */
  /** People of the visit who are on another one at its time; the times in words of the branch. */
  bookedElsewhere: { name: string; what: string; from: string; to: string }[]
  otherNames: string[]
  /** Serials already in use at the company. */
  serialInUse(serial: string): boolean
  /**
   * What the readings at a box establish. Null on a device: its bench has just worked it out, the device keeps the entry, and
   * the server looks again when it arrives. (The identification is too large to load for every page of the field.)
   */
  findings: ((job: JobState, site: SiteState, boxId: string) => Findings | null) | null
  /** What stands against a plan, by every state of the home; null on a device, as for `findings`. */
  judgePlan: ((job: JobState, site: SiteState, boxId: string, plan: WiringPlan) => PlanJudgement) | null
  /** Encrypts a secret for the record. */
  seal(secret: string): string
  /** Opens one again; null on a device, which has no key. */
  unseal: ((sealed: string) => string) | null
}

/** A job decision may carry events for the site's energy record too; both are stored together or not at all. */
export type JobDecision = { ok: true; events: JobEvent[]; siteEvents: SiteEvent[] } | { ok: false; refusal: Refusal }

const done = (...events: JobEvent[]): JobDecision => ({ ok: true, events, siteEvents: [] })

type Handlers = { [T in JobCommandType]: (job: JobState, command: Extract<JobCommand, { type: T }>, context: JobContext) => JobDecision }

function touchOrRefuse(context: JobContext, boxId: string): { ok: false; refusal: Refusal } | null {
  const answer = canTouch(context.site, boxId, context.actor, context)
  return answer.yes ? null : refuse(answer.code, answer.reasons, answer.toYes)
}

/** So long a command travels without having waited, ms. */
const travelsMs = 15_000
/**
 * Was this work done under a proof of its person's, though that has ended by the time it arrives? Then it is stored, in doubt,
 * until somebody has looked: what hands have done is not undone by refusing to write it down.
 */
function wasDoneUnderProof({ site, actor, heldMs, now }: JobContext, boxId: string): boolean {
  const madeAt = Date.parse(now) - heldMs
  return (
    heldMs > travelsMs &&
    Object.values(site.proofs).some(
      (proof) =>
        proof.boxId === boxId &&
        proof.status === 'void' &&
        [proof.personId, ...proof.witnesses.map((one) => one.personId)].includes(actor.personId) &&
        proof.finishedAt !== null &&
        Date.parse(proof.finishedAt) <= madeAt,
    )
  )
}
/** Work at a box needs a proof, or had one when it was done. */
function touchedOrRefuse(context: JobContext, boxId: string): { inDoubt?: true } | { ok: false; refusal: Refusal } {
  const locked = touchOrRefuse(context, boxId)
  if (!locked) return {}
  return wasDoneUnderProof(context, boxId) ? { inDoubt: true } : locked
}

function boxOf(job: JobState, context: JobContext, boxId: string) {
  return job.boxIds.includes(boxId) ? (context.site.boxes[boxId] ?? null) : null
}

const noBox = () => refuse('noSuchBox', 'This box is not part of the job.')
const noUnit = () => refuse('noSuchUnit', 'There is no such device on this job.')

function visitOrRefuse(job: JobState, visitId: string, wanted: Visit['status'][]): Visit | { ok: false; refusal: Refusal } {
  const visit = job.visits[visitId]
  if (!visit) return refuse('noSuchVisit', 'There is no such visit on this job.')
  if (!wanted.includes(visit.status))
    return refuse(
      'visitState',
      `This visit is ${{ planned: 'still planned', onSite: 'under way', done: 'finished', cancelled: 'cancelled' }[visit.status]}.`,
    )
  return visit
}

/** Its people and a lead do something with a visit. */
function ownVisitOrRefuse(job: JobState, visitId: string, wanted: Visit['status'][], actor: Actor) {
  const visit = visitOrRefuse(job, visitId, wanted)
  if ('ok' in visit || visit.personIds.includes(actor.personId) || actor.role === 'lead') return visit
  return refuse('notOnVisit', 'You are not on this visit.', 'Ask the dispatcher to put you on it.')
}

/** So long a visit that was ended may be gone on with. */
const resumeHours = 12
/** Was it ended, by mistake perhaps, so short a time ago that its people may go on with it? */
export const mayResume = ({ status, finishedAt }: Visit, now: string): boolean =>
  status === 'done' && finishedAt !== null && Date.parse(now) - Date.parse(finishedAt) <= resumeHours * 3_600_000

/** Somebody of these people has things left open at the site: then planning waits. */
function tiedHere(site: SiteState, personIds: string[]) {
  for (const personId of personIds) {
    const left = leftBehind(site, personId)
    const name = site.people[personId]?.name
    if (left)
      return refuse(
        'leftBehind',
        `${name} has ${left} at this site: the visit cannot be moved or taken from them.`,
        `${name} finishes there first. If they are gone for good, a lead ends what they left.`,
      )
  }
  return null
}

/** A window that is longer is a slip of the clock. */
export const longestPromiseHours = 12
/** So is a visit of more than a day. */
const longestVisitHours = 24
function timesAreOdd(times: { startsAt: string; endsAt: string; windowFrom: string; windowTo: string }, { now }: JobContext) {
  const hour = 3_600_000
  const startsAt = Date.parse(times.startsAt)
  const endsAt = Date.parse(times.endsAt)
  const windowFrom = Date.parse(times.windowFrom)
  const windowTo = Date.parse(times.windowTo)
  const odd = (reason: string, toYes: string | string[] = []) => refuse('timesOdd', reason, toYes)
  if (endsAt <= startsAt) return odd('The visit ends before it starts.')
  if (endsAt - startsAt > longestVisitHours * hour)
    return odd(`A visit of more than ${longestVisitHours} hours is more than one.`, 'Schedule one for each day.')
  if (endsAt < Date.parse(now) - longestVisitHours * hour) return odd('That day is over.', 'Look at the date.')
  if (windowTo <= windowFrom) return odd('The promised window ends before it starts.')
  if (windowTo - windowFrom > longestPromiseHours * hour)
    return odd(
      `A promise of more than ${longestPromiseHours} hours is none.`,
      'Look at the promised times: does the window end on the day you mean?',
    )
  // What the customer was told, and when the crew comes, are one thing.
  if (startsAt > windowTo || endsAt <= windowFrom)
    return odd('The crew is not there in the time that was promised.', 'Promise a time that holds the start of the visit.')
  return null
}

/** Somebody is on another visit at that time. */
function doubleBooked(command: { alsoBooked?: boolean }, { bookedElsewhere }: JobContext) {
  if (command.alsoBooked || !bookedElsewhere.length) return null
  return refuse(
    'doubleBooked',
    bookedElsewhere.map(({ name, what, from, to }) => `${name} is at ${what} from ${from} to ${to}.`),
    'Choose another time or somebody else, or book them all the same.',
  )
}

function peopleAreUnknown(personIds: string[], context: JobContext) {
  return personIds.every((id) => context.isPerson(id))
    ? null
    : refuse('noSuchPerson', 'Somebody on this visit does not work in this branch.')
}

/** @param unitId the unit whose code it is to be; any other unit of the job with the same one makes it a slip */
function readCode(
  job: JobState,
  unitId: string,
  model: DeviceModel,
  entry: string,
  again: string,
  context: JobContext,
): StoredCode | { ok: false; refusal: Refusal } {
  if (model.setupCode === 'none') return { kind: 'none', sealed: null, ending: '', checked: 'none' }
  const reading = readSetupCode(model.setupCode, entry, again)
  if (!reading.ok)
    return refuse(
      reading.needsSecondEntry ? 'codeTwice' : 'codeWrong',
      reading.problem,
      'Check the code on the device, the tab and the card before the box is closed.',
    )
  const twin = Object.values(job.units).find(
    ({ id, code }) => id !== unitId && code.sealed !== null && context.unseal?.(code.sealed) === reading.code.canonical,
  )
  if (twin)
    return refuse(
      'codeInUse',
      twin.removedAt
        ? `This is the code of the device that was taken out (serial ${twin.serial}).`
        : `This code is already recorded for ${twin.name || `the device with serial ${twin.serial}`}: no two devices have one code.`,
      'Read it from this device, its tab or its card.',
    )
  return {
    kind: reading.code.kind,
    sealed: context.seal(reading.code.canonical),
    ending: reading.code.canonical.slice(-2),
    checked: reading.checked,
  }
}

/**
 * A wired companion speaks to a device over a conductor, and that has to have an input for it.
 * @returns the device of these points that has none, be it the one that is chosen now or one chosen before; null: all is well
 */
function partnerThatHearsNothing(job: JobState, boxId: string, model: DeviceModel, pointIds: string[]): DeviceModel | null {
  const isWired = (one: DeviceModel) => one.kind === 'companion' && one.terminals.includes('sense')
  const isDeaf = (one: DeviceModel) =>
    one.kind !== 'companion' &&
    !one.terminals.includes('sense') &&
    !(one.terminals.includes('traveler1') && !one.terminals.includes('traveler2'))
  const elsewhere = pointIds.flatMap((id) =>
    (job.points[id]?.controls ?? [])
      .filter((control) => control.boxId !== boxId)
      .flatMap((control) => job.boxes[control.boxId]?.devices[control.gang]?.model ?? []),
  )
  if (isWired(model)) return elsewhere.find(isDeaf) ?? null
  return isDeaf(model) && elsewhere.some(isWired) ? model : null
}

/** A functional test means something only with the boxes closed up and the power on. */
function pointIsTestable(job: JobState, context: JobContext, pointId: string) {
  const point = job.points[pointId]
  if (!point) return refuse('noSuchPoint', 'This point is not part of the job.')
  for (const control of point.controls) {
    const no = boxIsTestable(context, control.boxId)
    if (no) return no
  }
  return null
}

/**
 * What a role by hand rests on. A line and a neutral are told by live readings only: a switch's two screws do not tell line
 * from load, a traced cable may be continued in another colour, and no continuity tells a neutral from a ground.
 */
function roleIsUnproven({ role, method, volts, ohms }: Extract<JobCommand, { type: 'establishRole' }>, schemeId: SchemeId) {
  const { low, high } = supplySchemes[schemeId].utilisationBandVolts
  const inBand = (value: number | undefined) => value !== undefined && value >= 0.9 * low && value <= 1.1 * high
  if (role !== 'line' && role !== 'neutral')
    return method === 'continuity' && ohms === null
      ? refuse('readingMissing', 'Continuity is a reading: say how many ohms.', 'Read it, then store it.')
      : null
  if (method !== 'measured')
    return refuse(
      'liveReadingsOnly',
      `A ${role} is told by live readings only: not by a terminal, a colour, a traced cable or continuity.`,
      'Measure it while live, by the licensed person with everyone clear, or find it out at the wiring bench.',
    )
  const [first, second] = volts
  const fits =
    role === 'line' ? inBand(first) && inBand(second) : inBand(first) && second !== undefined && second < referenceNeutralBelowVolts
  return fits
    ? null
    : refuse(
        'readingMissing',
        role === 'line'
          ? 'A line reads the full voltage to the proven ground twice: with its switch in one position and in the other, or to another proven end.'
          : `A neutral reads the full voltage from a line, and below ${referenceNeutralBelowVolts} V to the proven ground.`,
        'Store both readings.',
      )
}

/** When it was done, by the server's time. */
const madeAt = ({ now, heldMs }: JobContext) => new Date(Date.parse(now) - heldMs).toISOString()

/** Closed up, no tags left, the power on. */
function boxIsTestable(context: JobContext, boxId: string) {
  const box = context.site.boxes[boxId]
  if (!box) return noBox()
  if (box.closure !== 'closed')
    return refuse('boxOpen', `${box.name} is still open.`, 'Close the box, take the tags off, close the breaker; then test.')
  for (const breaker of box.breakerIds.flatMap((id) => context.site.breakers[id] ?? [])) {
    if (tagsOn(context.site, breaker.id).length)
      return refuse(
        'tagHangs',
        `A tag hangs on ${breakerName(context.site, breaker)}.`,
        'Its owner takes it off, then the breaker is closed.',
      )
    if (!isEnergised(context.site, breaker))
      return refuse('powerOff', `${sentence(breakerName(context.site, breaker))} is off: nothing can be tested.`, 'Ask to close it.')
  }
  return null
}

function pointsOfUnit(job: JobState, unit: Unit) {
  return (job.boxes[unit.boxId]?.devices[unit.gang]?.pointIds ?? []).flatMap((id) => job.points[id] ?? [])
}

const handlers: Handlers = {
  openJob(job, command, { site }) {
    if (job.seq > 0) return refuse('jobExists', 'This job is already open.')
    if (command.boxIds.some((id) => !site.boxes[id])) return refuse('brokenJob', 'The job names a box the site does not have.')
    for (const point of command.points) {
      if (!site.rooms[point.roomId]) return refuse('brokenJob', `${point.name} is in a room the site does not have.`)
      for (const control of point.controls) {
        const box = site.boxes[control.boxId]
        if (!box || !command.boxIds.includes(control.boxId))
          return refuse('brokenJob', `${point.name} is switched from a box that is not part of the job.`)
        if (control.gang > box.gangs)
          return refuse(
            'brokenJob',
            `${point.name}: ${box.name} has ${box.gangs} ${box.gangs === 1 ? 'gang' : 'gangs'}, not ${control.gang}.`,
          )
      }
    }
    return done({ type: 'jobOpened', payload: payloadOf(command) })
  },

  scheduleVisit(job, command, context) {
    if (job.visits[command.visitId]) return refuse('visitExists', 'This visit already exists.')
    if (command.kind === 'callback' && !job.callbacks[command.callbackId ?? ''])
      return refuse('noSuchCallback', 'A callback visit belongs to a callback of this job.')
    return (
      timesAreOdd(command, context) ??
      peopleAreUnknown(command.personIds, context) ??
      doubleBooked(command, context) ??
      done({ type: 'visitScheduled', payload: { ...payloadOf(command), personIds: [...new Set(command.personIds)] } })
    )
  },
  moveVisit(job, command, context) {
    const visit = visitOrRefuse(job, command.visitId, ['planned', 'onSite'])
    if ('ok' in visit) return visit
    // Whoever has begun has arrived, whether or not anybody pressed it: a visit with things left open stays where it is.
    const gone = visit.personIds.filter((id) => !command.personIds.includes(id))
    const later = Date.parse(command.startsAt) !== Date.parse(visit.startsAt)
    return (
      tiedHere(context.site, later ? visit.personIds : gone) ??
      timesAreOdd(command, context) ??
      peopleAreUnknown(command.personIds, context) ??
      doubleBooked(command, context) ??
      done({ type: 'visitMoved', payload: { ...payloadOf(command), personIds: [...new Set(command.personIds)] } })
    )
  },
  cancelVisit(job, command, { site }) {
    const visit = visitOrRefuse(job, command.visitId, ['planned'])
    if ('ok' in visit) return visit
    return tiedHere(site, visit.personIds) ?? done({ type: 'visitCancelled', payload: payloadOf(command) })
  },
  arrive(job, command, { actor }) {
    const visit = ownVisitOrRefuse(job, command.visitId, ['planned', 'onSite'], actor)
    if ('ok' in visit) return visit
    return done({ type: 'arrived', payload: payloadOf(command) })
  },
  resumeVisit(job, command, { actor, now }) {
    const visit = ownVisitOrRefuse(job, command.visitId, ['done'], actor)
    if ('ok' in visit) return visit
    if (!mayResume(visit, now))
      return refuse('tooLate', `This visit ended more than ${resumeHours} hours ago.`, 'The dispatcher schedules another one.')
    return done({ type: 'visitResumed', payload: payloadOf(command) })
  },
  finishVisit(job, command, { actor, site }) {
    const visit = visitOrRefuse(job, command.visitId, ['onSite'])
    if ('ok' in visit) return visit
    const open = job.boxIds.flatMap((id) => site.boxes[id] ?? []).filter((box) => !isLeftSafe(site, box))
    if (open.length)
      return refuse(
        'boxOpen',
        `${open.map((box) => box.name).join(', ')} ${open.length === 1 ? 'is' : 'are'} open.`,
        'Close up, cap and guard, or have the breakers held open by the company’s lock with a notice, before the crew leaves.',
      )
    const crew = [...new Set([...visit.personIds, actor.personId])]
    const voids = new Set<string>()
    const alarms = new Set<string>()
    for (const personId of crew) {
      const tag = Object.values(site.tags).find((candidate) => candidate.personId === personId && !candidate.company)
      if (tag)
        return refuse(
          'tagsLeft',
          `A tag of ${tag.name} still hangs on ${breakerName(site, site.breakers[tag.breakerId]!)}.`,
          `${tag.initials} takes it off, then the visit can end.`,
        )
      const leave = decideLeave(site, { ...actor, personId })
      if (!leave.ok) return leave
      for (const event of leave.events)
        if (event.type === 'siteLeft') {
          for (const id of event.payload.voids) voids.add(id)
          for (const id of event.payload.alarms) if (!crew.includes(id)) alarms.add(id)
        }
    }
    return {
      ok: true,
      events: [{ type: 'visitFinished', payload: payloadOf(command) }],
      siteEvents: [{ type: 'siteLeft', payload: { voids: [...voids], alarms: [...alarms], people: crew } }],
    }
  },

  addPhoto(job, command, context) {
    if (command.boxId !== null && !boxOf(job, context, command.boxId)) return noBox()
    if (!context.hasPhoto(command.photoId)) return refuse('noSuchPhoto', 'The picture did not arrive.', 'Send it again.')
    if (job.photos.some((photo) => photo.id === command.photoId)) return refuse('photoExists', 'This picture is already in the record.')
    return done({ type: 'photoAdded', payload: payloadOf(command) })
  },

  establishRole(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    if (!box.conductors.some((conductor) => conductor.letter === command.letter))
      return refuse('noSuchConductor', `There is no conductor ${command.letter} in ${box.name}.`)
    if (command.method === 'measured' && !context.actor.licensed)
      return refuse(
        'licenceNeeded',
        'Measuring on live conductors is for the qualified person.',
        'Use continuity, or ask a licensed crew mate.',
      )
    if (command.method === 'readings') {
      // The server looks for itself: what no reading establishes is not stored as established.
      if (!context.findings) return done({ type: 'roleEstablished', payload: payloadOf(command) })
      const wire = context.findings(job, context.site, box.id)?.wires.find((one) => one.letter === command.letter)
      const here = wire?.settled ?? wire?.joint
      if (!here || flagRole[here.role] !== command.role)
        return refuse(
          'notEstablished',
          `The readings do not establish ${command.letter} as ${command.role}.`,
          'Make the next test the bench names.',
        )
      return done({ type: 'roleEstablished', payload: payloadOf(command) })
    }
    const unproven = roleIsUnproven(command, context.site.schemeId)
    if (unproven) return unproven
    const touched = touchedOrRefuse(context, box.id)
    return 'ok' in touched ? touched : done({ type: 'roleEstablished', payload: { ...payloadOf(command), ...touched } })
  },

  clearDoubt(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    if (!inDoubtAt(job, box.id)) return refuse('nothingInDoubt', `Nothing at ${box.name} is in doubt.`)
    return touchOrRefuse(context, box.id) ?? done({ type: 'doubtCleared', payload: payloadOf(command) })
  },

  noteFound(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const known = new Set(box.conductors.map((conductor) => conductor.letter))
    const named = [...command.notes.splices.flat(), ...command.notes.oldSwitches.flatMap((old) => Object.values(old.terminals).flat())]
    const stranger = named.find((letter) => !known.has(letter))
    if (stranger) return refuse('noSuchConductor', `There is no conductor ${stranger} in ${box.name}.`)
    const found = foundBoxOf(context.site, box, command.notes)
    if (!found.ok) return refuse('boxTooUnknown', found.reason)
    return done({ type: 'foundNoted', payload: payloadOf(command) })
  },

  readWires(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const notes = wiringOf(job, box.id).notes
    if (!notes) return refuse('notDescribed', 'The box is not described yet.', 'Note its splices and old terminals first.')
    const found = foundBoxOf(context.site, box, notes)
    if (!found.ok) return refuse('boxTooUnknown', found.reason)
    const letters = new Set(box.conductors.map((conductor) => conductor.letter))
    const on = new Set(
      box.breakerIds.flatMap((id) => {
        const breaker = context.site.breakers[id]
        return breaker && isEnergised(context.site, breaker) ? [breaker.number] : []
      }),
    )
    for (const reading of command.readings) {
      const stranger = [reading.a, reading.b].find((end) => end !== 'REF' && !letters.has(end))
      if (stranger || reading.a === reading.b)
        return refuse('noSuchConductor', `There is no conductor ${stranger ?? reading.b} to read against.`)
      if (reading.far.length !== notes.farSwitches) return refuse('positionMissing', 'Say how every other switch stood.')
      if (reading.old && reading.old.length !== notes.oldSwitches.length)
        return refuse('positionMissing', 'Say how every old switch of this box stood.')
      if (reading.closed.length === 0) {
        const dead = touchOrRefuse(context, box.id)
        if (dead) return dead
        continue
      }
      const measure = canMeasure(context.site, box.id, context.actor, context)
      if (!measure.yes) return refuse(measure.code, measure.reasons, measure.toYes)
      const odd = found.found.circuits.find((circuit) => on.has(circuit) !== reading.closed.includes(circuit))
      if (odd)
        return refuse(
          'breakersDiffer',
          `Breaker ${odd} is ${on.has(odd) ? 'closed' : 'open'} in the record, and the reading says otherwise.`,
          'Record how the breaker stands, then store the reading.',
        )
    }
    return done({ type: 'wiresRead', payload: payloadOf(command) })
  },

  forgetReadings(job, command, context) {
    return boxOf(job, context, command.boxId) ? done({ type: 'readingsForgotten', payload: payloadOf(command) }) : noBox()
  },

  planWiring(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const letters = new Set(box.conductors.map((conductor) => conductor.letter))
    const named = command.plan
      ? [
          ...command.plan.capped,
          ...command.plan.splices.flatMap((splice) => splice.letters),
          ...[...command.plan.devices, ...command.plan.kept].flatMap(({ terminals }) => Object.values(terminals).flat()),
          ...command.plan.jumpers.flatMap(({ from, to }) => [from, to]).filter((end) => !end.includes(':')),
          ...command.plan.elsewhere.flatMap(({ through, sense, neutral }) => [through ?? [], sense ?? [], neutral ?? []].flat()),
          ...[...command.plan.fixtureRelays, ...command.plan.feeds].map(({ letter }) => letter),
        ]
      : []
    const stranger = named.find((letter) => !letters.has(letter))
    if (stranger) return refuse('noSuchConductor', `There is no conductor ${stranger} in ${box.name}.`)
    const { planned } = wiringOf(job, box.id)
    const blind = planned && context.jobSeq !== null && planned.seq > context.jobSeq && planned.personId !== context.actor.personId
    if (blind)
      return refuse(
        'planChanged',
        `${planned.initials} laid the wiring of ${box.name} at the same time.`,
        'The drawing shows it now: look at it, then lay yours again.',
      )
    const owner = command.plan && box.gangs === 1 ? planElsewhereOf(job, box.id) : null
    if (owner) {
      const name = context.site.boxes[owner]?.name ?? 'another box'
      return refuse(
        'plannedElsewhere',
        `${box.name} and ${name} are one wiring, and what is done here follows from the plan of ${name}.`,
        `Change it at the bench of ${name}.`,
      )
    }
    if (!command.plan || !context.judgePlan) return done({ type: 'wiringPlanned', payload: payloadOf(command) })
    const { against, elsewhere } = context.judgePlan(job, context.site, box.id, command.plan)
    return done({
      type: 'wiringPlanned',
      payload: { ...payloadOf(command), ...(against.length ? { against } : {}), ...(elsewhere.length ? { elsewhere } : {}) },
    })
  },

  observeFunctions(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    return boxIsTestable(context, box.id) ?? done({ type: 'functionsObserved', payload: payloadOf(command) })
  },

  chooseDevice(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    if (command.gang > box.gangs) return refuse('noSuchGang', `${box.name} has ${box.gangs} ${box.gangs === 1 ? 'gang' : 'gangs'}.`)
    const model = context.model(command.modelId)
    if (!model) return refuse('noSuchModel', 'This model is not in the catalogue.')
    if (unitAt(job, box.id, command.gang))
      return refuse('unitInstalled', 'A device is already recorded here.', 'Replace it through a callback.')
    const roles = Object.values(rolesIn(job, box.id))
    for (const pointId of command.pointIds) {
      const point = job.points[pointId]
      if (!point?.controls.some((control) => control.boxId === box.id && control.gang === command.gang))
        return refuse('noSuchPoint', `That point is not switched from gang ${command.gang} of ${box.name}.`)
      const blocks = judgeDevice(model, point.load, {
        schemeId: context.site.schemeId,
        controlLocations: point.controls.length,
        neutralEstablished: roles.length ? roles.includes('neutral') : null,
      }).filter((remark) => remark.severity === 'block')
      if (blocks.length)
        return refuse(
          'deviceUnfit',
          blocks.map((remark) => remark.text),
          'Choose another model.',
        )
    }
    const [together] = judgeTogether(
      model,
      command.pointIds.flatMap((id) => job.points[id]?.load ?? []),
    )
    if (together) return refuse('deviceUnfit', together.text, 'Choose a model that carries all of them, or one device for each.')
    const deaf = partnerThatHearsNothing(job, box.id, model, command.pointIds)
    if (deaf)
      return refuse(
        'deviceUnfit',
        `${deaf.name} has no switch input: a wired companion has nobody to speak to.`,
        'Choose a device with an input for it, or a companion without wires.',
      )
    // A wiring that was laid is judged anew with the device that now goes there.
    const { plan } = wiringOf(job, box.id)
    const work = job.boxes[box.id]
    const devices = { ...work?.devices, [command.gang]: { model, pointIds: command.pointIds } }
    const after = { ...job, boxes: { ...job.boxes, [box.id]: { ...work!, devices } } }
    const against = plan && context.judgePlan ? context.judgePlan(after, context.site, box.id, plan).against : undefined
    return done({ type: 'deviceChosen', payload: { ...payloadOf(command), model, ...(against ? { against } : {}) } })
  },

  unchooseDevice(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    if (!job.boxes[box.id]?.devices[command.gang]) return refuse('noDevice', `No device is chosen for gang ${command.gang} of ${box.name}.`)
    if (unitAt(job, box.id, command.gang))
      return refuse('unitInstalled', 'A device is already recorded here.', 'Replace it through a callback.')
    return done({ type: 'deviceUnchosen', payload: payloadOf(command) })
  },

  keepOldSwitch(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    if (command.gang > box.gangs) return refuse('noSuchGang', `${box.name} has ${box.gangs} ${box.gangs === 1 ? 'gang' : 'gangs'}.`)
    if (command.stays && job.boxes[box.id]?.devices[command.gang])
      return refuse('deviceChosen', `A device is chosen for gang ${command.gang} of ${box.name}.`, 'Say first that no device goes in here.')
    return done({ type: 'oldSwitchKept', payload: payloadOf(command) })
  },

  markStep(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const step = stepsFor(job, context.site, box.id, command.gang, context.method).find((candidate) => candidate.id === command.stepId)
    const mark = job.boxes[box.id]?.steps[`${command.gang}:${command.stepId}`]
    // What was done under another plan is undone, and then its mark goes.
    const undone = !command.done && mark
    if (!step && !undone)
      return job.boxes[box.id]?.devices[command.gang]
        ? refuse(
            'planFirst',
            'This box has several gangs, feeds or control locations: its steps follow from the wiring that is laid.',
            'Find out at the wiring bench which conductor is what, and lay the wiring there.',
          )
        : refuse('noSuchStep', 'Choose the device first; its steps follow from it.')
    const touched = touchedOrRefuse(context, box.id)
    if ('ok' in touched) return touched
    const modelId = job.boxes[box.id]?.devices[command.gang]?.model.id ?? null
    return done({ type: 'stepMarked', payload: { ...payloadOf(command), text: undone ? mark.text : step!.text, modelId, ...touched } })
  },

  recordUnit(job, command, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const known = job.units[command.unitId]
    const device = job.boxes[box.id]?.devices[command.gang]
    if (!device) return refuse('noDevice', `No device is chosen for gang ${command.gang} of ${box.name}.`, 'Choose it first.')
    if (known && (known.boxId !== box.id || known.gang !== command.gang || known.removedAt))
      return refuse('unitElsewhere', 'This device is recorded in another place.')
    if (!known && unitAt(job, box.id, command.gang))
      return refuse('unitInstalled', 'A device is already recorded here.', 'Correct it, or replace it through a callback.')
    if (known?.serial !== command.serial && context.serialInUse(command.serial))
      return refuse('serialInUse', `Serial ${command.serial} is already recorded somewhere.`, 'Read it again from the device.')
    const code = readCode(job, command.unitId, device.model, command.setupCode, command.setupCodeAgain, context)
    if ('ok' in code) return code
    const { unitId, boxId, gang, serial } = command
    return done({ type: 'unitRecorded', payload: { unitId, boxId, gang, serial, code, model: device.model } })
  },

  testPoint(job, command, context) {
    const untestable = pointIsTestable(job, context, command.pointId)
    if (untestable) return untestable
    const check = checksFor(job, context.site, job.points[command.pointId]!).find((candidate) => candidate.id === command.checkId)
    if (!check) return refuse('noSuchCheck', 'This check does not belong to the point any more.', 'Look at the list again.')
    if (command.result === 'fail' && command.note.length < 3) return refuse('noteMissing', 'A failed check needs a note: what did you see?')
    return done({ type: 'pointTested', payload: { ...payloadOf(command), what: check.what, madeAt: madeAt(context) } })
  },

  recordPairing(job, command) {
    const unit = job.units[command.unitId]
    if (!unit || unit.removedAt) return noUnit()
    if (unit.model.setupCode === 'none') return refuse('nothingToPair', `${unit.model.name} does not join a network.`)
    if (command.result === 'joined' && (command.network === '' || command.signal === null))
      return refuse('signalMissing', 'Note the network and the Wi-Fi level at the device.', 'dBm if the app shows it, else bars.')
    if (command.result === 'failed' && command.note.length < 3) return refuse('noteMissing', 'Note what the device or the app showed.')
    return done({ type: 'pairingRecorded', payload: payloadOf(command) })
  },

  nameUnit(job, command, { otherNames, actor, jobSeq }) {
    const unit = job.units[command.unitId]
    if (!unit || unit.removedAt) return noUnit()
    // Two people named it without knowing of each other: nobody's word is lost, a person picks.
    const blind = jobSeq !== null && unit.nameSeq > jobSeq && unit.namedBy !== null && unit.namedBy.personId !== actor.personId
    if (blind && unit.name.toLowerCase() !== command.name.toLowerCase())
      return done({ type: 'unitNameContested', payload: payloadOf(command) })
    const mates = Object.values(job.units)
      .filter((other) => other.id !== unit.id && !other.removedAt && other.name)
      .map((other) => other.name)
    const clashes = nameClashes(command.name, [...mates, ...otherNames])
    const hard = clashes.filter((clash) => clash.kind !== 'contained')
    if (hard.length)
      return refuse(
        'nameClash',
        hard.map((clash) => clash.sentence),
        'Room and thing make a name: “net loft window light”.',
      )
    if (clashes.length && !command.despiteClash)
      return refuse(
        'nameContained',
        clashes.map((clash) => clash.sentence),
        'Choose a name with a word of its own, or keep it on purpose.',
      )
    return done({ type: 'unitNamed', payload: payloadOf(command) })
  },

  listDefect(job, command) {
    if (job.defects[command.defectId]) return refuse('defectExists', 'This defect is already listed.')
    if (command.pointId !== null && !job.points[command.pointId]) return refuse('noSuchPoint', 'This point is not part of the job.')
    return done({ type: 'defectListed', payload: payloadOf(command) })
  },
  settleDefect(job, command) {
    const defect = job.defects[command.defectId]
    if (!defect) return refuse('noSuchDefect', 'This defect is not listed.')
    if (defect.status === 'settled') return refuse('defectSettled', 'This defect is already settled.')
    return done({ type: 'defectSettled', payload: payloadOf(command) })
  },

  tickHandover(job, command, { site }) {
    if (job.handedOverAt) return refuse('handedOver', 'This job is already handed over.')
    const item = handoverChecklist(job, site).find((candidate) => candidate.id === command.itemId)
    if (!item) return refuse('noSuchItem', 'This item is not on the checklist of this job.')
    if (item.auto) return refuse('computed', 'This item follows from the record and cannot be ticked by hand.', item.why)
    return done({ type: 'handoverTicked', payload: { ...payloadOf(command), text: item.text } })
  },
  signHandover(job, command) {
    if (job.handedOverAt) return refuse('handedOver', 'This job is already handed over.')
    if (!isSignature(command.strokes))
      return refuse('noSignature', 'That is a dot, not a signature.', 'The customer signs with the whole name.')
    const missing = openDefects(job).filter((defect) => !command.acceptedDefectIds.includes(defect.id))
    if (missing.length)
      return refuse(
        'defectsNotAccepted',
        missing.map((defect) => `The customer has to accept: ${defect.text}`),
        'Go through the open defects with the customer, tick each, then sign.',
      )
    return done({ type: 'handoverSigned', payload: payloadOf(command) })
  },
  completeHandover(job, _command, { site }) {
    if (job.handedOverAt) return refuse('handedOver', 'This job is already handed over.')
    const obstacles = handoverObstacles(job, site)
    if (obstacles.length)
      return refuse('notReady', obstacles, 'A failing point may be listed as an open defect that the customer signs for.')
    return done({ type: 'handoverCompleted', payload: {} })
  },

  openCallback(job, command) {
    if (job.callbacks[command.callbackId]) return refuse('callbackExists', 'This callback is already open.')
    const unit = job.units[command.unitId]
    if (!unit || unit.removedAt) return noUnit()
    const open = Object.values(job.callbacks).find((callback) => callback.unitId === unit.id && callback.status !== 'closed')
    if (open) return refuse('callbackExists', `A callback for ${unit.name || unit.serial} is already open.`, 'Add to that one.')
    return done({ type: 'callbackOpened', payload: payloadOf(command) })
  },
  diagnoseCallback(job, command) {
    const callback = job.callbacks[command.callbackId]
    if (!callback) return refuse('noSuchCallback', 'There is no such callback.')
    if (callback.status === 'closed') return refuse('callbackClosed', 'This callback is closed.')
    return done({ type: 'callbackDiagnosed', payload: payloadOf(command) })
  },
  replaceUnit(job, command, context) {
    const callback = job.callbacks[command.callbackId]
    if (!callback) return refuse('noSuchCallback', 'There is no such callback.')
    if (callback.status !== 'diagnosed') return refuse('notDiagnosed', 'Say what the cause is before a unit is replaced.')
    const old = job.units[command.oldUnitId]
    if (!old || old.removedAt) return noUnit()
    if (job.units[command.newUnitId]) return refuse('unitExists', 'This device is already recorded.')
    if (command.serial === old.serial || context.serialInUse(command.serial))
      return refuse('serialInUse', `Serial ${command.serial} is already recorded somewhere.`, 'Read it again from the new device.')
    const locked = touchOrRefuse(context, old.boxId)
    if (locked) return locked
    const code = readCode(job, command.newUnitId, old.model, command.setupCode, command.setupCodeAgain, context)
    if ('ok' in code) return code
    const { callbackId, oldUnitId, newUnitId, serial, oldUnitGoes } = command
    return done({
      type: 'unitReplaced',
      payload: { callbackId, oldUnitId, newUnitId, serial, oldUnitGoes, code, model: old.model, oldSerial: old.serial },
    })
  },
  closeCallback(job, command, { site }) {
    const callback = job.callbacks[command.callbackId]
    if (!callback) return refuse('noSuchCallback', 'There is no such callback.')
    if (callback.status === 'closed') return refuse('callbackClosed', 'This callback is already closed.')
    if (callback.status === 'open') return refuse('notDiagnosed', 'Say what the cause was before closing.')
    if (callback.remedy === 'replace' && !callback.replacedBy)
      return refuse('notReplaced', 'The remedy was to replace the unit, and no new unit is recorded.')
    const unit = job.units[callback.replacedBy ?? callback.unitId]!
    const failing = pointsOfUnit(job, unit).filter((point) => pointStatus(job, site, point) !== 'passed')
    if (failing.length)
      return refuse(
        'notTested',
        `Not every check passes: ${failing.map((point) => point.name).join(', ')}.`,
        'Test again after the repair.',
      )
    if (callback.replacedBy && unit.model.setupCode !== 'none' && unit.pairing?.result !== 'joined')
      return refuse('notPaired', 'The new unit has not joined the home yet.', 'Pair it, then close.')
    return done({ type: 'callbackClosed', payload: payloadOf(command) })
  },
}

/** Commands the office gives; field commands need a place on the crew. */
const officeTypes: ReadonlySet<JobCommandType> = new Set(['openJob', 'scheduleVisit', 'moveVisit', 'cancelVisit'])
const eitherTypes: ReadonlySet<JobCommandType> = new Set(['openCallback', 'chooseDevice', 'listDefect', 'addPhoto', 'nameUnit'])

/** Decides one command against the record of a job and the energy record of its site. */
export function decideJob(job: JobState, command: JobCommand, context: JobContext): JobDecision {
  if (job.unknownEvent || context.site.unknownEvent)
    return refuse(
      'updateNeeded',
      `This program does not understand an entry in the record (${job.unknownEvent ?? context.site.unknownEvent}).`,
      'Update the program, then try again.',
    )
  if (job.seq === 0 && command.type !== 'openJob') return refuse('noSuchJob', 'There is no such job.')
  const office = context.actor.role === 'dispatcher' || context.actor.role === 'lead'
  if (officeTypes.has(command.type)) {
    if (!office) return refuse('officeOnly', 'Only the dispatcher or a lead does this.', 'Ask the dispatcher.')
  } else if (!context.onCrew && !(office && eitherTypes.has(command.type)) && command.type !== 'arrive' && command.type !== 'resumeVisit') {
    return refuse('notOnCrew', 'You are not on a visit of this job.', 'Ask the dispatcher to put you on it.')
  }
  const handler = handlers[command.type] as (job: JobState, command: JobCommand, context: JobContext) => JobDecision
  return handler(job, command, context)
}

/** Work on a job that may wait on a phone without network and is sent later. */
export const keepableJobTypes: ReadonlySet<string> = new Set<JobCommandType>([
  'arrive',
  'addPhoto',
  'establishRole',
  'noteFound',
  'readWires',
  'planWiring',
  'observeFunctions',
  'chooseDevice',
  'unchooseDevice',
  'keepOldSwitch',
  'markStep',
  'recordUnit',
  'testPoint',
  'recordPairing',
  'nameUnit',
  'listDefect',
  'settleDefect',
  'tickHandover',
])
