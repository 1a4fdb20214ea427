import {
  atServer,
  canClose,
  canEnergise,
  canMeasure,
  canTag,
  canTouch,
  canTouchOffline,
  uncutFeeds,
  holds,
  isIsolatedFor,
  isKnownLive,
  isSettled,
  givesUpTypes,
  notYetClear,
  pairStatuses,
  type Answer,
  siteStream,
  type SiteCommand,
  type SiteState,
} from '../index'
import type { Actor, Outcome } from '../../stream'
import { submitCommand, type Reply } from '../../stream/client'
import type { RequiredPair } from '../proofs'
import type { SignCause } from '../parts.schema'
import type { Chance } from '../../chance'
import { isoAt, Phone, proofLimitMinutes, type Envelope, type Record } from './record'
import type { Lever, Lock, Meter, World, WorldBox } from './world'

type Loose<C> = C extends { type: string } ? { type: C['type'] } & Partial<Omit<C, 'type'>> : never
type Task = Generator<void, void, void>
export type Habit =
  | 'job'
  | 'work'
  | 'isolate'
  | 'prove'
  | 'open'
  | 'tag'
  | 'untag'
  | 'close'
  | 'inspect'
  | 'closeUp'
  | 'guard'
  | 'openBox'
  | 'moment'
  | 'measure'
  | 'leave'
  | 'override'
  | 'cause'
  | 'asks'
  | 'stopped'
  | 'walk'
  | 'night'
  | 'unlock'
  | 'look'
  | 'tidy'
  | 'cellar'
  | 'rehang'
  | 'explain'
  | 'confirm'
  | 'source'
  | 'find'
  | 'guards'
  | 'plot'
export type Event =
  | 'quiet'
  | 'line'
  | 'battery'
  | 'deliver'
  | 'householder'
  | 'stray'
  | 'comeBack'
  | 'far'
  | 'rush'
  | 'fault'
  | 'lunch'
  | 'child'
  | 'evening'
  | 'timer'
  | 'office'
  | 'licence'

/** What an episode looks for on purpose: one kind of story, and houses where some oddity is frequent. */
export interface Focus {
  plot?: string
  odd?: { [oddity: string]: number }
  events?: { [event: string]: number }
}

/** Everything the people of one episode share. */
export interface Stage {
  world: World
  record: Record
  chance: Chance
  people: Crew[]
  breakerId: Map<string, string>
  boxId: Map<string, string>
  /** A source on record whose switching point nobody has recorded: the lever that really is there. */
  loose: { sourceId: string; lever: string } | null
  panelId: string
  /** Boxes that are in the house and on no list. */
  unlisted: WorldBox[]
  /** Found and on record; the crew deals with them once every phone has heard of it. */
  found: { kind: 'boxes' | 'breakers'; id: string; take: () => void }[]
  roomId: string
  leverOf(breakerId: string): Lever
  /** Everyone is reachable and puts things back. */
  calm: boolean
  focus: Focus
  habits: { [K in Habit]: number }
  events: { [K in Event]: number }
  counts: {
    touches: number
    commands: number
    refused: number
    granted: number
    offlineTouches: number
    moments: number
    proofs: number
    /** Proofs that a fact ended although nothing was live in their box since they were made. */
    inVain: number
  }
}

const positionOf = ({ position }: RequiredPair) => JSON.stringify(position)

/** One person with hands, a meter and a phone, who does what the phone allows and nothing else. */
export class Crew {
  phone: Phone
  present = true
  /** Signed off, not just gone. */
  left = false
  at: string | null = null
  task: Task | null = null
  /** When this person last made or watched a whole test of a box. */
  seen = new Map<string, { from: number; until: number; own: boolean }>()
  probing: string | null = null
  /** The next question arrives, and the network is gone before the answer. */
  cutNext = false
  /** The next answers are slow: the question is out, the phone has a connection and does not know yet. */
  slowAnswers = 0
  /** Boxes somebody called out to be live, while this person's phone could not say so. */
  heard = new Set<string>()
  /** Did something on a mate's phone that the own one has not heard of: the own one is not believed until it has. */
  ahead = false
  /** Something on a mate's phone is still on its way. */
  onOther = false
  calledHome = false
  /** On the way out: nobody's story holds this person up. */
  leaving = false
  /** The tag of a lock that hangs and of which no answer has come yet. */
  readonly hanging = new Set<string>()
  constructor(
    private readonly stage: Stage,
    public actor: Actor,
    readonly meter: Meter,
    readonly spare: Meter,
    readonly fine: Meter,
  ) {
    this.phone = new Phone(stage.record)
  }
  get id() {
    return this.actor.personId
  }
  get vantage() {
    return { ...atServer(isoAt(this.stage.world.now), proofLimitMinutes), outcomeUnknown: this.phone.outcomeUnknown }
  }

  // What the phone says.
  mayTouch(name: string): boolean {
    const { phone, stage, actor } = this
    if (!phone.alive || this.heard.has(name) || this.ahead) return false
    const boxId = stage.boxId.get(name)!
    // A conductor in plain sight that the phone does not list was tested by nobody.
    const shown = phone.state.boxes[boxId]
    if (!shown) return false
    const listed = new Set(shown.conductors.map((conductor) => conductor.letter))
    if (stage.world.boxes.get(name)!.conductors.some((conductor) => !conductor.hidden && !listed.has(conductor.letter))) return false
    const answer: Answer =
      phone.online && !phone.here
        ? canTouch(phone.known, boxId, actor, this.vantage)
        : canTouchOffline(phone.known, phone.state, boxId, actor, this.vantage)
    return answer.yes
  }

