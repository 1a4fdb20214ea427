import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, openSync, closeSync, readdirSync, readFileSync, renameSync, rmSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { Crypto, Environment, MatterAggregateError, Millis, Network, StorageService } from '@matter/general'
import { ServerNode, type Endpoint } from '@matter/main'
import { AdministratorCommissioningClient } from '@matter/main/behaviors/administrator-commissioning'
import { BasicInformationClient } from '@matter/main/behaviors/basic-information'
import { ElectricalPowerMeasurementClient } from '@matter/main/behaviors/electrical-power-measurement'
import { FanControlClient } from '@matter/main/behaviors/fan-control'
import { LevelControlClient } from '@matter/main/behaviors/level-control'
import { OnOffClient } from '@matter/main/behaviors/on-off'
import { OperationalCredentialsClient } from '@matter/main/behaviors/operational-credentials'
import { WiFiNetworkDiagnosticsClient } from '@matter/main/behaviors/wi-fi-network-diagnostics'
import { ControllerBehavior, type ClientNode } from '@matter/main/node'
import { CommissioningError, MdnsService, MaximumCommissionedFabricsReachedError, PaseClient } from '@matter/protocol'
import { ManualPairingCodeCodec, QrPairingCodeCodec, VendorId } from '@matter/types'
import { readSetupCode } from '../core/commission'
import type { ChannelReading, DeviceLink, HomeOnDevice, JoinedDevice, Linked, LinkedChannel, LinkFault } from '../core/link'
import { SealedStorage } from './sealed-storage'
import { within } from './within'

/** So long a device is looked for, and an answer is waited for: one that got another address has to be found again first, ms. */
const usualPatience = { look: 25_000, answer: 20_000 }
/** What is on its way to a device that is away is given up when the link is closed, ms. */
const closesWithinMs = 4_000
/** A device that does not say within this that it has done what it was told did not do it, ms. */
const followsWithinMs = 4_000
/** How often the number of a window is stirred; the standard asks for 1,000 at least (from memory). */
const verifierRounds = 1_000
/** It is found in the home’s network, not by a radio of its own: bit 2 of the standard’s table (from memory). */
const onNetwork = 4
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
    private of: FabricOf,
    private readonly node: ServerNode,
    private readonly peers: Map<string, string>,
    private readonly storage: SealedStorage,
  ) {}

  /** Opens the fabric of a job. Throws `FabricInUse` while another process has it, and where the key does not fit. */
  static async open(of: FabricOf): Promise<Fabric> {
    mkdirSync(of.folder, { recursive: true, mode: 0o700 })
    lock(lockOf(of))
    tidy(of)
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
    // One that was reset since carries the installer no more, whatever is kept here of it.
    if (known && (await answers(known))) return { ok: true, device: { ...(await describe(known)), ms: 0 } }
    try {
      const peer = await this.node.peers.commission({
        ...howToFind(code),
        timeout: Millis(this.patience.look),
        onAttestationFailure: () => this.of.standIns,
      })
      this.peers.set(unitId, peer.id)
      this.keepPeers()
      await known?.delete().catch(() => undefined)
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
  async open(unitId: string, seconds: number): Promise<Linked<{ code: string; square: string }>> {
    return this.with<{ code: string; square: string }>(unitId, 0, async (root) => {
      const window = root.commandsOf(AdministratorCommissioningClient)
      // One that is open already has a code that nobody knows any more.
      await window.revokeCommissioning().catch(() => undefined)
      const crypto = Environment.default.get(Crypto)
      const [passcode, discriminator] = [PaseClient.generateRandomPasscode(crypto), PaseClient.generateRandomDiscriminator(crypto)]
      const pbkdf = { iterations: verifierRounds, salt: crypto.randomBytes(32) }
      await window.openCommissioningWindow({
        commissioningTimeout: seconds,
        pakePasscodeVerifier: await PaseClient.generatePakePasscodeVerifier(crypto, passcode, pbkdf),
        discriminator,
        ...pbkdf,
      })
      const { vendorId = VendorId(0), productId = 0 } = await root.getStateOf(BasicInformationClient, ['vendorId', 'productId'])
      const square = { version: 0, vendorId, productId, flowType: 0, discriminator, passcode, discoveryCapabilities: onNetwork }
      return { ok: true, code: ManualPairingCodeCodec.encode({ discriminator, passcode }), square: QrPairingCodeCodec.encode([square]) }
    })
  }
  async homes(unitId: string): Promise<Linked<{ homes: HomeOnDevice[] }>> {
    return this.with<{ homes: HomeOnDevice[] }>(unitId, 0, async (root) => ({ ok: true, homes: await homesOn(root) }))
  }
  async leave(unitId: string, anyway: boolean): Promise<Linked<{ homesLeft: number | null }>> {
    const peer = this.peerOf(unitId)
    if (!peer) return { ok: false, fault: 'notLinked', note: '' }
    try {
      // Asked first: a device that is away is not given up.
      const homes = await within(this.patience.answer, homesOn(peer))
      if (!anyway && homes.length > 0 && homes.every(({ own }) => own)) return { ok: false, fault: 'onlyHome', note: '' }
      await peer.decommission()
      this.peers.delete(unitId)
      this.keepPeers()
      return { ok: true, homesLeft: homes.length ? homes.filter(({ own }) => !own).length : null }
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
  /** The office has begun anew with another key while devices are still held here: they are kept, under the new one. */
  reseal(key: Buffer): void {
    if (key.equals(this.of.key)) return
    this.of = { ...this.of, key }
    this.storage.reseal(fileOf(this.of), key)
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

/** Which key a file is sealed with, without telling anything of the key. */
const keyId = (key: Buffer) => createHash('sha256').update('fabric file').update(key).digest('hex').slice(0, 12)
const fileOf = ({ folder, jobId, key }: FabricOf) => join(folder, `${jobId}-${keyId(key)}.fabric`)
/** What the office has thrown away the key of is worth nothing: the home was left, and is begun anew. */
function tidy(of: FabricOf): void {
  const file = fileOf(of)
  // Files were named by their job alone before.
  const unnamed = join(of.folder, `${of.jobId}.fabric`)
  if (existsSync(unnamed) && !existsSync(file)) renameSync(unnamed, file)
  for (const name of readdirSync(of.folder))
    if (name.startsWith(`${of.jobId}-`) && join(of.folder, name) !== file) rmSync(join(of.folder, name), { force: true })
}
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

/** Does it still carry this installer? One that was reset refuses its key, or is silent. */
const answers = (peer: ClientNode): Promise<boolean> =>
  within(followsWithinMs, homesOn(peer)).then(
    (homes) => homes.some(({ own }) => own),
    () => false,
  )
/** All homes on a device, not only that of whoever asks. */
async function homesOn(root: Endpoint): Promise<HomeOnDevice[]> {
  const { fabrics, currentFabricIndex } = await root.getStateOf(OperationalCredentialsClient, ['fabrics', 'currentFabricIndex'], {
    fabricFilter: false,
    includeKnownVersions: true,
  })
  return (fabrics ?? []).map(({ label, fabricIndex }) => ({ label, own: fabricIndex === currentFabricIndex }))
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
