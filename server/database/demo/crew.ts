import { v7 as uuid } from 'uuid'
import { verhoeffDigit } from '../../../core/commission'
import type { ConductorRole } from '../../../core/connect'
import {
  boxesOfJob,
  checksFor,
  findingsOf,
  flagRole,
  asFoundBoxOf,
  handoverChecklist,
  openDefects,
  pointsInOrder,
  stepsFor,
  type JobCommand,
  type JobState,
} from '../../../core/job'
import { farPositions, isKnownLive, pairStatuses, samePair, type Conductor, type SiteCommand, type SiteState } from '../../../core/site'
import { Chance } from '../../../core/chance'
import { branchSettingsSchema, roundTo } from '../../../core/units'
import { emptyPlan, homeOf, nextTest, type WireReading } from '../../../core/wiring'
import { SimulatedMeter } from '../../../core/wiring/simulated-meter'
import type { Viewer } from '../../services/access'
import { execute } from '../../services/commands'
import { readState } from '../../services/streams'

type Input<C> = C extends { type: string } ? Partial<Omit<C, 'type'>> & { type: C['type'] } & Record<string, unknown> : never

/** A valid 11-digit setup code made from a number, for invented devices. */
export function inventedSetupCode(number: number): string {
  const passcode = 20_000_000 + ((number * 7919) % 60_000_000)
  const short = number % 16
  const body = `${short >> 2}${String(((short & 3) << 14) | (passcode & 0x3fff)).padStart(5, '0')}${String(passcode >> 14).padStart(4, '0')}`
  return body + verhoeffDigit(body)
}

/** Conductors of a usual box: a feed and a load, each with its ground. */
export const usualConductors: { letter: string; colour: Conductor['colour']; cable: string; role: ConductorRole }[] = [
  { letter: 'A', colour: 'black', cable: 'from panel', role: 'line' },
  { letter: 'B', colour: 'white', cable: 'from panel', role: 'neutral' },
  { letter: 'C', colour: 'black', cable: 'to light', role: 'load' },
  { letter: 'D', colour: 'bare', cable: 'from panel', role: 'ground' },
]
/** The same with the light's own neutral, as it usually is. */
export const fullConductors: typeof usualConductors = [
  { letter: 'A', colour: 'black', cable: 'from panel', role: 'line' },
  { letter: 'B', colour: 'white', cable: 'from panel', role: 'neutral' },
  { letter: 'C', colour: 'bare', cable: 'from panel', role: 'ground' },
  { letter: 'D', colour: 'black', cable: 'to light', role: 'load' },
  { letter: 'E', colour: 'white', cable: 'to light', role: 'neutral' },
  { letter: 'F', colour: 'bare', cable: 'to light', role: 'ground' },
]
export const usualConductorsIec: typeof usualConductors = [
  { letter: 'A', colour: 'brown', cable: 'from consumer unit', role: 'line' },
  { letter: 'B', colour: 'blue', cable: 'from consumer unit', role: 'neutral' },
  { letter: 'C', colour: 'brown', cable: 'to light', role: 'load' },
  { letter: 'D', colour: 'green-yellow', cable: 'from consumer unit', role: 'ground' },
]

/** Multi-way box: the usual feed plus common and travelers. */
export const multiWayConductors: typeof usualConductors = [
  { letter: 'A', colour: 'black', cable: 'from panel', role: 'common' },
  { letter: 'B', colour: 'white', cable: 'from panel', role: 'neutral' },
  { letter: 'C', colour: 'red', cable: 'to far switch', role: 'traveler' },
  { letter: 'D', colour: 'black', cable: 'to far switch', role: 'traveler' },
  { letter: 'E', colour: 'bare', cable: 'from panel', role: 'ground' },
]

/** Writes a job's record the way a crew does: one command after the other, minutes apart. */
export class DemoCrew {
  private clock: number
  private serials = 0
  private readonly pairingChance: Chance

  constructor(
    readonly jobId: string,
    readonly siteId: string,
    readonly who: Viewer,
    readonly instrumentId: string,
    start: Date,
    private readonly serialPrefix: string,
  ) {
    this.clock = start.getTime()
    this.pairingChance = new Chance([...serialPrefix].reduce((sum, letter) => sum * 31 + letter.charCodeAt(0), 7))
  }

  at(time: Date): this {
    this.clock = time.getTime()
    return this
  }

  wait(minutes: number): this {
    this.clock += minutes * 60_000
    return this
  }

  get now(): Date {
    return new Date(this.clock)
  }