  /** Hands out as soon as the phone takes its yes back, or says nothing at all. Read at this person's own pace. */
  /** Where there is a connection again. */
  back: () => void = () => undefined
  reflex(): void {
    const inside = this.stage.world.hands.get(this.id)
    if (inside !== undefined && !this.mayTouch(inside)) this.handsOut()
  }
  handsOut(): void {
    this.stage.world.hands.delete(this.id)
  }
  private handsIn(name: string): void {
    const { world, counts } = this.stage
    const seen = this.seen.get(name)
    const box = world.boxes.get(name)!
    world.hands.set(this.id, name)
    counts.touches++
    if (!this.phone.online) counts.offlineTouches++
    if (!this.phone.online && seen && !seen.own) world.harm('without network on a mate’s test', `${this.id} in ${name}`)
    if (!seen || seen.until < box.lastLive)
      world.harm('hands in a box whose test this person has not seen since it was last live', `${this.id} in ${name}`)
    else if (world.now - seen.until > proofLimitMinutes * 60 + 60)
      world.harm('hands in a box on a test that is too old', `${this.id} in ${name}`)
    const licensedEyes = this.stage.people.some((one) => one.actor.licensed && (one.seen.get(name)?.until ?? -1) >= box.lastLive)
    if (!this.actor.licensed && !licensedEyes)
      world.harm('an apprentice’s hands in a box no licensed person has seen tested', `${this.id} in ${name}`)
    if (this.phone.state.stop) world.harm('hands in a box while the own phone says that work is stopped', `${this.id} in ${name}`)
    const locks = [...world.levers.values()].flatMap((lever) => lever.locks).filter((lock) => lock.owner === this.id && !lock.company)
    if (locks.length === 0) world.harm('hands in a box without a lock or tag of one’s own', `${this.id} in ${name}`)
    else if (!locks.some((lock) => lock.tagId in this.stage.record.state.tags))
      world.harm('hands in a box on a tag the server has not heard of', `${this.id} in ${name}`)
    else if (!locks.some((lock) => this.stage.record.state.tags[lock.tagId]?.suspendedFor === null))
      world.harm('hands in a box on a tag one has said clear about', `${this.id} in ${name}`)
    else if (locks.every((lock) => lock.beaten)) world.harm('hands in a box on a lock that had not held', `${this.id} in ${name}`)
    if (Object.values(this.phone.state.signs).some((sign) => sign.boxId === this.stage.boxId.get(name)))
      world.harm('hands in a box where voltage was seen that nobody has explained', `${this.id} in ${name}`)
    if (box.partedLive && !box.partedTested && this.here(name).parted.some((part) => !part.tested))
      world.harm('hands in a box with an untested parted neutral', `${this.id} in ${name}`)
    for (const other of this.stage.people)
      if (other !== this && other.probing === name) world.harm('hands in a box where a mate probes live', `${this.id} in ${name}`)
    world.look()
  }

  /** Sends one command over a line that loses questions and answers. Yields while it waits; null: no answer to be had. */
  *say(command: Loose<SiteCommand>, options: { phone?: Phone } = {}): Generator<void, Outcome | null, void> {
    const phone = options.phone ?? this.phone
    if (!phone.alive) return null
    if (phone !== this.phone) {
      this.ahead = this.onOther = true
      const outcome = yield* this.send(command, phone)
      this.onOther = false
      return outcome
    }
    return yield* this.send(command, phone)
  }
  private *send(command: Loose<SiteCommand>, phone: Phone): Generator<void, Outcome | null, void> {
    const { record, world, counts } = this.stage
    const envelope: Envelope = {
      id: record.id(),
      actor: this.actor,
      basedOnSeq: phone.known.understoodSeq,
      command: command as SiteCommand,
      givenAt: world.now,
    }
    counts.commands++
    if (phone.online && givesUpTypes.has(command.type)) phone.outcomeUnknown = true
    const queues = siteStream.commands.get(command.type)!.rules.queues === true && phone === this.phone
    // Whoever gets no answer taps again: the same words go out as they were.
    for (let tries = 0; tries < 40 && phone.alive; tries++) {
      const steps = submitCommand(queues, () => phone.line)
      let step = steps.next()
      while (!step.done) {
        switch (step.value.do) {
          case 'keep':
            step = steps.next(phone.keep(envelope))
            break
          case 'sendQueued':
            this.sendQueued(phone)
            step = steps.next()
            break
          case 'send':
            step = steps.next(yield* this.deliver(envelope, phone))
            break
          case 'outcomeUnknown':
            phone.outcomeUnknown = true
            step = steps.next()
        }
      }
      const submission = step.value
      if (submission.is === 'queued')
        return { status: 'accepted', commandId: envelope.id, stream: 'site', streamId: 'site', seq: 0, eventTypes: [] }
      if (submission.is === 'outcome') {
        if (submission.outcome.status === 'refused') counts.refused++
        phone.receive()
        return submission.outcome
      }
      // Forbidden already here, and said so.
      if (!submission.awaitingOutcome && submission.refusal.code !== 'catchingUp') return null
      if (!phone.online) return null
      yield
    }
    return null
  }
  /** One command over the line: it or its answer may be lost, it may arrive twice, the answer may take its time. */
  private *deliver(envelope: Envelope, phone: Phone): Generator<void, Reply, void> {
    const { record, world, chance } = this.stage
    const unreachable = { is: 'unreachable' as const, refusal: { code: 'offline', reasons: [], toYes: [] } }
    const fate = phone.online ? chance.weighed({ through: 84, lostQuestion: 5, lostAnswer: 6, twice: 5 }) : 'lostQuestion'
    if (fate === 'lostQuestion') return unreachable
    let outcome = record.give(envelope, world.now)
    if (fate === 'twice') outcome = record.give(envelope, world.now)
    while (this.slowAnswers > 0) {
      this.slowAnswers--
      yield
    }
    if (this.cutNext) {
      this.cutNext = false
      phone.online = false
      return unreachable
    }
    return fate === 'lostAnswer' || !phone.alive ? unreachable : { is: 'outcome', outcome }
  }
  /** What waited on this phone goes out, where it has a line. */
  sendQueued(phone = this.phone): void {
    const { record, world, chance, boxId } = this.stage
    phone.sendQueued((envelope) => {
      if (!phone.online || chance.is(0.05)) return { is: 'unreachable' }
      const outcome = record.give(envelope, world.now)
      if (chance.is(0.1)) record.give(envelope, world.now)
      const { command } = envelope
      if (command.type === 'openBox' || command.type === 'recordConductors')
        for (const box of world.boxes.values()) if (boxId.get(box.name) === command.boxId && box.plate === 'off') box.plateSaid = true
      if (chance.is(0.05)) return { is: 'unreachable' }
      return outcome.status === 'refused' ? { is: 'refused', refusal: outcome.refusal } : { is: 'taken' }
    })
    phone.receive()
    if (phone === this.phone && phone.outbox.length === 0) this.countLocks()
  }
  /** A tag counts once its owner knows that the server took it; one that was refused comes off. */
  countLocks(): void {
    const { record, world } = this.stage
    for (const lever of world.levers.values())
      for (const lock of [...lever.locks]) {
        if (lock.owner !== this.id || this.hanging.has(lock.tagId)) continue
        const tag = record.state.tags[lock.tagId]
        if (!tag || (tag.suspendedFor !== null && !lock.counted)) world.unhang(lock.tagId)
        else if (tag.suspendedFor === null) lock.counted = true
      }
  }
  private ok(outcome: Outcome | null): boolean {
    return outcome?.status === 'accepted'
  }
  private box(name: string): WorldBox {
    return this.stage.world.boxes.get(name)!
  }
  private here(name: string) {
    return this.phone.state.boxes[this.stage.boxId.get(name)!]!
  }

