/** Frequencies that devices of a home join on, MHz: the middle of the band. */
export const bandMHz = { '2.4': 2437, '5': 5240, '6': 6200 } as const
export type RadioBand = keyof typeof bandMHz

/**
 * Power loss coefficients N for transmission inside residential buildings, and the loss through n floors: ITU-R P.1238-10
 * (2019), tables 2 and 3, from memory. They hold without counting walls: the walls are in them.
 */
export const residential = {
  '2.4': { coefficient: 28, floorDb: (floors: number) => 5 * floors },
  '5': { coefficient: 28, floorDb: (floors: number) => 7 * floors },
  // Not in that edition’s table for homes: as 5 GHz.
  '6': { coefficient: 28, floorDb: (floors: number) => 7 * floors },
} as const

/** Spread around it in homes, dB: table 4 of the same edition, from memory. */
export const residentialShadowDb = 8

/** Loss between two places of a home, dB, walls in the coefficient. ITU-R P.1238: 20 log f + N log d + Lf(n) − 28; d from 1 m. */
export function residentialLossDb(band: RadioBand, metres: number, floors: number): number {
  const { coefficient, floorDb } = residential[band]
  return 20 * Math.log10(bandMHz[band]) + coefficient * Math.log10(Math.max(1, metres)) + floorDb(floors) - 28
}
/** Loss in free space, dB: 20 log f + 20 log d − 27.55 (ITU-R P.525). Walls that are counted come on top, and nothing else. */
export function freeSpaceLossDb(band: RadioBand, metres: number): number {
  return 20 * Math.log10(bandMHz[band]) + 20 * Math.log10(Math.max(1, metres)) - 27.55
}

/** A metal box or plate before the antenna, dB. Common practice, no source; measure it. */
export const metalBoxDb = 6

/**
 * What bars on a phone stand for, dBm, and how little they say. Bars are no standard: every maker draws them otherwise. Common
 * practice, no source.
 */
export const barsDbm = [-88, -80, -71, -63, -52] as const
export const barsSpreadDb = 5