  private async give(
    stream: 'site' | 'job',
    streamId: string,
    command: { type: string } & Record<string, unknown>,
    who: Viewer,
    seconds = 40,
  ): Promise<void> {
    this.clock += seconds * 1000
    const outcome = await execute(
      { id: uuid(), stream, streamId, at: this.now.toISOString(), basedOnSeq: 1_000_000, jobSeq: null, heldMs: 0, command },
      who,
      this.now,
    )
    if (outcome.status === 'refused') throw new Error(`The demo was refused ${command.type}: ${outcome.refusal.reasons.join(' ')}`)
  }

  site(command: Input<SiteCommand>, who = this.who): Promise<void> {
    return this.give('site', this.siteId, command, who)
  }
  job(command: Input<JobCommand>, who = this.who): Promise<void> {
    return this.give('job', this.jobId, command, who)
  }
  state(): Promise<{ job: JobState; site: SiteState }> {
    return Promise.all([readState('job', this.jobId), readState('site', this.siteId)]).then(([job, site]) => ({ job, site }))
  }

  async boxId(name: string): Promise<string> {
    const { job, site } = await this.state()
    const id = job.boxIds.find((candidate) => site.boxes[candidate]?.name === name)
    if (!id) throw new Error(`The demo knows no box ${name}`)
    return id
  }

  async openAndTag(boxName: string, lock: string): Promise<void> {
    const { site } = await this.state()
    for (const breakerId of site.boxes[await this.boxId(boxName)]!.breakerIds) {
      if (site.breakers[breakerId]!.state !== 'open') await this.site({ type: 'observeBreaker', breakerId, state: 'open' })
      if (!Object.values(site.tags).some((tag) => tag.breakerId === breakerId && tag.personId === this.who.personId))
        await this.site({ type: 'hangTag', tagId: uuid(), breakerId, lock })
    }
  }

  async look(boxName: string, conductors: typeof usualConductors): Promise<void> {
    const boxId = await this.boxId(boxName)
    await this.site({ type: 'openBox', boxId })
    await this.site({
      type: 'recordConductors',
      boxId,
      conductors: conductors.map(({ letter, colour, cable }) => ({
        letter,
        colour,
        cable,
        gaugeAwg: 14,
        areaMm2: null,
        course: 'ends' as const,
      })),
    })
  }

  /** A whole proof, or one that is still being made after so many pairs. */
  async prove(boxName: string, ghostOn: string | null = null, stopAfterPairs = Infinity): Promise<void> {
    const boxId = await this.boxId(boxName)
    const proofId = uuid()
    const { site } = await this.state()
    const volts = site.schemeId === 'na120' ? 121.4 : 233.1
    const livePoint = Object.values(site.breakers).find((one) => one.role === 'branch' && isKnownLive(site, one))?.id
    const ground = site.boxes[boxId]!.conductors.find(
      (conductor) => conductor.colour === 'bare' || conductor.colour === 'green-yellow',
    )!.letter
    if (site.boxes[boxId]!.closure !== 'opened') await this.site({ type: 'openBox', boxId })
    await this.site({
      type: 'startProof',
      proofId,
      boxId,
      instrumentId: this.instrumentId,
      source: { kind: 'provingUnit', name: 'proving unit in the bag' },
      volts: 238,
    })
    const see = (again: boolean) =>
      this.site({
        type: 'seeReference',
        proofId,
        reference: 'boxGround',
        letter: ground,
        again,
        // With everything off there is no live point: by continuity then.
        seen: livePoint
          ? {
              kind: 'livePoint',
              breakerId: livePoint,
              name: 'socket by the panel',
              lineToNeutral: volts,
              referenceToLine: roundTo(volts - 0.6, 1),
              referenceToNeutral: 0.5,
            }
          : { kind: 'continuity', ohms: 0.6, leadOhms: 0.3 },
      })
    await see(false)
    const proofState = async () => (await this.state()).site
    let now = await proofState()
    let left = stopAfterPairs
    for (const pair of pairStatuses(now, now.boxes[boxId]!, now.proofs[proofId]!)) {
      if (left-- <= 0) return
      const reading = { type: 'takeReading' as const, proofId, a: pair.a, b: pair.b, position: pair.position }
      if (pair.a === ghostOn && pair.b === 'REF' && samePair(pair, { ...pair, position: farPositions(now.boxes[boxId]!)[0]! }))
        await this.site({ ...reading, impedance: 'high', volts: 14.2 })
      await this.site({ ...reading, impedance: 'low', volts: 0.2 })
      now = await proofState()
    }
    await see(true)
    await this.site({ type: 'finishProof', proofId, volts: 238 })
  }