  // What a person does.
  *openLever(name: string): Task {
    const { world, breakerId } = this.stage
    // A lever the own phone has not heard of is nobody's to move for the record.
    if (!this.phone.state.breakers[breakerId.get(name)!]) return
    const lever = world.levers.get(name)!
    const wasClosed = lever.closed
    const wasTripped = lever.tripped
    if (!world.open(name)) return
    // The walk from the panel to where the phone works.
    const before = this.phone.known.breakers[breakerId.get(name)!]!.energisedSeq
    for (let walk = this.stage.chance.int(3); walk > 0; walk--) yield
    // Something happened to this breaker meanwhile: look again instead of telling an old story.
    if (this.phone.known.breakers[breakerId.get(name)!]!.energisedSeq > before) return void (yield* this.inspect(name))
    if (wasTripped) yield* this.say({ type: 'observeBreaker', breakerId: breakerId.get(name)!, state: 'tripped', how: 'found', note: '' })
    yield* this.say({ type: 'observeBreaker', breakerId: breakerId.get(name)!, state: 'open', how: wasClosed ? 'did' : 'found', note: '' })
  }

  /** Looks at a lever and says what it sees when the phone says otherwise. */
  *inspect(name: string): Task {
    const { world, breakerId } = this.stage
    const lever = world.levers.get(name)!
    const id = breakerId.get(name)!
    if (!this.phone.state.breakers[id]) return
    const said = this.phone.state.breakers[id].state
    const real = lever.closed ? 'closed' : lever.tripped ? 'tripped' : 'open'
    if (said !== real) yield* this.say({ type: 'observeBreaker', breakerId: id, state: real, how: 'found', note: '' })
  }

  *hangTag(name: string, company = false): Task {
    const { world, record, chance, breakerId } = this.stage
    const lever = world.levers.get(name)!
    const id = breakerId.get(name)!
    const said = canTag(this.phone.state, id, this.actor)
    if (!said.yes) return
    // The phone says open, the eye says closed: that is news, not a place for a lock.
    if (this.phone.state.breakers[id]!.state === 'open' && lever.closed) return void (yield* this.inspect(name))
    const tagId = record.id()
    const kind = company || chance.is(0.6) ? ('lock' as const) : ('measure' as const)
    const lock: Lock = { tagId, owner: this.id, kind, company, counted: false }
    world.hang(name, lock)
    this.hanging.add(tagId)
    yield
    // Whoever says that it hangs is looking at it.
    lock.beaten = false
    const outcome = yield* this.say({
      type: 'hangTag',
      tagId,
      breakerId: id,
      lock: kind === 'lock' ? `lock ${tagId}` : '',
      measure: kind === 'lock' ? '' : 'panel door locked',
      company,
      notice: company ? 'crew comes back' : '',
    })
    this.hanging.delete(tagId)
    // What is kept on the phone counts once the server has it.
    if (this.ok(outcome) && outcome!.seq === 0) return void (this.phone.outbox.length === 0 && this.countLocks())
    if (this.ok(outcome)) lock.counted = this.phone.online
    // No answer: the lock stays until one knows.
    else if (outcome) world.unhang(tagId)
  }

  *takeTagsOff(only?: string): Task {
    this.handsOut()
    const device = this.device()
    if (!device) return
    for (const tag of Object.values(device.state.tags).filter((candidate) => candidate.personId === this.id && !candidate.company)) {
      if (only && tag.breakerId !== only) continue
      this.letGo(tag.id)
      if (this.ok(yield* this.say({ type: 'removeTag', tagId: tag.id }, { phone: device }))) this.stage.world.unhang(tag.id)
    }
  }
  /** From here on its owner counts on this lock no more, whatever becomes of the message. */
  private letGo(tagId: string): void {
    for (const lever of this.stage.world.levers.values()) for (const lock of lever.locks) if (lock.tagId === tagId) lock.counted = false
  }
  /** The own phone, or a mate's with the own PIN when it is dead. */
  private device(): Phone | null {
    if (this.phone.alive && (this.phone.online || this.phone.outbox.length > 0)) return this.phone
    return (
      this.stage.people.find((mate) => mate.present && mate.phone.alive && mate.phone.online && mate.phone.outbox.length === 0)?.phone ??
      null
    )
  }

  /** Opens and tags what the phone says feeds this box. */
  *isolate(name: string): Task {
    const { breakerId, chance } = this.stage
    const atTheMains = chance.is(0.2)
    for (let rounds = 0; rounds < 8; rounds++) {
      if (isIsolatedFor(this.phone.state, this.here(name), this.id).yes) return
      const site = this.phone.state
      const box = this.here(name)
      const ids =
        box.breakerIds.length && !box.unknownFeed && !atTheMains
          ? [...new Set([...box.breakerIds, ...site.neutralTies.filter((tie) => tie.some((id) => box.breakerIds.includes(id))).flat()])]
          : Object.values(site.breakers).flatMap((breaker) => (breaker.role === 'main' ? breaker.id : []))
      const mine = (id: string) =>
        Object.values(site.tags).some((tag) => tag.breakerId === id && tag.personId === this.id && !tag.company && holds(tag))
      const isCut = (id: string) => site.breakers[id]!.state === 'open' && mine(id)
      // What else the app asks for: a panel whose feed nobody knows any more is cut by its own breakers alone.
      const asked = uncutFeeds(site, box, ({ id }) => isCut(id)).flatMap(({ breaker }) => breaker?.id ?? [])
      const next = ids.find((id) => !isCut(id)) ?? asked[0]
      if (!next) return
      // A point that was recorded a moment ago, and that nobody has shown this person yet.
      const lever = [...breakerId].find(([, id]) => id === next)?.[0]
      if (!lever) return
      if (site.breakers[next]!.state !== 'open') yield* this.openLever(lever)
      const hung = Object.values(this.phone.state.tags).find(
        (tag) => tag.breakerId === next && tag.personId === this.id && !tag.company && !holds(tag),
      )
      if (hung) yield* this.rehang(hung.id, lever)
      else yield* this.hangTag(lever, chance.is(0.05))
      yield
    }
  }

  *rehang(tagId: string, lever: string): Task {
    const { world } = this.stage
    const real = world.levers.get(lever)!
    const said = this.phone.state.breakers[this.stage.breakerId.get(lever)!]!.state
    if (said === 'open' && real.closed) return void (yield* this.inspect(lever))
    const lock = { tagId, owner: this.id, kind: 'lock' as const, company: false, counted: false }
    const hang = () => {
      if (!real.locks.some((one) => one.tagId === tagId)) world.hang(lever, lock)
    }
    // On an open lever the lock goes on first; on a closed one only if the app asks for it.
    if (!real.closed) hang()
    // A note that did not hold is looked at; a lock goes on in its place.
    const beaten = real.locks.find((one) => one.tagId === tagId)
    if (beaten) beaten.beaten = false
    const outcome = yield* this.say({ type: 'rehangTag', tagId, cause: 'somebody had closed it; a lock hangs now' })
    if (this.ok(outcome)) {
      hang()
      for (const one of real.locks) if (one.tagId === tagId) one.counted = true
    } else if (outcome) world.unhang(tagId)
  }

