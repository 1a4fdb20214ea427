/** Rounds to a number of decimals without the binary tail (2.25 * 3 stays 6.75). */
export function roundTo(value: number, decimals: number): number {
  const factor = 10 ** decimals
  return Math.round((value + Number.EPSILON) * factor) / factor
}
