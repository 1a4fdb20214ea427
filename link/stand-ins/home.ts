import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { Environment, Millis, Network, NetworkSimulator } from '@matter/general'
import { ServerNode } from '@matter/main'
import { ControllerBehavior } from '@matter/main/node'
import { MdnsService } from '@matter/protocol'
import { Chance } from '../../core/chance'
import { readSetupCode } from '../../core/commission'
import type { Surroundings } from '../../core/link'
import { within } from '../within'
import { StandIn } from './device'

/**
 * What is wrong with a stand-in, by how its serial ends: so that whoever tries the program out, or tests it, has one of each kind.
 * wide: it hears 2.4 GHz only, and the phone is at 5 · weak: every tenth packet is lost · full: it keeps no more homes · bound: it
 * belongs to somebody until it is reset, and waits for nobody · far: it answers by way of another region · dying: its relay follows
 * no more · alone: nobody of the household is there to scan the code that the link shows.
 */
export const standInFaults = {
  '-5G': 'wide',
  '-WEAK': 'weak',
  '-FULL': 'full',
  '-BOUND': 'bound',
  '-FAR': 'far',
  '-DYING': 'dying',
  '-ALONE': 'alone',
} as const
type StandInFault = (typeof standInFaults)[keyof typeof standInFaults]
const faultOf = (serial: string): StandInFault | null =>
  Object.entries(standInFaults).find(([end]) => serial.toUpperCase().endsWith(end))?.[1] ?? null

/** Common practice, no source: −55 dBm is good, −84 dBm hardly holds. */
const [usualDbm, weakDbm] = [-55, -84]
const lostOfWeak = 0.1
/** An answer by way of servers far away takes so much longer, ms. */
const farMs = 600

/** Somebody of the household takes the phone out and scans, ms. */
const scansAfterMs = 1_500
const householdLooksMs = 20_000
/** Closing waits for its devices no longer, ms. */
const closesWithinMs = 3_000

/** Addresses end in a byte: devices from 1 on, whoever comes to visit from here on. */
const [firstVisitor, mostVisitors] = [200, 50]
interface Placed {
  device: StandIn | null
  fault: StandInFault | null
  around: Surroundings
  code: string
}

/**
 * A home of simulated devices and its air, in this process: no socket is opened. A device comes to be when its code is asked for
 * the first time, as the record describes it.
 */
export class StandInHome {
  private readonly air = new NetworkSimulator()
  private readonly placed = new Map<string, Placed>()
  private readonly byAddress = new Map<string, Placed>()
  private visitors = 0
  private readonly chance = new Chance(11)
  /** The household’s own app. */
  private household: Promise<ServerNode> | null = null
  private scanning: Promise<unknown> = Promise.resolve()

  private constructor(private readonly file: string | null) {
    this.air.router.intercept((packet, route) => {
      // A question to everybody reaches all; of one that is off, or on another band, no answer is heard.
      const placed = this.byAddress.get(packet.sourceAddress) ?? this.byAddress.get(packet.destAddress)
      if (!placed) return route(packet)
      if (!hears(placed) || (placed.fault === 'weak' && this.chance.is(lostOfWeak))) return
      if (placed.fault === 'far') setTimeout(() => route(packet), farMs / 2).unref()
      else route(packet)
    })
  }

  /** A home, with the devices that were in it when it was closed. @param file null: it is forgotten with the process */
  static async open(file: string | null): Promise<StandInHome> {
    const home = new StandInHome(file)
    const before = file && existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as { code: string; around: Surroundings }[]) : []
    for (const { code, around } of before) await home.surround(around, code)
    return home
  }

  /** A network card for whoever is in this home. */
  host(): Network {
    return this.air.addHost(firstVisitor + (this.visitors++ % mostVisitors))
  }
  find(serial: string): StandIn | null {
    return this.placed.get(serial)?.device ?? null
  }

  /** Tells a device how its home is now; one that nobody knew is there from when its code is read. */
  async surround(around: Surroundings, code: string | null): Promise<void> {
    const known = this.placed.get(around.serial)
    if (known) {
      known.around = around
      return
    }
    if (!code) return
    const read = readSetupCode('openHome', code)
    if (!read.ok || read.code.kind === 'plain') return
    const { passcode } = read.code
    const discriminator = read.code.kind === 'qr' ? read.code.discriminator : read.code.shortDiscriminator << 8
    const fault = faultOf(around.serial)
    // A device keeps its place in the network, as a router would leave it.
    const host = this.air.addHost(1 + this.placed.size)
    const placed: Placed = { device: null, fault, around, code }
    this.placed.set(around.serial, placed)
    const { ipV4, ipV6 } = host.getIpMac('fake0')
    for (const address of [...ipV4, ...ipV6]) this.byAddress.set(address, placed)
    const environment = new Environment(around.serial, Environment.default)
    environment.set(Network, host)
    environment.set(MdnsService, new MdnsService(environment))
    placed.device = await StandIn.make(environment, {
      ...{ kind: around.kind, serial: around.serial, passcode, discriminator, watts: around.watts },
      ...{ dbm: fault === 'weak' ? weakDbm : usualDbm, dying: fault === 'dying', full: fault === 'full' },
    })
    this.keep()
  }
  /** Somebody of the household sees the code that a device was opened with, and joins it with their own app. */
  showHousehold(serial: string, code: string): void {
    if (this.placed.get(serial)?.fault === 'alone') return
    this.scanning = this.scanning
      .then(() => new Promise((resolve) => setTimeout(resolve, scansAfterMs)))
      .then(() => this.householdJoins(code))
      .catch(() => undefined)
  }
  /** @param code of a window that is open, or that on the device itself */
  async householdJoins(code: string): Promise<void> {
    this.household ??= controller(this.host())
    const { peers } = await this.household
    await peers.commission({ pairingCode: code, timeout: Millis(householdLooksMs), onAttestationFailure: () => true })
  }
  /** It is reset as its maker says: nobody is on it any more. */
  async reset(serial: string): Promise<void> {
    await this.placed.get(serial)?.device?.reset()
  }
  private keep(): void {
    const all = [...this.placed.values()].map(({ code, around }) => ({ code, around }))
    if (this.file) writeFileSync(this.file, JSON.stringify(all), { mode: 0o600 })
  }
  async close(): Promise<void> {
    await this.scanning
    // A device tells whoever listens to it that it goes; nobody is waited for who does not hear it.
    const all = [...this.placed.values()].map(({ device }) => device?.close())
    await within(closesWithinMs, Promise.all(all)).catch(() => undefined)
    await (await this.household)?.close()
  }
}

async function controller(network: Network): Promise<ServerNode> {
  const environment = new Environment('household', Environment.default)
  environment.set(Network, network)
  environment.set(MdnsService, new MdnsService(environment))
  const node = await ServerNode.create(ServerNode.RootEndpoint.with(ControllerBehavior), {
    id: 'household',
    environment,
    network: { port: 5540 },
    controller: { adminFabricLabel: 'Household' },
  })
  await node.start()
  return node
}
function hears({ fault, around, device }: Placed): boolean {
  if (!around.powered || (fault === 'wide' && !around.narrowBand)) return false
  if (fault === 'bound' && !around.reset) return false
  // Once it is in a home its window is nobody’s concern.
  return around.windowOpen || (device?.homes ?? 0) > 0
}
