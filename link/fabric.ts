import { existsSync, mkdirSync, openSync, closeSync, readFileSync, rmSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { Environment, MatterAggregateError, Millis, Network, StorageService } from '@matter/general'
import { ServerNode, type Endpoint } from '@matter/main'
import { BasicInformationClient } from '@matter/main/behaviors/basic-information'
import { ElectricalPowerMeasurementClient } from '@matter/main/behaviors/electrical-power-measurement'
import { FanControlClient } from '@matter/main/behaviors/fan-control'
import { LevelControlClient } from '@matter/main/behaviors/level-control'
import { OnOffClient } from '@matter/main/behaviors/on-off'
import { OperationalCredentialsClient } from '@matter/main/behaviors/operational-credentials'
import { WiFiNetworkDiagnosticsClient } from '@matter/main/behaviors/wi-fi-network-diagnostics'
import { ControllerBehavior, type ClientNode } from '@matter/main/node'
import { CommissioningError, MdnsService, MaximumCommissionedFabricsReachedError } from '@matter/protocol'
import { readSetupCode } from '../core/commission'
import type { ChannelReading, DeviceLink, JoinedDevice, Linked, LinkedChannel, LinkFault } from '../core/link'
import { SealedStorage } from './sealed-storage'

/** So long a device is looked for, and an answer is waited for: one that got another address has to be found again first, ms. */
const usualPatience = { look: 25_000, answer: 20_000 }
/** What is on its way to a device that is away is given up when the link is closed, ms. */
const closesWithinMs = 4_000
/** A device that does not say within this that it has done what it was told did not do it, ms. */
const followsWithinMs = 4_000
/** The standard counts levels to 254 (from memory). */
const fullLevel = 254

export interface FabricOf {
  jobId: string
  /** Where its file stands. */
  folder: string
  /** 32 bytes, from the office; never written down here. */
  key: Buffer
  network: Network
  /** Are devices without the certificate of a maker let in? Only where they are stand-ins. */
  standIns: boolean
  patience?: typeof usualPatience
}

interface Driven {
  reading: ChannelReading
  ms: number
}
/** Another process has this fabric open. */
export class FabricInUse extends Error {}

/** The installer in one home: a fabric of its own for each job, that is taken off every device before its keys are destroyed. */
export class Fabric implements DeviceLink {
  private constructor(
    private readonly of: FabricOf,
    private readonly node: ServerNode,
    private readonly peers: Map<string, string>,
    private readonly storage: SealedStorage,
  ) {}

  /** Opens the fabric of a job. Throws `FabricInUse` while another process has it, and where the key does not fit. */
  static async open(of: FabricOf): Promise<Fabric> {
    mkdirSync(of.folder, { recursive: true, mode: 0o700 })
    lock(lockOf(of))
    const environment = new Environment(of.jobId, Environment.default)
    try {
      const storage = SealedStorage.open(fileOf(of), of.key)
      const service = new StorageService(environment)
      service.registerDriver({ id: SealedStorage.id, create: () => storage })
      service.configuredDriver = SealedStorage.id
      environment.set(Network, of.network)
      environment.set(MdnsService, new MdnsService(environment))
      const node = await ServerNode.create(ServerNode.RootEndpoint.with(ControllerBehavior), {
        id: `job-${of.jobId}`,
        environment,
        network: {
          port: 5540,
          // A device that says nothing of its radio is asked as one on Wi-Fi is: by default it would wait 100 ms for each question.
          profiles: { unknown: { delay: Millis(0) } },
        },
        controller: { adminFabricLabel: 'Installer' },
      })
      await node.start()
      const peers = new Map(Object.entries((storage.get(['circuitry'], 'peers') ?? {}) as Record<string, string>))
      return new Fabric(of, node, peers, storage)
    } catch (error) {
      rmSync(lockOf(of), { force: true })
      throw error
    }
  }
  async join(unitId: string, code: string): Promise<Linked<{ device: JoinedDevice }>> {
    const started = Date.now()
    const known = this.peerOf(unitId)
    if (known) return { ok: true, device: { ...(await describe(known)), ms: 0 } }
    try {
      const peer = await this.node.peers.commission({
        ...howToFind(code),
        timeout: Millis(this.patience.look),
        onAttestationFailure: () => this.of.standIns,
      })
      this.peers.set(unitId, peer.id)
      this.keepPeers()
      return { ok: true, device: { ...(await describe(peer)), ms: Date.now() - started } }
    } catch (error) {
      return failed(joinFault(error), error)
    }
  }

  async drive(unitId: string, endpoint: number, to: { on?: boolean; level?: number }): Promise<Linked<Driven>> {
    return this.with<Driven>(unitId, endpoint, async (channel, started) => {
      if (channel.behaviors.has(FanControlClient)) {
        const percentSetting = to.level ?? (to.on ? 100 : 0)
        await channel.setStateOf(FanControlClient, { percentSetting })
      } else if (to.level !== undefined) {
        if (!channel.behaviors.has(LevelControlClient)) return { ok: false, fault: 'cannot', note: 'no level' }
        const level = Math.round((to.level / 100) * fullLevel)
        await channel
          .commandsOf(LevelControlClient)
          .moveToLevelWithOnOff({ level, transitionTime: 0, optionsMask: {}, optionsOverride: {} })
      } else if (to.on) await channel.commandsOf(OnOffClient).on()
      else await channel.commandsOf(OnOffClient).off()
      // What the device itself reports, not what it was told.
      const stands = (reading: ChannelReading) =>
        to.level !== undefined ? reading.level !== null && Math.abs(reading.level - to.level) <= 1 : reading.on === to.on
      let reading = await readingOf(channel)
      for (const until = Date.now() + followsWithinMs; !stands(reading) && Date.now() < until; reading = await readingOf(channel))
        await new Promise((resolve) => setTimeout(resolve, 50))
      return { ok: true, reading, ms: Date.now() - started }
    })
  }
  async read(unitId: string, endpoint: number): Promise<Linked<Driven>> {
    return this.with<Driven>(unitId, endpoint, async (channel, started) => ({
      ok: true,
      reading: await readingOf(channel),
      ms: Date.now() - started,
    }))
  }
  async name(unitId: string, name: string): Promise<Linked<{ kept: string }>> {
    return this.with<{ kept: string }>(unitId, 0, async (root) => {
      // The standard keeps 32 bytes of it (from memory): a longer one would be refused.
      await root.setStateOf(BasicInformationClient, { nodeLabel: shortened(name) })
      const { nodeLabel } = await root.getStateOf(BasicInformationClient, ['nodeLabel'])
      return { ok: true, kept: nodeLabel ?? '' }
    })
  }
  async leave(unitId: string): Promise<Linked<{ homesLeft: number | null }>> {
    const peer = this.peerOf(unitId)
    if (!peer) return { ok: false, fault: 'notLinked', note: '' }
    try {
      // Asked first: a device that is away is not given up.
      const { commissionedFabrics } = await within(
        this.patience.answer,
        peer.getStateOf(OperationalCredentialsClient, ['commissionedFabrics']),
      )
      await peer.decommission()
      this.peers.delete(unitId)
      this.keepPeers()
      return { ok: true, homesLeft: commissionedFabrics === undefined ? null : commissionedFabrics - 1 }
    } catch (error) {
      return failed('noAnswer', error)
    }
  }

  /** A device that is in the wall no more: nobody can ask it. */
  async forget(unitId: string): Promise<Linked<{ homesLeft: number | null }>> {
    await this.peerOf(unitId)?.delete()
    this.peers.delete(unitId)
    this.keepPeers()
    return { ok: true, homesLeft: null }
  }

  async close(): Promise<void> {
    await within(closesWithinMs, this.node.close()).catch(() => undefined)
    this.storage.write()
    rmSync(lockOf(this.of), { force: true })
  }
  /** The keys are destroyed last: only once no device carries this installer any more. @returns whether they were */
  async destroy(): Promise<boolean> {
    if (this.peers.size) return false
    await this.close()
    rmSync(fileOf(this.of), { force: true })
    return true
  }

  private get patience(): typeof usualPatience {
    return this.of.patience ?? usualPatience
  }
  private keepPeers(): void {
    this.storage.set(['circuitry'], 'peers', Object.fromEntries(this.peers))
    this.storage.write()
  }
  private peerOf(unitId: string): ClientNode | null {
    const id = this.peers.get(unitId)
    return (id && [...this.node.peers].find((peer) => peer.id === id)) || null
  }
  private async with<T>(
    unitId: string,
    endpoint: number,
    act: (channel: Endpoint, started: number) => Promise<Linked<T>>,
  ): Promise<Linked<T>> {
    const peer = this.peerOf(unitId)
    if (!peer) return { ok: false, fault: 'notLinked', note: '' }
    const channel = endpoint === 0 ? peer : [...peer.endpoints].find(({ number }) => number === endpoint)
    if (!channel) return { ok: false, fault: 'cannot', note: `no channel ${endpoint}` }
    try {
      return await within(this.patience.answer, act(channel, Date.now()))
    } catch (error) {
      return failed('noAnswer', error)
    }
  }
}

const fileOf = ({ folder, jobId }: FabricOf) => join(folder, `${jobId}.fabric`)
const lockOf = ({ folder, jobId }: FabricOf) => join(folder, `${jobId}.lock`)
/** Two processes that speak for one fabric would undo each other’s counters, and the home would lock both out. */
function lock(file: string): void {
  if (existsSync(file)) {
    const owner = Number(readFileSync(file, 'utf8'))
    if (owner !== process.pid && isAlive(owner)) throw new FabricInUse(`Process ${owner} has this fabric open.`)
    rmSync(file, { force: true })
  }
  const handle = openSync(file, 'wx', 0o600)
  writeSync(handle, String(process.pid))
  closeSync(handle)
}
function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  } catch {
    return false
  }
}

