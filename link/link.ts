import { join } from 'node:path'
import { Environment, Network } from '@matter/general'
import type { ChannelReading, LinkAnswer, LinkTask, MeterTrace } from '../core/link'
import { Fabric, FabricInUse, type FabricOf } from './fabric'
import type { StandInHome } from './stand-ins/home'

/** So long the link listens for somebody at the wall, and so often it asks, ms. */
const [listensMs, asksEveryMs] = [20_000, 250]
const faulty = (fault: 'noAnswer' | 'notLinked', note: string): LinkAnswer => ({ ok: false, fault, note })

/** Does what the office asks for, one thing after the other at each device; fabrics are opened when they are needed. */
export class Link {
  private readonly fabrics = new Map<string, Promise<Fabric>>()
  private readonly lines = new Map<string, Promise<unknown>>()
  /** What goes on in each home. */
  private readonly going = new Map<string, number>()
  constructor(
    private readonly folder: string,
    private readonly home: StandInHome | null,
    private readonly patience?: FabricOf['patience'],
  ) {}

  /** Never throws: what goes wrong is an answer. */
  do(task: LinkTask): Promise<LinkAnswer> {
    const before = this.lines.get(task.unitId) ?? Promise.resolve()
    this.going.set(task.jobId, (this.going.get(task.jobId) ?? 0) + 1)
    const answer = before
      .then(() => this.work(task))
      .catch((error: unknown) =>
        faulty('noAnswer', error instanceof FabricInUse ? 'another process has this fabric open' : String(error).slice(0, 300)),
      )
      .finally(() => this.going.set(task.jobId, this.going.get(task.jobId)! - 1))
    this.lines.set(task.unitId, answer)
    return answer
  }
  async close(): Promise<void> {
    for (const opening of this.fabrics.values()) await (await opening.catch(() => null))?.close()
    await this.home?.close()
  }

  private async work({ jobId, unitId, seal, around, work }: LinkTask): Promise<LinkAnswer> {
    const fabric = await this.fabricOf(jobId, Buffer.from(seal, 'base64'))
    await this.home?.surround(around, work.do === 'join' ? work.code : null)
    switch (work.do) {
      case 'join': {
        const joined = await fabric.join(unitId, work.code)
        return joined.ok ? { ok: true, did: 'join', device: joined.device } : joined
      }
      case 'check':
        return this.check(fabric, unitId, work.steps)
      case 'trace':
        return this.trace(fabric, unitId, work)
      case 'name': {
        const named = await fabric.name(unitId, work.name)
        return named.ok ? { ok: true, did: 'name', kept: named.kept } : named
      }
      case 'open': {
        const opened = await fabric.open(unitId, work.seconds)
        if (!opened.ok) return opened
        this.home?.showHousehold(around.serial, opened.code)
        return { ok: true, did: 'open', code: opened.code, square: opened.square }
      }
      case 'homes': {
        const found = await fabric.homes(unitId)
        return found.ok ? { ok: true, did: 'homes', homes: found.homes } : found
      }
      case 'leave': {
        const left = work.gone ? await fabric.forget(unitId) : await fabric.leave(unitId, work.anyway)
        // The keys go last, once no device carries them, and none is about to.
        if (this.going.get(jobId) === 1 && (await fabric.destroy())) this.fabrics.delete(jobId)
        return left.ok ? { ok: true, did: 'leave', homesLeft: left.homesLeft } : left
      }
    }
  }

  private async check(fabric: Fabric, unitId: string, steps: Extract<LinkTask['work'], { do: 'check' }>['steps']): Promise<LinkAnswer> {
    const results: { checkId: string; reading: ChannelReading | null; ms: number }[] = []
    const before = new Map<number, ChannelReading>()
    for (const { checkId, endpoint, on, level, hears } of steps) {
      if (!before.has(endpoint)) {
        const first = await fabric.read(unitId, endpoint)
        if (!first.ok) return first
        before.set(endpoint, first.reading)
      }
      const started = Date.now()
      const to = level === null ? { on: on ?? undefined } : { level }
      const reached = hears
        ? await this.listen(fabric, unitId, endpoint)
        : on === null && level === null
          ? await fabric.read(unitId, endpoint)
          : await fabric.drive(unitId, endpoint, to)
      results.push({ checkId, reading: reached?.ok ? reached.reading : null, ms: Date.now() - started })
    }
    // As it was found, its level too: what has to run runs on.
    for (const [endpoint, { on, level }] of before) {
      if (steps.every((step) => step.hears)) break
      if (level) await fabric.drive(unitId, endpoint, { level })
      if (!level || !on) await fabric.drive(unitId, endpoint, { on })
    }
    return { ok: true, did: 'check', results }
  }
  /** What its meter reads, again and again; a reading that does not come is left out. */
  private async trace(
    fabric: Fabric,
    unitId: string,
    { endpoint, seconds, everySeconds }: Extract<LinkTask['work'], { do: 'trace' }>,
  ): Promise<LinkAnswer> {
    const trace: MeterTrace = { at: [], watts: [] }
    const began = Date.now()
    for (let next = began; next < began + seconds * 1000; next += everySeconds * 1000) {
      await new Promise((resolve) => setTimeout(resolve, next - Date.now()))
      const read = await fabric.read(unitId, endpoint)
      // One that never answered is not asked for two minutes.
      if (!read.ok && !trace.at.length) return read
      if (!read.ok) continue
      if (read.reading.watts === null) return { ok: false, fault: 'cannot', note: 'it has no meter' }
      trace.at.push(Date.now() / 1000)
      trace.watts.push(read.reading.watts)
    }
    return { ok: true, did: 'trace', trace }
  }
  private async listen(fabric: Fabric, unitId: string, endpoint: number) {
    const first = await fabric.read(unitId, endpoint)
    for (const until = Date.now() + listensMs; first.ok && Date.now() < until;) {
      await new Promise((resolve) => setTimeout(resolve, asksEveryMs))
      const now = await fabric.read(unitId, endpoint)
      if (now.ok && (now.reading.on !== first.reading.on || now.reading.level !== first.reading.level)) return now
    }
    return null
  }

  private async fabricOf(jobId: string, key: Buffer): Promise<Fabric> {
    const fabric = await (this.fabrics.get(jobId) ?? this.open(jobId, key))
    fabric.reseal(key)
    return fabric
  }
  private open(jobId: string, key: Buffer): Promise<Fabric> {
    const network = this.home ? this.home.host() : Environment.default.get(Network)
    const opening = Fabric.open({
      jobId,
      folder: join(this.folder, 'fabrics'),
      key,
      network,
      standIns: this.home !== null,
      patience: this.patience,
    })
    this.fabrics.set(jobId, opening)
    opening.catch(() => this.fabrics.delete(jobId))
    return opening
  }
}
