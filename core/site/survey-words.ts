/** The words of a survey, without the schemas: screens load these alone. */
/** What a box is: in the wall behind a plate, behind a fixture or a motor, or only there to join cables. */
export const boxKinds = ['wall', 'fixture', 'junction'] as const
export type BoxKind = (typeof boxKinds)[number]
export const boxKindWords: Record<BoxKind, string> = { wall: 'wall box', fixture: 'at a fixture', junction: 'junction box' }

/** How far somebody looked: at the plate only, or at what is behind it. */
export const lookDepths = ['platesOn', 'inside'] as const
export type LookDepth = (typeof lookDepths)[number]

/** What kind of home it is: homes of one kind and builder are wired alike. */
export const housingKinds = ['detached', 'row', 'flat', 'mobile'] as const
export type HousingKind = (typeof housingKinds)[number]
export const housingWords: Record<HousingKind, string> = {
  detached: 'detached house',
  row: 'row house',
  flat: 'flat',
  mobile: 'mobile home',
}

export const neutralFinds = ['here', 'behindNeighbour', 'none'] as const
export type NeutralFind = (typeof neutralFinds)[number]
export const neutralWords: Record<NeutralFind, string> = {
  here: 'neutral in the box',
  behindNeighbour: 'neutral behind the next device',
  none: 'no neutral in the box',
}

export const groundFinds = ['conductor', 'boxOnly', 'none'] as const
export type GroundFind = (typeof groundFinds)[number]
export const groundWords: Record<GroundFind, string> = {
  conductor: '{ground} conductor',
  boxOnly: '{ground} on the metal box only',
  none: 'no {ground}',
}

/** What sits in a gang now. */
export const oldDevices = ['switch', 'threeWay', 'fourWay', 'dimmer', 'fanRegulator', 'socket', 'combined', 'blank'] as const
export type OldDevice = (typeof oldDevices)[number]
export const oldDeviceWords: Record<OldDevice, string> = {
  switch: 'switch',
  threeWay: '{3-way}',
  fourWay: '{4-way}',
  dimmer: 'dimmer',
  fanRegulator: 'fan regulator',
  socket: 'socket',
  combined: 'switch and socket',
  blank: 'blank',
}

/** How the old device holds its conductors. */
export const holdKinds = ['screw', 'clamp', 'pushInRelease', 'pushInFixed', 'leads'] as const
export type HoldKind = (typeof holdKinds)[number]
export const holdWords: Record<HoldKind, string> = {
  screw: 'screws',
  clamp: 'clamps',
  pushInRelease: 'push-in with release',
  pushInFixed: 'push-in, no release',
  leads: 'flying leads',
}

/** What is wrong with a box as it stands; each is a line to offer, or a defect on the list. */
export const boxFaults = ['gasketBackwards', 'paintSealed', 'brittle', 'noGround', 'full', 'scorched', 'loose'] as const
export type BoxFault = (typeof boxFaults)[number]
export const boxFaultWords: Record<BoxFault, string> = {
  gasketBackwards: 'gasket fitted backwards',
  paintSealed: 'plate sealed with paint',
  brittle: 'brittle insulation',
  noGround: 'no {ground}',
  full: 'box too full',
  scorched: 'scorched',
  loose: 'loose in the wall',
}

/** Plates by size and material: what a row of devices has to fit behind. */
export const plateKinds = ['standard', 'midSize', 'oversize', 'metal', 'oddSpacing'] as const
export type PlateKind = (typeof plateKinds)[number]
export const plateWords: Record<PlateKind, string> = {
  standard: 'standard',
  midSize: 'mid-size',
  oversize: 'oversize',
  metal: 'metal',
  oddSpacing: 'odd spacing',
}

export const connectorKinds = ['twist', 'lever', 'pushIn', 'screw'] as const
export const connectorWords: Record<(typeof connectorKinds)[number], string> = {
  twist: 'twist-on',
  lever: 'lever',
  pushIn: 'push-in',
  screw: 'screw',
}

/** What watches a breaker’s circuit. */
export const protections = ['unknown', 'none', 'rcd', 'afci', 'both'] as const
export type Protection = (typeof protections)[number]
export const protectionWords: Record<Protection, string> = {
  unknown: 'not looked at',
  none: 'plain',
  rcd: '{rcd}',
  afci: 'arc fault',
  both: '{rcd} and arc fault',
}

/** What carries a home's network, and what devices join. */
export const networkKinds = ['router', 'accessPoint', 'extender', 'hub'] as const
export type NetworkKind = (typeof networkKinds)[number]
export const networkKindWords: Record<NetworkKind, string> = {
  router: 'router',
  accessPoint: 'access point',
  extender: 'extender',
  hub: 'hub',
}
export const networkBands = ['2.4', '5', '6'] as const
export type NetworkBand = (typeof networkBands)[number]
