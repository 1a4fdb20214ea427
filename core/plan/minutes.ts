/** Minutes that things take. Common practice, no source: a crew’s own finished visits will tell better. */
export const minutes = {
  /** A device on the wall: old one out, conductors found, new one in, tested. */
  device: 26,
  /** Joining it and naming it. */
  pairing: 6,
  companion: 18,
  batteryCompanion: 9,
  /** Old conductors joined behind a location that keeps no wire. */
  joinThrough: 10,
  moduleBehind: 38,
  eachFurtherChannel: 12,
  relayAtFixture: 36,
  senderBehind: 16,
  lamp: 4,
  guard: 4,
  plugIn: 6,
  hub: 25,
  plate: 3,
  /** A neutral through an opened wall, closed again; the painter comes after. */
  pullNeutral: 150,
  /** Looking again where a neutral was expected and none is: said by how likely that is. */
  surprise: 70,
} as const

/** Years a thing usually lasts. Common practice, no source. */
export const lastsYears = { device: 12, module: 10, battery: 8, lamp: 6, plugIn: 7 } as const
/** Callbacks a device a year before anything is known of its model; so many device-years the guess weighs. Common practice, no source. */
export const usualCallbacks = 0.04
export const guessWeighsYears = 12
/** Callbacks a year that one expects of a model: the company’s own record, drawn towards the usual while there is little of it. */
export const callbacksOf = (record: { callbacks: number; deviceYears: number } | undefined): number =>
  ((record?.callbacks ?? 0) + usualCallbacks * guessWeighsYears) / ((record?.deviceYears ?? 0) + guessWeighsYears)