  /** The whole absence-of-voltage test, with a real meter on real conductors. */
  *prove(name: string, carefully = false): Task {
    const { world, record, chance, boxId, people } = this.stage
    // Nobody starts a test over a mate's hands.
    for (const [who, where] of world.hands) if (where === name && who !== this.id) return
    const real = this.box(name)
    const shown = real.conductors.filter((conductor) => !conductor.hidden)
    // Somebody may be closing a breaker right now: plates stay on.
    if (Object.keys(this.phone.known.grants).length > 0) return
    if (!this.phone.alive) return
    const wasOn = real.plate !== 'off'
    real.plate = 'off'
    const known = this.here(name)
    if (known.conductors.length !== shown.length)
      yield* this.say({
        type: 'recordConductors',
        boxId: boxId.get(name)!,
        conductors: shown.map(({ letter }) => ({ letter, colour: 'unknown', gaugeAwg: null, areaMm2: null, cable: '', course: 'ends' })),
      })
    else if (known.closure !== 'opened' || wasOn) yield* this.say({ type: 'openBox', boxId: boxId.get(name)! })
    if (this.stage.record.state.boxes[boxId.get(name)!]!.closure === 'opened') real.plateSaid = true
    const meter = carefully ? this.fine : chance.is(0.92) ? this.meter : this.spare
    const proofId = record.id()
    const began = world.now
    const live = Object.values(this.phone.state.breakers).filter((breaker) => breaker.state === 'closed' && breaker.role === 'branch')
    const socket = !carefully && live.length > 0 && chance.is(0.2) ? this.stage.leverOf(chance.pick(live).id).name : null
    const first = socket ? world.readSocket(meter, socket) : world.readProvingUnit(meter)
    const started = yield* this.say({
      type: 'startProof',
      proofId,
      boxId: boxId.get(name)!,
      instrumentId: meter.id,
      source: socket
        ? { kind: 'breaker', breakerId: this.stage.breakerId.get(socket)!, name: 'socket' }
        : { kind: 'provingUnit', name: 'unit' },
      volts: first,
    })
    if (!this.ok(started)) {
      if (started?.status === 'refused' && started.refusal.code === 'causeMissing') yield* this.explain()
      return
    }
    yield
    const reference = carefully
      ? 'wanderLead'
      : real.ground !== 'broken' || chance.is(0.5)
        ? chance.is(0.7)
          ? 'boxGround'
          : 'wanderLead'
        : 'boxGround'
    const groundLetter = shown.find((conductor) => conductor.from === null && !conductor.neutral)?.letter ?? null
    const kind = reference === 'boxGround' && !groundLetter ? 'wanderLead' : reference
    if (!this.ok(yield* this.seeReference(meter, name, proofId, kind, groundLetter, false))) return void (yield* this.giveUp(proofId))
    let looks = 0
    for (let guard = 0; guard < 300; guard++) {
      const site = this.phone.state
      const proof = site.proofs[proofId]
      if (!proof || proof.status === 'void') return
      if (proof.status === 'living') break
      // Done as soon as the app says so: a person does what it asks for and no more.
      if (chance.is(0.05)) {
        const again = this.meterOnSource(meter, socket)
        this.seen.set(name, { from: began, until: world.now, own: true })
        if (this.ok(yield* this.say({ type: 'finishProof', proofId, volts: again }))) {
          if ((this.phone.state.proofs[proofId]?.recheckVolts ?? null) !== null) return void (yield* this.recheck(meter, proofId))
          break
        }
      }
      const open = pairStatuses(site, this.here(name), proof).filter((pair) => !isSettled(pair))
      const todo = open.filter((pair) => positionOf(pair) === positionOf(open[0]!))
      if (todo.length === 0) {
        if (proof.referenceSeenAgain) {
          const again = this.meterOnSource(meter, socket)
          this.seen.set(name, { from: began, until: world.now, own: true })
          if (!this.ok(yield* this.say({ type: 'finishProof', proofId, volts: again }))) return void (yield* this.giveUp(proofId))
          if ((this.phone.state.proofs[proofId]?.recheckVolts ?? null) !== null) return void (yield* this.recheck(meter, proofId))
          break
        }
        if (++looks > 2 || !this.ok(yield* this.seeReference(meter, name, proofId, kind, groundLetter, true)))
          return void (yield* this.giveUp(proofId))
        continue
      }
      // A mate may have thrown the far switch in the meantime: it is put so for each reading.
      const { position } = todo[0]!
      if (position.length) real.far = position[0]!.side
      const lowRange = meter.range === 'twoPole' ? ('steps' as const) : ('low' as const)
      const low = meter.range !== 'high' && (meter.range !== 'both' || todo.some((pair) => pair.status === 'repeatLow') || chance.is(0.7))
      if (low && todo.length > 2 && chance.is(0.9)) {
        const volts = Math.max(...todo.map((pair) => world.read(meter, name, pair.a, pair.b, kind, lowRange)))
        if (volts < 1) {
          yield* this.say({
            type: 'sweepReadings',
            proofId,
            pairs: todo.map(({ a, b }) => ({ a, b })),
            position,
            impedance: lowRange,
            highestVolts: volts,
          })
          continue
        }
      }
      const pair = todo[0]!
      const impedance = low ? lowRange : 'high'
      const volts = world.read(meter, name, pair.a, pair.b, kind, impedance)
      const shifted = impedance === 'low' && volts >= 1 && volts <= 10 && pair.b === 'REF'
      const neutral = shifted ? { toReference: world.shiftVolts, toConductor: world.readToNeutral(meter, name, pair.a) } : null
      if (!this.ok(yield* this.say({ type: 'takeReading', proofId, a: pair.a, b: pair.b, position, impedance, volts, neutral })))
        return void (yield* this.giveUp(proofId))
      // A meter without low impedance clears nothing.
      if (impedance === 'high' && volts >= 1 && meter.range === 'high') return void (yield* this.giveUp(proofId))
      yield
    }
    if (this.phone.state.proofs[proofId]?.status !== 'living') return
    if (real.ground !== 'good' && kind === 'boxGround' && world.isLive(name))
      world.harm('a test counted although its reference was no earth', this.id)
    // A mate's plain word may have made one forget what one saw.
    const until = this.seen.get(name)?.until
    if (until === undefined) return
    if (first < 50) world.harm('a test counted although its tester was not seen to work first', this.id)
    // Whoever stands here has watched; they say so on their own phone.
    for (const mate of people) {
      if (mate === this || !mate.present || mate.at !== name || mate.task) continue
      // What one tested oneself and what has not been live since is not forgotten for a mate's test.
      const known = mate.seen.get(name)
      if (known?.own && known.until >= real.lastLive) continue
      mate.seen.set(name, { from: began, until, own: false })
      mate.task = mate.witness(proofId)
    }
  }
  private meterOnSource(meter: Meter, socket: string | null): number {
    return socket ? this.stage.world.readSocket(meter, socket) : this.stage.world.readProvingUnit(meter)
  }
  /** Sees the reference good: at a live point if the meter loads it and the record has one, else by continuity. */
  *seeReference(
    meter: Meter,
    name: string,
    proofId: string,
    reference: 'boxGround' | 'wanderLead',
    groundLetter: string | null,
    again: boolean,
  ): Generator<void, Outcome | null, void> {
    const { world, chance } = this.stage
    const site = this.phone.state
    const points = Object.values(site.breakers).filter(
      (breaker) => breaker.state === 'closed' && breaker.role === 'branch' && isKnownLive(site, breaker),
    )
    const point = meter.range !== 'high' && points.length && chance.is(0.7) ? chance.pick(points) : null
    const lever = point ? point.number : null
    const letter = reference === 'boxGround' ? groundLetter : null
    return yield* this.say({
      type: 'seeReference',
      proofId,
      reference,
      letter,
      again,
      seen: lever
        ? { kind: 'livePoint', breakerId: point!.id, name: 'socket', ...world.readLivePoint(meter, name, reference, lever) }
        : { kind: 'continuity', ohms: world.readEarth(name, reference), leadOhms: 0.2 },
    })
  }
  /** The tester was off: once more on another unit. */
  *recheck(meter: Meter, proofId: string): Task {
    yield* this.say({
      type: 'recheckTester',
      proofId,
      source: { kind: 'provingUnit', name: 'second unit' },
      volts: this.stage.world.readProvingUnit(meter),
    })
  }

