import { atServer, decideSite, emptySite, siteStream, type InstrumentSnapshot, type SiteCommand, type SiteState } from '../index'
import { applyEvent, entriesOf, type Actor, type Outcome, type Refusal, type StreamEvent } from '../../stream'
import { forbiddenHere, sendQueued, showUnsent, takeInto, type Answer, type QueuedCommand, type Line } from '../../stream/client'

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
      ...atServer(isoAt(now), proofLimitMinutes),
      today: isoAt(now).slice(0, 10),
      instrument: this.instrument,
      installedGangs: () => [],
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

/** What a command brings into the world: whatever names it depends on it. */
const makes: { [type: string]: string } = { hangTag: 'tagId', startProof: 'proofId', openNeutral: 'partId', stopWork: 'stopId' }
interface Waiting extends QueuedCommand {
  envelope: Envelope
}
const says = ({ envelope }: Waiting) => JSON.stringify(envelope.command)

/** One phone: the shipped copy, outbox and unsent entries, fed by a connection that loses, repeats and delays. */
export class Phone {
  known: SiteState
  /** The same with unsent entries on top; null when there are none. */
  here: SiteState | null = null
  online = true
  alive = true
  outbox: Waiting[] = []
  /** A question went out, and the connection with it, before an answer came. */
  outcomeUnknown = false

  constructor(private readonly record: Record) {
    this.known = structuredClone(record.state)
  }
  get state(): SiteState {
    return this.here ?? this.known
  }
  get line(): Line {
    return { waiting: this.outbox.length, connected: this.online, live: this.online }
  }
  /** Takes what is new. `odd` plays a broken line: repeats, a gap, a message this version does not understand. */
  receive(odd: 'none' | 'repeat' | 'gap' | 'newer' = 'none'): void {
    if (!this.alive || !this.online) return
    const { log } = this.record
    const fresh = log.slice(this.known.seq)
    const take = (events: StreamEvent[]) => takeInto(siteStream.reducer, this.known, events)
    if (odd === 'repeat') take(log.slice(Math.max(0, this.known.seq - 3), this.known.seq))
    if (odd === 'gap' && fresh.length > 1 && take([fresh[1]!])) throw new Error('A gap was taken for the whole.')
    this.outcomeUnknown = false
    take(odd === 'newer' ? fresh.map((event) => ({ ...event, version: event.version + 1 })) : fresh)
  }
  /** The program is updated: it reads everything again. */
  update(): void {
    this.known = emptySite('site')
    takeInto(siteStream.reducer, this.known, this.record.log)
  }
  /** Keeps a command for later and shows what it makes of the record here. @returns why it is not kept: forbidden already here */
  keep(envelope: Envelope): Refusal | null {
    const { kind } = siteStream.commands.get(envelope.command.type)!.rules
    const forbidden = forbiddenHere(this.decideHere(this.here ?? this.known, envelope), kind === 'fact')
    if (forbidden) return forbidden
    const made = (envelope.command as unknown as { [key: string]: string })[makes[envelope.command.type] ?? '']
    this.outbox.push({ personId: envelope.actor.personId, envelope, makes: made ? [made] : [], state: 'pending', refusal: null })
    this.show(envelope)
    return null
  }
  private decideHere(state: SiteState, envelope: Envelope) {
    const at = isoAt(envelope.givenAt)
    return decideSite(state, envelope.command, {
      actor: envelope.actor,
      onCrew: true,
      onVisit: true,
      everyPair: this.record.everyPair,
      basedOnSeq: state.seq,
      heldMs: 0,
      ...atServer(at, proofLimitMinutes),
      today: at.slice(0, 10),
      instrument: this.record.instrument,
      installedGangs: () => [],
    })
  }
  private show(envelope: Envelope): void {
    this.here ??= structuredClone(this.known)
    const at = isoAt(envelope.givenAt)
    const decision = this.decideHere(this.here, envelope)
    const copy = decision.ok ? { ...decision, events: structuredClone(decision.events) } : decision
    showUnsent(siteStream, this.here, copy, { streamId: 'site', commandId: envelope.id, at, receivedAt: at, actor: envelope.actor })
  }
  /** Sends what waits. What is refused is read by its person and put away. */
  sendQueued(deliver: (envelope: Envelope) => Answer): void {
    const steps = sendQueued(() => this.outbox, says)
    let step = steps.next()
    while (!step.done) {
      const doing = step.value
      if (doing.do === 'deliver') {
        const answers: Answer[] = []
        // The line may break between any two of them.
        for (const { envelope } of doing.entries) {
          answers.push(deliver(envelope))
          if (answers.at(-1)!.is === 'unreachable') break
        }
        step = steps.next(answers)
        continue
      }
      if (doing.do === 'drop') this.outbox = this.outbox.filter((one) => !doing.entries.includes(one))
      else Object.assign(doing.entry, doing.to)
      step = steps.next()
    }
    this.outbox = this.outbox.filter(({ state }) => state === 'pending')
    this.here = null
    for (const { envelope } of this.outbox) this.show(envelope)
  }
}