  async wire(boxName: string, gang: number, modelId: string, pointNames: string[], conductors: typeof usualConductors): Promise<void> {
    const boxId = await this.boxId(boxName)
    const { job: before, site } = await this.state()
    const known = before.boxes[boxId]?.roles ?? {}
    const nominal = site.schemeId === 'na120' ? 120.6 : 231.5
    for (const { letter, role } of conductors.filter((one) => !known[one.letter]))
      await this.job({
        type: 'establishRole',
        boxId,
        letter,
        role,
        method: role === 'line' || role === 'neutral' ? 'measured' : role === 'ground' ? 'traced' : 'continuity',
        volts: role === 'line' ? [nominal, nominal] : role === 'neutral' ? [nominal, 0.4] : [],
        ohms: role === 'line' || role === 'neutral' || role === 'ground' ? null : 4.1,
      })
    const { job } = await this.state()
    const pointIds = pointsInOrder(job)
      .filter((point) => pointNames.includes(point.name))
      .map((point) => point.id)
    await this.job({ type: 'chooseDevice', boxId, gang, modelId, pointIds })
    for (const step of stepsFor((await this.state()).job, (await this.state()).site, boxId, gang, branchSettingsSchema.parse({})))
      await this.job({ type: 'markStep', boxId, gang, stepId: step.id, done: true })
    const { model } = (await this.state()).job.boxes[boxId]!.devices[gang]!
    await this.job({ type: 'recordUnit', unitId: uuid(), boxId, gang, ...this.nextCarton(model) })
  }
  /** What a verification tester reads on the circuits of the work, 230 V. */
  async verifyCircuits(): Promise<void> {
    const { job, site } = await this.state()
    const ids = [...new Set(boxesOfJob(job, site).flatMap(({ breakerIds }) => breakerIds))]
    for (const [index, breakerId] of ids.entries())
      await this.job({
        ...{ type: 'verifyCircuit', breakerId, instrument: 'Marram verification tester, V-208', note: '' },
        readings: {
          ...{
            curve: 'B',
            lookedUp: null,
            amps: site.breakers[breakerId]?.amps ?? 10,
            continuity: 0.42 + index / 10,
            insulation: 200,
            insulationVolts: 250,
          },
          ...{ devicesIn: true, polarity: 'right', loop: 0.95 + index / 10 },
          residual: { milliamps: 30, kind: 'general', atOne: 24, atFive: 13, button: true },
        },
      })
  }
  /** A device that failed comes out, another one of its model goes in, and everything is tried again. */
  async replace(boxName: string, gang: number, callbackId: string, oldUnitId: string, network = 'home'): Promise<void> {
    const { model, boxId, name } = (await this.state()).job.units[oldUnitId]!
    await this.openAndTag(boxName, `${this.who.initials} red 1`)
    await this.prove(boxName)
    const newUnitId = uuid()
    await this.job({ type: 'replaceUnit', callbackId, oldUnitId, newUnitId, oldUnitGoes: 'return', ...this.nextCarton(model) })
    const { job, site } = await this.state()
    for (const step of stepsFor(job, site, boxId, gang, branchSettingsSchema.parse({})))
      await this.job({ type: 'markStep', boxId, gang, stepId: step.id, done: true })
    await this.closeUp([boxName])
    for (const id of job.boxes[boxId]!.devices[gang]!.pointIds) await this.test(job.points[id]!.name)
    await this.join({ [`${boxName}/${gang}`]: name }, network, -56)
  }
  /** What is printed on the next carton of a model. */
  private nextCarton({ setupCode: kind }: { setupCode: string }): { serial: string; setupCode: string; setupCodeAgain: string } {
    this.serials++
    const code =
      kind === 'openHome'
        ? inventedSetupCode(this.serials + this.serialPrefix.charCodeAt(0) * 31)
        : kind === 'plain'
          ? `HK4410${this.serials}${this.serialPrefix}`
          : ''
    return { serial: `${this.serialPrefix}-${String(4100 + this.serials * 7)}`, setupCode: code, setupCodeAgain: code }
  }