  /** Voltage where none should be: looks for the feed, and says what it was. */
  *explain(): Task {
    const { world, chance, boxId, breakerId } = this.stage
    if (!this.phone.alive || !this.phone.online || this.phone.outbox.length > 0) return
    for (const sign of Object.values(this.phone.known.signs)) {
      const name = [...boxId].find(([, id]) => id === sign.boxId)?.[0]
      // A box that was found just now, and that the crew has not heard of.
      if (!name) continue
      const real = this.box(name)
      const record = (cause: SignCause) => this.say({ type: 'recordCause', signSeq: sign.seq, cause })
      // The same pair once more, right after: by the same person with the same meter.
      if (sign.pair && sign.personId === this.id && this.meter.range === 'both' && chance.is(0.7)) {
        const volts = world.read(this.meter, name, sign.pair.a, sign.pair.b, 'wanderLead', 'low')
        if (volts < 1 && (sign.impedance === 'high' || sign.instrumentId === this.meter.id)) {
          const kind = sign.impedance === 'high' ? ('ghost' as const) : ('mistyped' as const)
          // One does not call a reading that was right mistyped.
          if (kind === 'ghost' || !world.isLive(name)) {
            if (this.ok(yield* record({ kind, again: { volts, impedance: 'low', instrumentId: this.meter.id } }))) continue
          }
        }
      }
      // With light and time one finds what feeds it: a lever, a timer, or nothing at all.
      const timer = real.conductors.find((conductor) => conductor.timer === 'on' || conductor.timer === 'off')
      const lever = real.conductors.map((conductor) => conductor.from).find((from) => from !== null && world.isFed(from))
      yield
      if (!(sign.seq in this.phone.known.signs)) continue
      if (timer && this.actor.licensed && chance.is(0.6)) {
        timer.timer = 'defeated'
        yield* record({ kind: 'timer', note: 'timer in the attic, lead pulled' })
      } else if (lever && this.actor.licensed && chance.is(0.7)) {
        const id = breakerId.get(lever) ?? (yield* this.findBreaker(lever))
        if (!id) continue
        yield* this.inspect(lever)
        yield* this.openLever(lever)
        const known = this.here(name)
        if (known.breakerIds.includes(id)) yield* record({ kind: 'leverMoved', breakerId: id })
        else {
          const breakerIds = [...known.breakerIds, id]
          const command = {
            type: 'setFeeds' as const,
            boxId: sign.boxId,
            breakerIds,
            unknownFeed: known.unknownFeed,
            basis: 'live while it was closed',
          }
          if (this.ok(yield* this.say(command))) yield* record({ kind: 'secondFeed', breakerId: id })
        }
      } else if (!timer || chance.is(0.3)) yield* record({ kind: 'unknown' })
    }
  }
  /** A lever in the panel that nobody had listed. */
  *findBreaker(lever: string): Generator<void, string | null, void> {
    const { record, breakerId, panelId, world } = this.stage
    const { number } = Object.values(record.state.breakers).find((one) => one.number === lever) ?? {}
    if (number) return null
    const id = record.id()
    const { closed, tripped } = world.levers.get(lever)!
    const state = closed ? ('closed' as const) : tripped ? ('tripped' as const) : ('open' as const)
    const facts = { poles: 1, amps: null, labelAsFound: '', protection: 'unknown' as const, state }
    yield* this.say({ type: 'recordBreaker', breakerId: id, panelId, number: lever, ...facts })
    if (id in record.state.breakers) this.stage.found.push({ kind: 'breakers', id, take: () => breakerId.set(lever, id) })
    return null
  }
  /** Finds a box that nobody had listed, or that a box has a switch elsewhere, and calls it out. */
  *find(callOut: (name: string) => void): Task {
    const { world, record, chance, boxId, breakerId, unlisted, roomId } = this.stage
    const real = unlisted[0]
    if (real && chance.is(0.5)) {
      const id = record.id()
      const feed = real.conductors.flatMap(({ from }) => (from ? (breakerId.get(from) ?? []) : [])).slice(0, 1)
      const breakerIds =
        chance.weighed({ right: 5, unknown: 2, wrong: 1 }) === 'right' ? feed : chance.is(0.5) ? [] : [chance.pick([...breakerId.values()])]
      yield* this.say({ type: 'recordBox', boxId: id, roomId, name: real.name, kind: 'wall', gangs: 1, breakerIds, farBoxIds: [] })
      // Kept on a phone it is no box of the crew's yet.
      if (!(id in record.state.boxes) || !unlisted.includes(real)) return
      unlisted.splice(unlisted.indexOf(real), 1)
      const take = () => {
        world.boxes.set(real.name, real)
        boxId.set(real.name, id)
        world.look()
      }
      this.stage.found.push({ kind: 'boxes', id, take })
      return
    }
    const far = [...world.boxes.values()].filter((box) => box.far && record.state.boxes[boxId.get(box.name)!]!.farBoxIds.length === 0)
    if (far.length === 0) return
    const { name } = chance.pick(far)
    const other = [...boxId].find(([one]) => one !== name)
    if (!other) return
    yield* this.say({ type: 'correctBox', boxId: boxId.get(name)!, farBoxIds: [other[1]] })
    // Told aloud where the record has it; kept on a phone it is told when it arrives, and nobody moves that switch before.
    if (record.state.boxes[boxId.get(name)!]!.farBoxIds.length) for (const one of [name, other[0]]) callOut(one)
  }
  /** Finds where a source of the home is switched off, and says so. */
  *placeSource(): Task {
    const { loose, record, breakerId, panelId } = this.stage
    if (!loose || !this.actor.licensed || !this.phone.online || !this.phone.alive) return
    if (breakerId.has(loose.lever)) return
    const id = record.id()
    yield* this.say({
      type: 'recordSourcePoint',
      sourceId: loose.sourceId,
      breakerId: id,
      number: loose.lever,
      panelId,
      basis: 'followed its cable',
    })
    // Heard or not: what the record has is there for everybody.
    if (id in record.state.breakers) breakerId.set(loose.lever, id)
  }
  /** Takes over what somebody capped and left. */
  *takeGuards(): Task {
    for (const box of Object.values(this.phone.known.boxes))
      if (box.closure === 'guarded' && box.guardedBy && !(box.guardedBy.personId in this.phone.known.onSite)) {
        const name = [...this.stage.boxId].find(([, id]) => id === box.id)![0]
        this.box(name).guard = this.id
        yield* this.say({ type: 'takeOverGuard', boxId: box.id })
      }
  }
  *giveUp(proofId: string): Task {
    yield* this.say({ type: 'abandonProof', proofId, reason: 'starts over' })
  }
  /** Says that one has watched the test of this box. */
  *watched(name: string): Task {
    const { proofId } = this.here(name)
    const proof = proofId ? this.phone.state.proofs[proofId] : undefined
    if (proof?.status !== 'living' || proof.personId === this.id) return
    this.seen.set(name, { from: 0, until: this.stage.world.now, own: false })
    yield* this.witness(proof.id)
  }
  *witness(proofId: string): Task {
    const device = this.device()
    if (device) yield* this.say({ type: 'witnessProof', proofId }, { phone: device })
  }

