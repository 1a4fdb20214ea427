import { decideSite, emptySite, siteStream, type InstrumentSnapshot, type SiteCommand, type SiteState } from '../index'
import { applyEvent, entriesOf, foldEvents, SeqGap, type Actor, type Outcome, type StreamEvent } from '../../stream'

/** How long the record says a proof lasts, minutes. */
export const proofLimitMinutes = 120
const epoch = Date.parse('2026-03-02T08:00:00.000Z')
export const isoAt = (seconds: number) => new Date(epoch + seconds * 1000).toISOString()

/** An event is shared by every phone: a reducer that changed it would be found out at once. */
function frozen<T>(value: T): T {
  if (value !== null && typeof value === 'object') {
    Object.freeze(value)
    for (const part of Object.values(value)) frozen(part)
  }
  return value
}

export interface Envelope {
  id: string
  actor: Actor
  basedOnSeq: number
  command: SiteCommand
  /** World time when the person gave it, s. */
  givenAt: number
}

/** The server of the simulation: decides under one lock, remembers every outcome, keeps the log. */
export class Record {
  readonly state: SiteState
  readonly log: StreamEvent[] = []
  private readonly outcomes = new Map<string, Outcome>()
  private count = 0
  instruments = new Map<string, InstrumentSnapshot>()
  /** The company's rule for dead tests. */
  everyPair = false
  /** Told of every entry before it is folded. */
  before: (event: StreamEvent) => void = () => undefined

  constructor() {
    this.state = emptySite('site')
  }
  id(): string {
    return `01890000-0000-7000-8000-${String(++this.count).padStart(12, '0')}`
  }
  instrument = (id: string): InstrumentSnapshot | null => this.instruments.get(id) ?? null

  give(envelope: Envelope, now: number): Outcome {
    const known = this.outcomes.get(envelope.id)
    if (known) return known
    const decision = decideSite(this.state, envelope.command, {
      actor: envelope.actor,
      onCrew: true,
      onVisit: true,
      everyPair: this.everyPair,
      basedOnSeq: envelope.basedOnSeq,
      heldMs: Math.max(0, (now - envelope.givenAt) * 1000),
      now: isoAt(now),
      today: isoAt(now).slice(0, 10),
      proofLimitMinutes,
      instrument: this.instrument,
    })
    if (decision.ok) {
      const frame = {
        streamId: 'site',
        commandId: envelope.id,
        at: isoAt(envelope.givenAt),
        receivedAt: isoAt(now),
        actor: envelope.actor,
      }
      for (const event of entriesOf(siteStream, this.state.seq, frozen(structuredClone(decision.events)), frame, () => this.id())) {
        this.before(event)
        applyEvent(siteStream.reducer, this.state, event)
        this.log.push(event)
      }
    }
    const base = { commandId: envelope.id, stream: 'site' as const, streamId: 'site', seq: this.state.seq }
    const outcome: Outcome = decision.ok
      ? { status: 'accepted', ...base, eventTypes: decision.events.map((event) => event.type) }
      : { status: 'refused', ...base, refusal: decision.refusal }
    this.outcomes.set(envelope.id, outcome)
    return outcome
  }
}

/** One phone: its own copy of the record, fed by a connection that loses, repeats and delays. */
export class Phone {
  known: SiteState
  /** The same with unsent entries on top; null when there are none. */
  here: SiteState | null = null
  online = true
  alive = true
  outbox: Envelope[] = []
  /** A question went out, and the connection with it, before an answer came. */
  answerLost = false

  constructor(private readonly record: Record) {
    this.known = structuredClone(record.state)
  }
  get state(): SiteState {
    return this.here ?? this.known
  }
  /** Takes what is new. `odd` plays a broken line: repeats, a gap, a message this version does not understand. */
  receive(odd: 'none' | 'repeat' | 'gap' | 'newer' = 'none'): void {
    if (!this.alive || !this.online) return
    const fresh = this.record.log.slice(this.known.seq)
    if (odd === 'repeat') {
      for (const event of this.record.log.slice(Math.max(0, this.known.seq - 3), this.known.seq))
        applyEvent(siteStream.reducer, this.known, event)
    }
    if (odd === 'gap' && fresh.length > 1) {
      try {
        applyEvent(siteStream.reducer, this.known, fresh[1]!)
      } catch (error) {
        if (!(error instanceof SeqGap)) throw error
      }
    }
    this.answerLost = false
    for (const event of fresh)
      applyEvent(siteStream.reducer, this.known, odd === 'newer' ? { ...event, version: event.version + 1 } : event)
  }
  /** The program is updated: it reads everything again. */
  update(): void {
    const { log } = this.record
    this.known = emptySite('site')
    for (const event of log) applyEvent(siteStream.reducer, this.known, event)
  }
  /** Keeps a command for later and shows what it would make of the record here. */
  keep(envelope: Envelope): void {
    this.outbox.push(envelope)
    this.here ??= structuredClone(this.known)
    const decision = decideSite(this.here, envelope.command, {
      actor: envelope.actor,
      onCrew: true,
      onVisit: true,
      everyPair: this.record.everyPair,
      basedOnSeq: this.here.seq,
      heldMs: 0,
      now: isoAt(envelope.givenAt),
      today: isoAt(envelope.givenAt).slice(0, 10),
      proofLimitMinutes,
      instrument: this.record.instrument,
    })
    if (!decision.ok) return
    const at = isoAt(envelope.givenAt)
    const frame = { streamId: 'site', commandId: envelope.id, at, receivedAt: at, actor: envelope.actor }
    foldEvents(
      siteStream.reducer,
      this.here,
      entriesOf(siteStream, this.here.seq, structuredClone(decision.events), frame, () => envelope.id),
    )
  }
}
