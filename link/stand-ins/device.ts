import type { Environment } from '@matter/main'
import { Endpoint, ServerNode, VendorId } from '@matter/main'
import { ElectricalPowerMeasurementServer } from '@matter/main/behaviors/electrical-power-measurement'
import { FanControlServer } from '@matter/main/behaviors/fan-control'
import { LevelControlServer } from '@matter/main/behaviors/level-control'
import { OccupancySensingServer } from '@matter/main/behaviors/occupancy-sensing'
import { OnOffServer } from '@matter/main/behaviors/on-off'
import { OperationalCredentialsServer } from '@matter/main/behaviors/operational-credentials'
import { WiFiNetworkDiagnosticsServer } from '@matter/main/behaviors/wi-fi-network-diagnostics'
import { DimmableLightDevice } from '@matter/main/devices/dimmable-light'
import { FanDevice } from '@matter/main/devices/fan'
import { OccupancySensorDevice } from '@matter/main/devices/occupancy-sensor'
import { OnOffLightDevice } from '@matter/main/devices/on-off-light'
import { OnOffPlugInUnitDevice } from '@matter/main/devices/on-off-plug-in-unit'
import { ElectricalPowerMeasurement } from '@matter/main/clusters/electrical-power-measurement'
import { FanControl } from '@matter/main/clusters/fan-control'
import { OccupancySensing } from '@matter/main/clusters/occupancy-sensing'
import { OperationalCredentials } from '@matter/main/clusters/operational-credentials'
import { WiFiNetworkDiagnostics } from '@matter/main/clusters/wi-fi-network-diagnostics'
import type { LinkedKind } from '../../core/link'

const Power = ElectricalPowerMeasurementServer.with('AlternatingCurrent')
const Metered = OnOffPlugInUnitDevice.with(Power)
const Sensor = OccupancySensorDevice.with(OccupancySensingServer.with('PassiveInfrared'))
/** A relay that clicks, and switches nothing any more. */
class DeadRelay extends OnOffServer {
  override on(): void {}
  override off(): void {}
}
/** Its list of homes is full. */
class FullList extends OperationalCredentialsServer {
  override async addNoc(): Promise<OperationalCredentials.NocResponse> {
    return { statusCode: OperationalCredentials.NodeOperationalCertStatus.TableFull }
  }
}
const Root = ServerNode.RootEndpoint.with(WiFiNetworkDiagnosticsServer)

export interface StandInOf {
  kind: LinkedKind
  serial: string
  passcode: number
  discriminator: number
  dbm: number
  /** What hangs on it, watts. */
  watts: number[]
  /** Its relay follows no more. */
  dying: boolean
  full: boolean
}
const maker = { vendorId: VendorId(0xfff1), vendorName: 'Stand-in', productId: 0x8000 }

/** A simulated device of the open home standard, with a radio and a wall switch of its own. */
export class StandIn {
  private constructor(
    private readonly node: ServerNode<typeof Root>,
    private readonly channels: Endpoint[],
    private readonly of: StandInOf,
  ) {}

  static async make(environment: Environment, of: StandInOf): Promise<StandIn> {
    const node = await ServerNode.create(of.full ? (Root.with(FullList) as typeof Root) : Root, {
      id: `stand-in-${of.serial.replace(/\W/g, '')}`,
      environment,
      network: { port: 5540 },
      commissioning: { passcode: of.passcode, discriminator: of.discriminator },
      productDescription: { name: of.kind, deviceType: OnOffLightDevice.deviceType },
      basicInformation: {
        ...maker,
        productName: `Stand-in ${of.kind}`,
        productLabel: of.kind,
        nodeLabel: '',
        serialNumber: of.serial,
        uniqueId: `unique ${of.serial}`.slice(0, 32),
      },
      wiFiNetworkDiagnostics: {
        bssid: new Uint8Array([2, 0, 0, 0, 0, 1]),
        securityType: WiFiNetworkDiagnostics.SecurityType.Wpa2,
        wiFiVersion: WiFiNetworkDiagnostics.WiFiVersion.N,
        channelNumber: 6,
        rssi: of.dbm,
      },
    })
    const channels = endpointsOf(of)
    for (const channel of channels) await node.add(channel)
    const standIn = new StandIn(node, channels, of)
    if (of.kind === 'meteringRelay')
      standIn.measure(
        channels[0]!,
        of.watts.reduce((sum, one) => sum + one, 0),
      )
    if (of.kind === 'fan') standIn.turn(channels[0]!)
    await node.start()
    return standIn
  }

