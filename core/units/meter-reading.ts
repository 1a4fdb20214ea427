import { typedNumber } from './typed-number'

const prefixes: Record<string, number> = { '': 1, n: 1e-9, u: 1e-6, µ: 1e-6, μ: 1e-6, m: 1e-3, k: 1e3, K: 1e3, M: 1e6, G: 1e9 }
const shape =
  /^[+\-−–]?\s*(?<digits>\d+(?:[.,]\d*)?|[.,]\d+)(?:e(?<power>[+\-−–]?\d{1,2}))?\s*(?<prefix>[nuµμmkKMG]?)(?<unit>v|Ω|Ω|ohms?)?\s*(?:ac|dc|~|rms|trms)?$/i
const overRange = /^[+\-−–>]?\s*0?\.?[o0]\.?l\.?\s*[kKmMgG]?\s*(?<unit>v|Ω|Ω|ohms?)?$/i

/**
 * What a linked meter has typed, in plain volts or ohms, without its sign: 120.4 · 118 mV · 0.12 kV · 1.204E+02 · 1.2 kΩ. A unit
 * that is left out would make 0.12 kV a dead conductor and 2 MΩ a joint.
 * @returns Infinity for OL on ohms; null for what cannot be understood, is of another quantity, or is over the range on volts
 */
export function meterReading(text: string, asked: 'V' | 'Ω'): number | null {
  const typed = text.trim()
  const isAsked = (unit: string | undefined) => unit === undefined || (/^v$/i.test(unit) ? 'V' : 'Ω') === asked
  const over = overRange.exec(typed)
  if (over) return asked === 'Ω' && isAsked(over.groups!.unit) ? Infinity : null
  const { digits, power = '0', prefix, unit } = shape.exec(typed)?.groups ?? {}
  if (digits === undefined || !isAsked(unit)) return null
  const factor = prefixes[prefix!]
  // A mega of volts is a milli written large: nobody knows which.
  if (factor === undefined || (asked === 'V' && factor > 1e3)) return null
  const value = typedNumber(digits) * 10 ** Number(power.replace(/[−–]/, '-')) * factor
  // 1.204E+02 is 120.4, and not a hair less.
  return Number(value.toPrecision(10))
}