  /** Reaches in and stays, if the phone allows it. */
  stay(name: string): boolean {
    if (!this.mayTouch(name) || this.box(name).plate !== 'off') return false
    this.handsIn(name)
    return true
  }
  /** Gives an own living proof up, to make another. */
  *giveOwnUp(name: string): Task {
    const { proofId } = this.here(name)
    if (proofId) yield* this.giveUp(proofId)
  }
  /** Work with hands in the box. */
  *work(name: string): Task {
    const { chance, world, record, boxId } = this.stage
    this.at = name
    if (!this.mayTouch(name)) return
    // A plate that is on again is somebody's word that the box is done: the phone is behind.
    if (this.box(name).plate !== 'off') return
    this.handsIn(name)
    for (let turns = chance.int(5); turns >= 0; turns--) {
      yield
      if (world.hands.get(this.id) !== name) return
      const real = this.box(name)
      const hidden = real.conductors.find((conductor) => conductor.hidden)
      if (hidden && chance.is(0.4)) {
        // The device is pulled by its yoke; what comes out behind it is first recorded.
        const letters = [...real.conductors.filter((conductor) => !conductor.hidden || conductor === hidden)]
        const outcome = yield* this.say({
          type: 'recordConductors',
          boxId: boxId.get(name)!,
          conductors: letters.map(({ letter }) => ({
            letter,
            colour: 'unknown',
            gaugeAwg: null,
            areaMm2: null,
            cable: '',
            course: 'ends',
          })),
        })
        if (!this.ok(outcome)) continue
        this.reflex()
        // "Hands out, I pull it": whoever shares the box stands here and hears it.
        for (const mate of this.stage.people) if (mate !== this && world.hands.get(mate.id) === name) mate.handsOut()
        hidden.hidden = false
        world.look()
        continue
      }
      if (real.borrowedFrom && !real.partedLive && chance.is(0.2)) {
        const amps = world.clampAmps(name)
        const partId = record.id()
        const basis =
          chance.is(0.8) || !this.here(name).breakerIds[0]
            ? ({ kind: 'clamp', amps, loadsOn: true } as const)
            : ({ kind: 'partnersOpen', breakerIds: this.here(name).breakerIds.slice(0, 1) } as const)
        if (basis.kind === 'partnersOpen' && amps > 0) continue
        const parted = yield* this.say({ type: 'openNeutral', partId, boxId: boxId.get(name)!, what: 'neutral splice', basis })
        if (!this.ok(parted) || !this.phone.online) continue
        real.partedLive = true
        real.partedTested = false
        world.look()
        this.handsOut()
        yield
        // Called away before the ends are tested: then nobody may reach in.
        if (chance.is(0.4)) return
        const volts = amps > 0 ? 120 : 0
        real.partedTested = true
        const { proofId } = this.here(name)
        const proof = proofId ? this.phone.state.proofs[proofId] : undefined
        yield* this.say({
          type: 'testParted',
          partId,
          instrumentId: proof?.instrumentId ?? this.meter.id,
          voltsHere: 0,
          voltsAway: volts,
          testerVolts: proof?.sourceVolts ?? 0,
        })
        return
      }
    }
    this.handsOut()
    if (!chance.is(0.35)) return
    yield* this.closeUp(name)
    if (chance.is(0.4)) yield* this.backToPower(name)
  }
  /** What the phone says next once the plate is on: the own tag off, leave, closed. */
  *backToPower(name: string): Task {
    for (const breakerId of this.here(name).breakerIds) {
      yield* this.takeTagsOff(breakerId)
      yield
      yield* this.close(this.stage.leverOf(breakerId).name)
    }
  }
  *closeUp(name: string): Task {
    this.handsOut()
    // Nobody screws a plate on over a mate's hands.
    for (const [who, where] of this.stage.world.hands) if (where === name && who !== this.id) return
    // The plate goes on, then it is said; what is said may be refused or lost, the plate is on all the same.
    const real = this.box(name)
    real.plate = 'on'
    real.plateSaid = false
    real.partedLive = false
    real.partedTested = false
    yield* this.say({ type: 'closeBox', boxId: this.stage.boxId.get(name)! })
  }
  *guard(name: string): Task {
    this.handsOut()
    if (!this.mayTouch(name)) return
    this.box(name).plate = 'guarded'
    this.box(name).guard = this.id
    this.box(name).plateSaid = false
    yield* this.say({ type: 'makeSafe', boxId: this.stage.boxId.get(name)!, how: 'ends capped' })
  }
  *openBox(name: string): Task {
    const real = this.box(name)
    if (real.plate === 'off' || !this.phone.alive) return
    real.plate = 'off'
    if (this.ok(yield* this.say({ type: 'openBox', boxId: this.stage.boxId.get(name)! })) && this.phone.online) real.plateSaid = true
  }