  get homes(): number {
    return this.node.state.operationalCredentials.fabrics.length
  }
  /** What it was named. */
  get label(): string {
    return this.node.state.basicInformation.nodeLabel
  }
  isOn(channel = 0): boolean {
    return Boolean((this.channels[channel]!.stateOf(OnOffServer) as { onOff: boolean }).onOff)
  }
  /** Somebody presses it at the wall. */
  async press(channel = 0): Promise<void> {
    if (this.of.dying || this.of.kind === 'fan' || this.of.kind === 'sensor') return
    await this.channels[channel]!.act((agent) => agent.get(OnOffServer).toggle())
  }
  /** Somebody dims it at the wall. @param percent 1 to 100 */
  async set(percent: number, on: boolean): Promise<void> {
    const [channel] = this.channels
    await channel!.setStateOf(LevelControlServer, { currentLevel: Math.round((percent / 100) * 254) })
    await channel!.act((agent) => (on ? agent.get(OnOffServer).on() : agent.get(OnOffServer).off()))
  }
  /** It forgets everybody. */
  async reset(): Promise<void> {
    await this.node.erase()
    await this.node.start()
  }
  async close(): Promise<void> {
    await this.node.close()
  }

  /** A fan turns as it is set. */
  private turn(channel: Endpoint): void {
    channel.eventsOf(FanControlServer).percentSetting$Changed.on((percent: number | null) => {
      const fanMode = percent ? FanControl.FanMode.High : FanControl.FanMode.Off
      void channel.setStateOf(FanControlServer, { percentCurrent: this.of.dying ? 0 : (percent ?? 0), fanMode })
    })
  }
  /** What the lamp takes, as the relay’s own meter reads it: a little beside the truth. */
  private measure(channel: Endpoint, watts: number): void {
    const off = 0.3
    channel.eventsOf(OnOffServer).onOff$Changed.on((on: boolean) => {
      void channel.setStateOf(Power, {
        activePower: Math.round(1000 * (on ? watts * 1.02 : off)),
      })
    })
  }
}

function endpointsOf({ kind, dying }: StandInOf): Endpoint[] {
  switch (kind) {
    case 'switch':
      return [new Endpoint(dying ? OnOffLightDevice.with(DeadRelay) : OnOffLightDevice, { id: 'light' })]
    case 'dimmer':
      return [new Endpoint(DimmableLightDevice, { id: 'light' })]
    case 'fan':
      return [
        new Endpoint(FanDevice, {
          id: 'fan',
          fanControl: { fanModeSequence: FanControl.FanModeSequence.OffHigh, percentSetting: 0, percentCurrent: 0 },
        }),
      ]
    case 'twoChannel':
      return ['one', 'two'].map((id) => new Endpoint(OnOffPlugInUnitDevice, { id }))
    case 'meteringRelay':
      return [
        new Endpoint(Metered, {
          id: 'relay',
          electricalPowerMeasurement: {
            powerMode: ElectricalPowerMeasurement.PowerMode.Ac,
            numberOfMeasurementTypes: 1,
            accuracy: [
              {
                measurementType: 5,
                measured: true,
                minMeasuredValue: 0,
                maxMeasuredValue: 3_000_000,
                accuracyRanges: [{ rangeMin: 0, rangeMax: 3_000_000, percentMax: 200 }],
              },
            ],
            activePower: 300,
          },
        }),
      ]
    case 'sensor':
      return [
        new Endpoint(Sensor, {
          id: 'sensor',
          occupancySensing: {
            occupancySensorType: OccupancySensing.OccupancySensorType.Pir,
            occupancySensorTypeBitmap: { pir: true },
          },
        }),
      ]
  }
}
