import { plainTester } from '../site/lifts'
import { intakeCommands, type JobFile } from '../format'
import { plainModel, type DeviceModel } from '../fit'
import {
  decideJob,
  emptyJob,
  findingsOf,
  installedGangs,
  judgePlan,
  jobStream,
  type JobCommand,
  type JobContext,
  type JobState,
} from '../job'
import {
  atServer,
  decideSite,
  emptySite,
  isSettled,
  pairStatuses,
  siteStream,
  type InstrumentSnapshot,
  type ReferenceSeen,
  type SiteCommand,
  type SiteState,
} from '../site'
import {
  entriesOf,
  foldEvents,
  type Actor,
  type EventDraft,
  type Refusal,
  type StreamEvent,
  type StreamKind,
  type StreamReducer,
} from '../stream'
import { branchSettingsSchema } from '../units'

/** Deterministic ids for tests: uuid-shaped, counting up. */
export function idCounter(): () => string {
  let count = 0
  return () => `01890000-0000-7000-8000-${String(++count).padStart(12, '0')}`
}

const person = (index: number, name: string, initials: string, role: Actor['role'], licensed: boolean): Actor => ({
  personId: `01890000-0000-7000-9000-00000000000${index}`,
  name,
  initials,
  role,
  licensed,
})
export const crew = {
  ann: person(1, 'Ann Test', 'AT', 'technician', true),
  ben: person(2, 'Ben Test', 'BT', 'technician', true),
  ida: person(3, 'Ida Test', 'IT', 'apprentice', false),
  lead: person(4, 'Lea Test', 'LT', 'lead', true),
  office: person(5, 'Dis Test', 'DT', 'dispatcher', false),
}

export const testFile: JobFile = {
  format: 'circuitry.job',
  version: 2,
  job: { title: 'Test home', note: '' },
  customer: { name: 'C. Test', phone: '', email: '' },
  site: {
    name: 'Test house',
    address: '1 Test Street',
    scheme: 'na120',
    yearBuilt: 1980,
    doorCode: '',
    housing: null,
    builder: '',
    neutralEarthed: null,
    sources: [{ key: 'service', kind: 'service', name: 'service' }],
  },
  panels: [
    {
      key: 'panel',
      name: 'panel',
      place: 'cellar',
      main: { number: 'main', amps: 100, source: 'service', state: 'closed' },
      otherMains: [],
      fedFrom: null,
      alsoFedFrom: [],
      breakers: ['1', '2', '3'].map((number) => ({
        number,
        poles: 1,
        amps: 15,
        label: '',
        state: 'closed' as const,
        offLimits: null,
        protection: 'unknown' as const,
      })),
    },
  ],
  disconnects: [],
  sharedNeutrals: [],
  networks: [],
  signals: [],
  rooms: [{ key: 'hall', name: 'Hall', place: null }],
  boxes: [
    {
      key: 'door',
      room: 'hall',
      name: 'door',
      gangs: 1,
      volumeIn3: 18,
      depthMm: null,
      material: 'plastic',
      internalClamps: 1,
      feeds: [{ panel: 'panel', breaker: '1' }],
      unknownFeed: false,
      survey: {},
    },
    {
      key: 'stair',
      room: 'hall',
      name: 'stair',
      gangs: 2,
      volumeIn3: 34,
      depthMm: null,
      material: 'plastic',
      internalClamps: 1,
      feeds: [
        { panel: 'panel', breaker: '1' },
        { panel: 'panel', breaker: '2' },
      ],
      unknownFeed: false,
      survey: {},
    },
    {
      key: 'attic',
      room: 'hall',
      name: 'attic',
      gangs: 1,
      volumeIn3: 18,
      depthMm: null,
      material: 'plastic',
      internalClamps: 1,
      feeds: [],
      unknownFeed: true,
      survey: {},
    },
  ],
  points: [
    {
      name: 'Door light',
      room: 'hall',
      mustRun: false,
      fixture: null,
      load: { technology: 'led', lamps: 2, wattsEach: 9, dimmable: true },
      controls: [{ box: 'door', gang: 1 }],
    },
    {
      name: 'Stair light',
      room: 'hall',
      mustRun: false,
      fixture: null,
      load: { technology: 'led', lamps: 3, wattsEach: 7, dimmable: true },
      controls: [{ box: 'stair', gang: 1 }],
    },
  ],
}

