/** Conductor gauges that box fill knows, largest number is the thinnest. */
export const awgSizes = [18, 16, 14, 12, 10, 8, 6] as const
export type AwgSize = (typeof awgSizes)[number]

/** Metric conductor sizes used under the 230 V scheme, mm². */
export const metricSizes = [0.75, 1, 1.5, 2.5, 4, 6] as const

/** The larger (thicker) of two gauges: the smaller AWG number. */
export function largerAwg(a: AwgSize, b: AwgSize): AwgSize {
  return a < b ? a : b
}