  /** Asks for leave, moves the lever, answers. */
  *close(name: string, clearanceId: string | null = null): Task {
    const { world, record, breakerId, counts } = this.stage
    const id = breakerId.get(name)!
    if (!this.phone.online || this.phone.outbox.length > 0) return
    if (!clearanceId && !canClose(this.phone.known, id, this.actor).yes) return
    const grantId = record.id()
    const plates = [...world.boxes.values()].filter((box) => box.plate === 'off' && box.plateSaid)
    if (!this.ok(yield* this.say({ type: 'requestClose', grantId, breakerId: id, clearanceId }))) return
    counts.granted++
    yield
    if (!this.stage.calm && this.stage.chance.is(0.12)) return void (yield* this.answer(grantId, 'givenUp'))
    const permit = this.phone.known.grants[grantId]
    // Only the record as it is now says that the permit still stands; without a line nobody closes.
    const alarmed = Object.values(this.phone.known.alarms).some((alarm) => alarm.personId === this.id)
    if (alarmed) yield* this.stopped()
    if (
      alarmed ||
      !this.phone.online ||
      !permit ||
      (permit.expiresAt !== null && Date.parse(permit.expiresAt) < Date.parse(this.vantage.now))
    ) {
      if (permit) yield* this.answer(grantId, 'givenUp')
      return
    }
    const lever = world.levers.get(name)!
    for (const lock of lever.locks)
      if (lock.counted)
        world.harm('the program let somebody close a lever with a counted tag on it', `${this.id} on ${name}, tag of ${lock.owner}`)
    const capped = [...world.boxes.values()].filter((box) => box.plate === 'guarded' && !world.isLive(box.name))
    const quiet = plates.filter((box) => box.plate === 'off' && !world.isLive(box.name))
    const result = world.close(name)
    lever.byLeave = result === 'closed'
    if (result === 'blocked') return void (yield* this.answer(grantId, 'givenUp'))
    if (result === 'closed')
      for (const box of capped) {
        const guard = this.stage.people.find((one) => one.id === box.guard)
        const known = this.stage.record.state.boxes[this.stage.boxId.get(box.name)!]!
        if (guard?.left && !this.stage.calm && known.breakerIds.includes(id) && known.closure === 'guarded' && world.isLive(box.name))
          world.harm('capped ends were put under power and whoever guards them is gone', `${this.id} on ${name}: ${box.name}`)
      }
    if (result === 'closed' && !clearanceId) {
      for (const box of quiet) {
        const known = this.stage.record.state.boxes[this.stage.boxId.get(box.name)!]!
        const levers = [...breakerId].filter(([, one]) => known.breakerIds.includes(one)).map(([lever]) => lever)
        const byRecord = known.unknownFeed || levers.length === 0 ? null : levers
        if (world.isLive(box.name, byRecord)) world.harm('an open box was put under power', `${this.id} on ${name}: ${box.name}`)
      }
    }
    yield
    if (result === 'tripped') {
      yield* this.answer(grantId, 'closed')
      yield* this.say({ type: 'observeBreaker', breakerId: id, state: 'tripped', how: 'found', note: '' })
    } else yield* this.answer(grantId, 'closed')
  }
  *answer(grantId: string, answer: 'closed' | 'givenUp'): Task {
    for (let tries = 0; tries < 5; tries++) {
      const device = this.device()
      if (device) {
        const outcome = yield* this.say({ type: 'answerPermit', grantId, answer }, { phone: device })
        if (outcome) return
      }
      yield
    }
  }

  *findCause(name: string): Task {
    const lever = this.stage.world.levers.get(name)!
    lever.fault = false
    yield* this.say({ type: 'recordTripCause', breakerId: this.stage.breakerId.get(name)!, cause: 'nicked conductor taped' })
  }

  /** Power for a moment: everyone says clear, tags come off, on, look, off. */
  *moment(name: string): Task {
    const { world, record, breakerId, chance, counts } = this.stage
    const id = breakerId.get(name)!
    if (!this.phone.online || this.phone.state.breakers[id]!.state !== 'open') return
    const askId = record.id()
    if (!this.ok(yield* this.say({ type: 'askEnergise', askId, breakerId: id, boxId: null, purpose: 'identify', note: '' }))) return
    for (let waits = 0; waits < 60; waits++) {
      const ask = this.phone.known.asks[askId]
      if (!ask) return
      if (!ask.clear.some((person) => person.personId === this.id)) yield* this.sayClear(askId, name)
      if (canEnergise(this.phone.known, askId, this.actor).yes) break
      if (chance.is(0.04)) break
      yield
    }
    if (!canEnergise(this.phone.known, askId, this.actor).yes) return void (yield* this.say({ type: 'withdrawAsk', askId }))
    counts.moments++
    yield* this.close(name, askId)
    if (world.levers.get(name)!.closed) {
      yield
      yield* this.openLever(name)
    }
  }
  *sayClear(askId: string, lever: string): Task {
    const { world, breakerId } = this.stage
    this.handsOut()
    const device = this.device()
    if (!device) return
    for (const tag of Object.values(this.stage.record.state.tags))
      if (tag.personId === this.id && tag.breakerId === breakerId.get(lever)) this.letGo(tag.id)
    if (!this.ok(yield* this.say({ type: 'confirmClear', askId }, { phone: device }))) return
    for (const tag of Object.values(this.stage.record.state.tags))
      if (tag.personId === this.id && tag.breakerId === breakerId.get(lever) && tag.suspendedFor === askId) world.unhang(tag.id)
  }

  /** Stops everybody, and lets them go on. */
  *halt(): Task {
    yield* this.say({ type: 'stopWork', stopId: this.stage.record.id() })
  }
  *goOn(): Task {
    const { stop } = this.phone.state
    if (stop && (stop.personId === this.id || this.actor.role === 'lead'))
      yield* this.say({ type: 'endStop', stopId: stop.id, note: 'looked at together' })
  }

  *measure(name: string): Task {
    const { record, boxId, chance, people, world } = this.stage
    const measureId = record.id()
    const mates = people.filter((mate) => mate !== this && mate.present)
    const warn = chance.is(0.7) ? mates.slice(0, 1) : []
    if (this.box(name).plate === 'on' || !this.phone.online) return
    yield* this.say({ type: 'startMeasuring', measureId, boxId: boxId.get(name)!, warnedIds: warn.map((mate) => mate.id) })
    if (!canMeasure(this.phone.known, boxId.get(name)!, this.actor, this.vantage).yes || !this.phone.online) return
    // Hands one can see in the box while their phone is silent: the eye is enough.
    if (people.some((mate) => mate !== this && world.hands.get(mate.id) === name && (!mate.phone.online || !mate.phone.alive))) return
    if (!this.actor.licensed) world.harm('live probing without a licence', this.id)
    const announced = Object.values(this.phone.known.measuring).find((entry) => entry.personId === this.id)
    if (!announced?.warnedIds.length && !this.phone.known.solo[this.id]) world.harm('live probing and nobody was warned', this.id)
    for (const [who, where] of world.hands)
      if (where === name) world.harm('live probing in a box with a mate’s hands', `${this.id}, ${who}`)
    if (world.isLive(name)) yield* this.reportLive(name)
    yield* this.say({ type: 'endMeasuring', measureId })
  }