  /** In the shop, for a box where nobody was yet: chosen, its carton looked at, and made ready or not. */
  async prepare(boxName: string, modelId: string, pointNames: string[], ready: boolean): Promise<void> {
    const boxId = await this.boxId(boxName)
    const points = pointsInOrder((await this.state()).job).filter(({ name }) => pointNames.includes(name))
    await this.job({ type: 'chooseDevice', boxId, gang: 1, modelId, pointIds: points.map(({ id }) => id) })
    const { model } = (await this.state()).job.boxes[boxId]!.devices[1]!
    const done = ready ? 'passed' : 'none'
    await this.job({
      type: 'prepareUnit',
      boxId,
      gang: 1,
      ...this.nextCarton(model),
      carton: { screws: true, leads: true, plate: true, codeCard: ready },
      version: ready ? '3.1.4' : '',
      settings: ready ? 'off after an interruption' : '',
      lamp: done,
      power: done,
      meter: model.metering ? done : 'none',
      note: '',
    })
  }

  /**
   * A box with a feed and a light at the bench: as it was found, every reading that is proposed, dead and then live for a
   * moment, the roles saved to the tags, and how it is wired anew.
   */
  async bench(boxName: string, gang: number, pointName: string, mate: Viewer): Promise<void> {
    const boxId = await this.boxId(boxName)
    const splices = [
      ['B', 'E'],
      ['C', 'F'],
    ]
    const notes = {
      farSwitches: 0,
      splices,
      oldSwitches: [{ contacts: 'single' as const, terminals: { a: ['A'], b: ['D'] } }],
      complete: true,
    }
    await this.job({ type: 'noteFound', boxId, notes })
    const { site, job } = await this.state()
    const described = asFoundBoxOf(site, site.boxes[boxId]!, notes)
    if (!described.ok) throw new Error(described.reason)
    const { found } = described
    const roles = ['line', 'neutral', 'ground', 'load', 'neutralOn', 'ground'] as const
    const [feed, light] = found.cables.map((cable, index) => ({
      id: cable.id,
      run: index ? ('light' as const) : ('feed' as const),
      wires: cable.cores.map((core, at) => ({
        ...core,
        role: roles[3 * index + at]!,
        circuit: index || at === 2 ? null : found.circuits[0]!,
      })),
    }))
    const apart = { ...emptyPlan, splices: splices.map((letters) => ({ letters, holds: null })) }
    const home = homeOf(found, [feed!, light!], apart, [], [{ technology: 'led', watts: 36 }])
    const meter = new SimulatedMeter(home.wiring, new Chance(7), 0, found)
    const readings: WireReading[] = []
    let energised = false
    for (;;) {
      const advice = nextTest(found, readings, energised)
      if (advice.done) break
      if (advice.next.energised && !energised) await this.powerForAMoment(boxId, mate)
      if (!advice.next.energised && energised) await this.powerAwayAgain(boxName)
      energised = advice.next.energised
      const taken = advice.next.tests.map((test) => meter.read(test))
      readings.push(...taken)
      await this.job({ type: 'readWires', boxId, readings: taken })
    }
    if (energised) await this.powerAwayAgain(boxName)
    for (const letter of site.boxes[boxId]!.conductors.map((conductor) => conductor.letter)) {
      const wire = findingsOf((await this.state()).job, site, boxId)!.wires.find((one) => one.letter === letter)!
      const role = flagRole[(wire.settled ?? wire.joint)!.role]
      await this.job({ type: 'establishRole', boxId, letter, role, method: 'readings' })
    }
    const point = pointsInOrder(job).find((candidate) => candidate.name === pointName)!
    await this.job({
      type: 'planWiring',
      boxId,
      plan: {
        ...emptyPlan,
        devices: [{ gang, terminals: { line: ['A'], load: ['D'], neutral: ['B'], ground: ['C'] } }],
        splices: splices.map((letters) => ({ letters, holds: 5, connector: 'Twist, large' })),
        feeds: [{ letter: 'D', pointId: point.id }],
      },
    })
  }

  /** Everyone clear, own lock off, breaker closed, the licensed person alone with the meter. */
  private async powerForAMoment(boxId: string, mate: Viewer): Promise<void> {
    const { site } = await this.state()
    const breakerId = site.boxes[boxId]!.breakerIds[0]!
    const askId = uuid()
    const grantId = uuid()
    await this.site({ type: 'askEnergise', askId, breakerId, purpose: 'identify', note: '' })
    await this.site({ type: 'confirmClear', askId })
    await this.site({ type: 'startMeasuring', measureId: uuid(), boxId, warnedIds: [mate.personId] })
    await this.site({ type: 'requestClose', grantId, breakerId, clearanceId: askId })
    await this.site({ type: 'answerPermit', grantId, answer: 'closed' })
  }

