/** The words of the energy record, without the schemas: screens load these alone. */
/** Insulation colours a conductor can be recorded with. A colour is a hint and never a role. */
export const conductorColours = [
  'black',
  'red',
  'blue',
  'white',
  'grey',
  'green',
  'green-yellow',
  'bare',
  'brown',
  'yellow',
  'orange',
  'violet',
  'pink',
  'unknown',
] as const
export type ConductorColour = (typeof conductorColours)[number]
export const sourceKinds = ['service', 'generator', 'battery', 'solar', 'secondSupply'] as const
export const breakerRoles = ['main', 'feeder', 'branch'] as const
export const breakerStates = ['closed', 'open', 'tripped', 'unknown'] as const
export type BreakerState = (typeof breakerStates)[number]
/** Why a circuit is energised for a moment while boxes behind it stand open. */
export const energisePurposes = ['identify', 'pairing', 'wiresOut', 'test'] as const
export type EnergisePurpose = (typeof energisePurposes)[number]