export const testModel: DeviceModel = {
  id: '01890000-0000-7000-a000-000000000001',
  maker: 'Test maker',
  name: 'switch',
  kind: 'switch',
  schemes: ['na120'],
  terminals: ['ground', 'neutral', 'load', 'line'],
  gangsWide: 1,
  bodyIn3: 6,
  depthMm: 34,
  ...plainModel,
  maxWatts: { led: 400, filament: 1000, fan: 200, motor: 200, socket: 1000 },
  setupCode: 'openHome',
  firstIndicator: 'blink',
  pairingWindowMinutes: 15,
}

type Loose<C> = C extends { type: string } ? { type: C['type'] } & Partial<Omit<C, 'type'>> : never
/** What the schemas fill in. */
const defaults: Partial<Record<SiteCommand['type'], object>> = {
  takeReading: { position: [], neutral: null },
  sweepReadings: { position: [] },
  observeLive: { impedance: null, volts: null, note: '' },
  observeBreaker: { how: 'did', note: '' },
  rehangTag: { cause: '' },
  declareAbsent: { explained: '' },
  confirmAbsent: { household: null },
  hangTag: { lock: '', measure: '', company: false, notice: '' },
  requestClose: { clearanceId: null },
  lookIn: { warnedIds: [] },
}

/** A role by hand, with what it rests on. */
export const byHand = (role: 'line' | 'neutral' | 'load' | 'ground') =>
  role === 'line'
    ? { role, method: 'measured' as const, volts: [120, 120], ohms: null }
    : role === 'neutral'
      ? { role, method: 'measured' as const, volts: [120, 0.4], ohms: null }
      : { role, method: 'continuity' as const, volts: [], ohms: 0.6 }

type Result = { ok: true; events: StreamEvent[] } | { ok: false; refusal: Refusal }

/** A site and a job in memory: commands are decided and folded as the server does, without a database. */
export class Scenario {
  readonly newId = idCounter()
  site: SiteState
  job: JobState
  now = Date.parse('2026-03-02T08:00:00.000Z')
  readonly log: StreamEvent[] = []
  basedOnSeq: number | null = null
  heldMs = 0
  everyPair = false
  /** The date at the site, where it is not that of UTC. */
  today: string | null = null
  instruments: Record<string, InstrumentSnapshot> = {
    good: { name: 'tester', serial: '1', kind: 'both', calibrationDue: '2027-01-01', ...plainTester },
    old: { name: 'old tester', serial: '2', kind: 'both', calibrationDue: '2026-01-01', ...plainTester },
    highOnly: { name: 'pocket meter', serial: '3', kind: 'high', calibrationDue: '2027-01-01', ...plainTester },
    detector: {
      name: 'two-pole detector',
      serial: '4',
      kind: 'twoPole',
      calibrationDue: '2027-01-01',
      ...plainTester,
      lowestStepVolts: 12,
    },
    pen: { name: 'pen', serial: '5', kind: 'nonContact', calibrationDue: '2027-01-01', ...plainTester },
  }
  /** A store with five of everything and a van with nothing. */
  stock: JobContext['stock'] = {
    place: () => 'store',
    article: () => ({ name: 'switch', gtin: '6291041500213', bin: false, refId: testModel.id }),
    level: () => 5,
  }
  offCrew = new Set<string>()
  offVisit = new Set<string>()

  constructor(file: JobFile = testFile) {
    this.site = emptySite(this.newId())
    this.job = emptyJob(this.newId())
    const commands = intakeCommands(file, this.site.siteId, this.newId)
    this.must(this.submitSite(commands.layOut, crew.office))
    this.must(this.submitJob(commands.openJob, crew.office))
  }