  /** Off, locked and proven dead again. */
  private async powerAwayAgain(boxName: string): Promise<void> {
    const { site } = await this.state()
    const breakerId = site.boxes[await this.boxId(boxName)]!.breakerIds[0]!
    await this.site({ type: 'observeBreaker', breakerId, state: 'open', note: '' })
    const tag = Object.values(site.tags).find((one) => one.breakerId === breakerId && one.personId === this.who.personId)!
    await this.site({ type: 'rehangTag', tagId: tag.id })
    await this.prove(boxName)
  }

  async closeUp(boxNames: string[]): Promise<void> {
    for (const name of boxNames) await this.site({ type: 'closeBox', boxId: await this.boxId(name) })
    const { site } = await this.state()
    for (const tag of Object.values(site.tags).filter((candidate) => candidate.personId === this.who.personId)) {
      await this.site({ type: 'removeTag', tagId: tag.id })
      await this.powerOn(tag.breakerId)
    }
  }

  async powerOn(breakerId: string): Promise<void> {
    const grantId = uuid()
    await this.site({ type: 'requestClose', grantId, breakerId })
    await this.site({ type: 'answerPermit', grantId, answer: 'closed' })
  }

  async test(pointName: string, failing: Record<string, string> = {}): Promise<void> {
    const { job, site } = await this.state()
    const point = pointsInOrder(job).find((candidate) => candidate.name === pointName)!
    for (const check of checksFor(job, site, point)) {
      const note = Object.entries(failing).find(([words]) => check.what.includes(words))?.[1]
      await this.job({ type: 'testPoint', pointId: point.id, checkId: check.id, result: note ? 'fail' : 'pass', note: note ?? '' })
    }
  }

  /** Most devices join at once; now and then one shows something else first, and a step helps. */
  private async tryBefore(unitId: string): Promise<void> {
    const said = (command: Input<JobCommand>) => this.give('job', this.jobId, command, this.who, 15)
    await said({ type: 'beginPairing', unitId })
    if (!this.pairingChance.is(0.3)) return
    const [seen, step] = this.pairingChance.pick([
      ['appFindsNothing', 'band'],
      ['appPassword', 'password'],
      ['idle', 'gesture'],
      ['joining', 'closer'],
    ] as const)
    await said({ type: 'seeSign', unitId, seen })
    await said({ type: 'tryPairingStep', unitId, step })
    await said({ type: 'beginPairing', unitId })
  }

  /** Three tries, and no joining: it is left for the next visit. */
  async giveUpPairing(boxName: string, gang: number): Promise<void> {
    const boxId = await this.boxId(boxName)
    const { id: unitId } = Object.values((await this.state()).job.units).find((unit) => unit.boxId === boxId && unit.gang === gang)!
    for (const step of ['band', 'password', null] as const) {
      await this.job({ type: 'beginPairing', unitId })
      await this.job({ type: 'seeSign', unitId, seen: step === 'password' ? 'timeout' : 'appFindsNothing' })
      if (step) await this.job({ type: 'tryPairingStep', unitId, step })
    }
    await this.job({ type: 'parkUnit', unitId })
  }

  async join(names: Record<string, string>, network: string, dbm: number): Promise<void> {
    const { job, site } = await this.state()
    let level = dbm
    for (const unit of Object.values(job.units).filter(({ removedAt }) => !removedAt)) {
      const name = names[`${site.boxes[unit.boxId]!.name}/${unit.gang}`]
      if (!name) continue
      if (unit.model.setupCode !== 'none') {
        await this.tryBefore(unit.id)
        await this.job({ type: 'recordPairing', unitId: unit.id, result: 'joined', network, signal: { kind: 'dbm', dbm: level } })
      }
      await this.job({ type: 'nameUnit', unitId: unit.id, name, despiteClash: true })
      level -= 2
    }
  }

  async handOver(signer: string): Promise<void> {
    const { job, site } = await this.state()
    for (const item of handoverChecklist(job, site).filter((candidate) => !candidate.auto))
      await this.job({ type: 'tickHandover', itemId: item.id, done: true, rests: 'seen', photoId: null, note: '' })
    const strokes: [number, number][][] = [
      Array.from({ length: 40 }, (_, i): [number, number] => [0.08 + i * 0.02, 0.5 + 0.28 * Math.sin(i * 0.8) * Math.cos(i * 0.13)]),
      [
        [0.12, 0.86],
        [0.84, 0.78],
      ],
    ]
    await this.job({
      type: 'signHandover',
      signatureId: uuid(),
      signer,
      strokes,
      acceptedDefectIds: openDefects(job).map((defect) => defect.id),
    })
    await this.job({ type: 'completeHandover' })
  }
}