  *leave(): Task {
    const { world } = this.stage
    this.handsOut()
    if (!this.phone.online || !this.phone.alive) return
    this.leaving = true
    const outcome = yield* this.say({ type: 'leaveSite' })
    this.leaving = false
    if (!this.ok(outcome)) return
    this.present = false
    this.left = true
    this.at = null
    for (const lever of world.levers.values())
      for (const lock of lever.locks)
        if (lock.owner === this.id && !lock.company && lock.counted) world.harm('went home with a tag hanging', this.id)
    if (this.stage.people.some((mate) => !mate.left)) return
    for (const box of world.boxes.values()) {
      if (box.plate !== 'off' || !box.plateSaid) continue
      const held = box.conductors.every(
        (conductor) => conductor.hidden || conductor.from === null || this.nightLocked(conductor.from, new Set()),
      )
      const known = this.stage.record.state.boxes[this.stage.boxId.get(box.name)!]!
      const labelled = known.breakerIds.every((id) => this.nightLocked(this.stage.leverOf(id).name, new Set()))
      if (!held && !(labelled && known.breakerIds.length > 0 && !known.unknownFeed)) world.harm('bare ends left for the night', box.name)
    }
  }
  private nightLocked(name: string, seen: Set<string>): boolean {
    const lever = this.stage.world.levers.get(name)!
    if (!lever.closed && lever.locks.some((lock) => lock.company)) return true
    if (seen.has(name) || lever.above.length === 0) return false
    return lever.above.every((upper) => this.nightLocked(upper, new Set(seen).add(name)))
  }

  /** The lead takes off what an absent person left: verified with one's own eyes. */
  *findShared(breakerIds: string[]): Task {
    yield* this.say({ type: 'tieNeutrals', breakerIds, basis: 'one neutral for both' })
  }
  *reportLive(name: string): Task {
    const boxId = this.stage.boxId.get(name)!
    yield* this.say({ type: 'observeLive', boxId, what: 'meter', volts: 120, impedance: 'low', note: '' })
  }
  /** A lamp that burns, a meter that shows: said aloud and in the record. */
  *look(name: string): Task {
    const { world } = this.stage
    if (!world.isLive(name) || this.box(name).plate !== 'off') return
    yield* this.reportLive(name)
  }
  /** Finds a lever off, says so, and would like to have it on again. */
  *tidy(name: string): Task {
    yield* this.inspect(name)
    yield
    yield* this.close(name)
  }
  /** Work where there is no signal. */
  *cellar(name: string): Task {
    const { chance } = this.stage
    this.at = name
    if (chance.is(0.8)) yield* this.isolate(name)
    if (this.stage.calm) return
    this.phone.online = false
    if (chance.is(0.3)) yield* this.isolate(name)
    if (!this.mayTouch(name)) yield* this.prove(name)
    yield* this.work(name)
  }
  *hangAgain(): Task {
    for (const tag of Object.values(this.phone.known.tags))
      if (tag.personId === this.id && !tag.company && !holds(tag)) yield* this.rehang(tag.id, this.stage.leverOf(tag.breakerId).name)
  }
  *goHome(): Task {
    for (const name of this.stage.boxId.keys()) if (this.stage.chance.is(0.5) && this.mayTouch(name)) yield* this.closeUp(name)
    yield* this.takeTagsOff()
    yield* this.leave()
  }
  *unlock(): Task {
    if (!this.phone.online) return
    for (const tag of Object.values(this.phone.known.tags))
      if (tag.company && this.ok(yield* this.say({ type: 'removeTag', tagId: tag.id }))) this.stage.world.unhang(tag.id)
  }
  *override(): Task {
    if (this.actor.role !== 'lead') return
    const { people } = this.stage
    const gone = people.filter((person) => person !== this && !person.present)
    for (const person of gone) {
      if (!(person.id in this.phone.known.people)) continue
      yield* this.say({
        type: 'declareAbsent',
        personId: person.id,
        reason: 'phoned, is at home',
        leftBuildingVerified: true,
        explained: 'seen leaving, answers the phone at home',
      })
    }
  }
  /** Somebody was declared gone: looked for, phoned, and really not here. */
  *confirmGone(): Task {
    const { people, world } = this.stage
    for (const absence of Object.values(this.phone.known.absences)) {
      const person = people.find((one) => one.id === absence.personId)!
      if (person === this || absence.declaredBy.personId === this.id || person.present) continue
      const locks = [...world.levers.values()].flatMap((lever) => lever.locks).filter((lock) => lock.owner === person.id && !lock.company)
      const outcome = yield* this.say({ type: 'confirmAbsent', personId: person.id, household: null })
      // Counts on no lock here any more, whether or not the answer is heard.
      if (!outcome || this.ok(outcome)) for (const lock of locks) this.letGo(lock.tagId)
      if (this.ok(outcome)) for (const lock of locks) if (!(lock.tagId in this.stage.record.state.tags)) world.unhang(lock.tagId)
    }
  }
  /** Alarmed: hands are out, and one says so. */
  *stopped(): Task {
    if (!Object.values(this.stage.record.state.alarms).some((alarm) => alarm.personId === this.id)) return
    this.handsOut()
    const device = this.device()
    if (device) yield* this.say({ type: 'confirmStopped' }, { phone: device })
  }
  /** The phone rings: an alarm that waits for an answer, or a mate who asks to stand clear. Most look at once. */
  summoned(): Task | null {
    const { phone, stage } = this
    if (!phone.alive || !phone.online || phone.outbox.length > 0 || !stage.chance.is(0.4)) return null
    if (Object.values(phone.known.alarms).some((alarm) => alarm.personId === this.id)) return this.stopped()
    const asked = Object.values(phone.known.asks).some(
      (ask) =>
        ask.kind === 'energise' &&
        ask.status === 'asked' &&
        ask.personId !== this.id &&
        notYetClear(phone.known, ask).some((person) => person.personId === this.id),
    )
    return asked ? this.answerAsks() : null
  }
  /** Asked by a mate to stand clear, on the phone or aloud. */
  *answerAsks(): Task {
    const site: SiteState = this.stage.record.state
    for (const ask of Object.values(site.asks)) {
      if (ask.kind !== 'energise' || ask.status !== 'asked' || ask.personId === this.id) continue
      if (!notYetClear(site, ask).some((person) => person.personId === this.id)) continue
      yield* this.sayClear(ask.id, this.stage.leverOf(ask.breakerId).name)
    }
  }
}