  private store(kind: StreamKind, drafts: EventDraft[], actor: Actor): StreamEvent[] {
    const state = kind === 'site' ? this.site : this.job
    const streamId = kind === 'site' ? this.site.siteId : this.job.jobId
    const at = new Date(this.now).toISOString()
    const frame = { streamId, commandId: this.newId(), at, receivedAt: at, actor }
    const stream = kind === 'site' ? siteStream : jobStream
    const events = entriesOf(stream, state.seq, structuredClone(drafts), frame, this.newId)
    foldEvents(stream.reducer as StreamReducer<never>, state as never, events)
    this.log.push(...events)
    return events
  }

  private vantage() {
    return atServer(new Date(this.now).toISOString(), 120)
  }

  submitSite(command: Loose<SiteCommand>, actor: Actor = crew.ann): Result {
    this.now += 1000
    const decision = decideSite(this.site, { ...defaults[command.type], ...command } as SiteCommand, {
      ...this.vantage(),
      today: this.today ?? new Date(this.now).toISOString().slice(0, 10),
      actor,
      onVisit: !this.offVisit.has(actor.personId),
      everyPair: this.everyPair,
      onCrew: !this.offCrew.has(actor.personId) && actor.role !== 'dispatcher',
      basedOnSeq: this.basedOnSeq ?? this.site.seq,
      heldMs: this.heldMs,
      instrument: (id) => this.instruments[id] ?? null,
      installedGangs: (boxId) => installedGangs(this.job, boxId),
    })
    return decision.ok ? { ok: true, events: this.store('site', decision.events, actor) } : decision
  }

  submitJob(command: Loose<JobCommand>, actor: Actor = crew.ann, over: Partial<JobContext> = {}): Result {
    this.now += 1000
    const given = command.type === 'establishRole' ? { volts: [], ohms: null, ...command } : command
    const decision = decideJob(this.job, given as JobCommand, {
      ...this.vantage(),
      actor,
      onCrew: !this.offCrew.has(actor.personId) && actor.role !== 'dispatcher',
      jobSeq: this.job.seq,
      heldMs: this.heldMs,
      site: this.site,
      method: branchSettingsSchema.parse({}),
      model: (id) => (id === testModel.id ? testModel : null),
      hasPhoto: () => true,
      isPerson: (id) => Object.values(crew).some((one) => one.personId === id),
      bookedElsewhere: [],
      otherNames: [],
      serialInUse: (serial) => Object.values(this.job.units).some((unit) => unit.serial === serial),
      failedAnywhere: () => null,
      elsewhereAt: (boxId) => ({ installed: installedGangs(this.job, boxId).length > 0, otherJobs: 0 }),
      findings: findingsOf,
      judgePlan,
      stock: this.stock,
      // Not readable at a glance, and opened again by whoever has the key: enough for tests.
      seal: (secret) => `sealed:${[...secret].reverse().join('')}`,
      unseal: (sealed) => [...sealed.slice('sealed:'.length)].reverse().join(''),
      ...over,
    })
    if (!decision.ok) return decision
    return { ok: true, events: [...this.store('site', decision.siteEvents, actor), ...this.store('job', decision.events, actor)] }
  }

  must(result: Result): StreamEvent[] {
    if (!result.ok) throw new Error(`Refused: ${result.refusal.code}: ${result.refusal.reasons.join(' ')}`)
    return result.events
  }

  box(name: string) {
    return Object.values(this.site.boxes).find((box) => box.name === name)!
  }
  point(name: string) {
    return Object.values(this.job.points).find((point) => point.name === name)!
  }
  breaker(number: string) {
    return Object.values(this.site.breakers).find((breaker) => breaker.number === number)!
  }

  openAndTag(numbers: string[], actor: Actor = crew.ann): void {
    for (const number of numbers) {
      const breakerId = this.breaker(number).id
      if (this.breaker(number).state !== 'open')
        this.must(this.submitSite({ type: 'observeBreaker', breakerId, state: 'open', note: '' }, actor))
      this.must(
        this.submitSite({ type: 'hangTag', tagId: this.newId(), breakerId, lock: `${actor.initials} red ${number}`, measure: '' }, actor),
      )
    }
  }