/** A square code tells one device of 4096 that wait; typed digits carry a part of that only, and try all that it fits. */
function howToFind(code: string): { passcode: number; discriminator: number } | { pairingCode: string } {
  const read = readSetupCode('openHome', code)
  return read.ok && read.code.kind === 'qr'
    ? { passcode: read.code.passcode, discriminator: read.code.discriminator }
    : { pairingCode: code.replace(/[\s-]/g, '') }
}
const within = <T>(ms: number, answer: Promise<T>): Promise<T> => {
  let timer: NodeJS.Timeout
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error(`no answer within ${ms / 1000} s`)), ms)
  })
  return Promise.race([answer, late]).finally(() => clearTimeout(timer))
}
const shortened = (name: string) => {
  let kept = name
  while (Buffer.byteLength(kept) > 32) kept = kept.slice(0, -1)
  return kept
}
const failed = (fault: LinkFault, error: unknown) => ({
  ok: false as const,
  fault,
  note: (error instanceof Error ? error.message : String(error)).slice(0, 200),
})
/** Everything that is behind an error, for the library wraps what happened. */
function causesOf(error: unknown): unknown[] {
  if (!(error instanceof Error)) return [error]
  const inner = [error.cause, ...(error instanceof AggregateError || error instanceof MatterAggregateError ? error.errors : [])]
  return [error, ...inner.filter(Boolean).flatMap(causesOf)]
}
function joinFault(error: unknown): LinkFault {
  const causes = causesOf(error)
  if (causes.some((one) => one instanceof MaximumCommissionedFabricsReachedError)) return 'keepsNoMore'
  // Somebody answered, and did not know the number that both have to know.
  const words = causes.map((one) => (one instanceof Error ? `${one.constructor.name} ${one.message}` : String(one))).join(' · ')
  if (/verify|confirmation|InvalidParam|passcode|Spake/i.test(words)) return 'wrongCode'
  if (causes.some((one) => one instanceof CommissioningError)) return 'broke'
  return 'notFound'
}

