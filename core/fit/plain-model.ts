import type { DeviceModel } from './device-schema'

/** What is taken of a model whose data sheet says nothing of it: no derating, no family, nothing special. */
export const plainModel = {
  terminalAwg: 14,
  minWatts: 0,
  multiWay: 'single',
  firstIndicator: '',
  pairingSteps: [] as string[],
  pairingWindowMinutes: null,
  needsHub: false,
  leadsInterchangeable: false,
  metering: false,
  channelAmps: null,
  termination: null,
  ownPlate: false,
  oneGangOnly: false,
  besideOne: 1,
  betweenTwo: 1,
  family: '',
  radio: 'unknown',
  bothPoles: false,
  restart: '',
  reset: '',
  restartsBy: 'unknown',
  ownNetwork: '',
  signs: [] as DeviceModel['signs'],
  gestures: [] as DeviceModel['gestures'],
} satisfies Partial<DeviceModel>