  conductors(boxName: string, letters = 'ABC', actor: Actor = crew.ann): void {
    const colours = ['black', 'white', 'bare', 'red'] as const
    this.must(
      this.submitSite(
        {
          type: 'recordConductors',
          boxId: this.box(boxName).id,
          conductors: [...letters].map((letter, index) => ({
            letter,
            colour: colours[index % 4]!,
            gaugeAwg: 14,
            areaMm2: null,
            cable: 'one',
            course: 'ends' as const,
          })),
        },
        actor,
      ),
    )
  }

  startProof(boxName: string, actor: Actor = crew.ann, instrumentId = 'good'): string {
    const proofId = this.newId()
    if (this.box(boxName).closure !== 'opened') this.must(this.submitSite({ type: 'openBox', boxId: this.box(boxName).id }, actor))
    this.must(
      this.submitSite(
        {
          type: 'startProof',
          proofId,
          boxId: this.box(boxName).id,
          instrumentId,
          source: { kind: 'provingUnit', name: 'unit' },
          volts: 240,
        },
        actor,
      ),
    )
    this.must(this.seeReference(proofId, actor))
    return proofId
  }

  /** A wander lead, seen good by continuity unless something else is said. */
  seeReference(proofId: string, actor: Actor = crew.ann, over: { seen?: ReferenceSeen; again?: boolean; letter?: string } = {}): Result {
    const { letter = null, again = false, seen = { kind: 'continuity', ohms: 0.6, leadOhms: 0.3 } } = over
    return this.submitSite({ type: 'seeReference', proofId, reference: letter ? 'boxGround' : 'wanderLead', letter, seen, again }, actor)
  }

  /** Every reading that is still wanted, at 0.1 V, and the reference once more. */
  readAll(proofId: string, actor: Actor = crew.ann, impedance: 'low' | 'steps' = 'low'): void {
    const proof = this.site.proofs[proofId]!
    for (const pair of pairStatuses(this.site, this.site.boxes[proof.boxId]!, proof).filter((one) => !isSettled(one)))
      this.must(
        this.submitSite(
          {
            type: 'takeReading',
            proofId,
            a: pair.a,
            b: pair.b,
            position: pair.position,
            impedance,
            volts: impedance === 'steps' ? 0 : 0.1,
          },
          actor,
        ),
      )
    this.must(this.seeReference(proofId, actor, { again: true }))
  }

  /** The whole proof. */
  prove(boxName: string, actor: Actor = crew.ann, instrumentId = 'good'): string {
    const proofId = this.startProof(boxName, actor, instrumentId)
    this.readAll(proofId, actor)
    this.must(this.submitSite({ type: 'finishProof', proofId, volts: 240 }, actor))
    return proofId
  }

  takeTagsOff(actor: Actor = crew.ann): void {
    for (const tag of Object.values(this.site.tags).filter((candidate) => candidate.personId === actor.personId))
      this.must(this.submitSite({ type: 'removeTag', tagId: tag.id }, actor))
  }

  powerOn(number: string, actor: Actor = crew.ann): void {
    const grantId = this.newId()
    this.must(this.submitSite({ type: 'requestClose', grantId, breakerId: this.breaker(number).id }, actor))
    this.must(this.submitSite({ type: 'answerPermit', grantId, answer: 'closed' }, actor))
  }

  wire(
    boxName: string,
    gang: number,
    pointNames: string[],
    serial: string,
    code: string,
    conductorRoles: Record<string, string> = { A: 'line', B: 'neutral', C: 'ground', D: 'load' },
  ): string {
    const boxId = this.box(boxName).id
    for (const [letter, role] of Object.entries(conductorRoles))
      this.must(this.submitJob({ type: 'establishRole', boxId, letter, ...byHand(role as 'line') }))
    this.must(
      this.submitJob({
        type: 'chooseDevice',
        boxId,
        gang,
        modelId: testModel.id,
        pointIds: Object.values(this.job.points)
          .filter((point) => pointNames.includes(point.name))
          .map((point) => point.id),
      }),
    )
    const unitId = this.newId()
    this.must(this.submitJob({ type: 'recordUnit', unitId, boxId, gang, serial, setupCode: code, setupCodeAgain: '' }))
    return unitId
  }
}