async function readingOf(channel: Endpoint): Promise<ChannelReading> {
  const { behaviors } = channel
  const percent = behaviors.has(FanControlClient)
    ? ((await channel.getStateOf(FanControlClient, ['percentCurrent'])).percentCurrent ?? 0)
    : null
  const on = behaviors.has(OnOffClient) ? (await channel.getStateOf(OnOffClient, ['onOff'])).onOff : percent
  const level = behaviors.has(LevelControlClient) ? (await channel.getStateOf(LevelControlClient, ['currentLevel'])).currentLevel : null
  const power = behaviors.has(ElectricalPowerMeasurementClient)
    ? (await channel.getStateOf(ElectricalPowerMeasurementClient, ['activePower'])).activePower
    : null
  return {
    on: Boolean(on),
    level: percent ?? (typeof level === 'number' ? Math.round((level / fullLevel) * 100) : null),
    watts: power === null || power === undefined ? null : Number(power) / 1000,
  }
}
async function describe(peer: ClientNode): Promise<Omit<JoinedDevice, 'ms'>> {
  const { vendorName, productName, serialNumber } = peer.stateOf(BasicInformationClient)
  const rssi = peer.behaviors.has(WiFiNetworkDiagnosticsClient) ? peer.stateOf(WiFiNetworkDiagnosticsClient).rssi : null
  const channels = [...peer.endpoints].flatMap((one): LinkedChannel[] => {
    const speed = Boolean(one.behaviors.has(FanControlClient))
    if (one.number === 0 || (!speed && !one.behaviors.has(OnOffClient))) return []
    return [
      {
        endpoint: one.number,
        level: Boolean(one.behaviors.has(LevelControlClient)),
        speed,
        meter: Boolean(one.behaviors.has(ElectricalPowerMeasurementClient)),
      },
    ]
  })
  return { vendor: vendorName, product: productName, serial: serialNumber ?? '', channels, dbm: rssi, network: '' }
}
