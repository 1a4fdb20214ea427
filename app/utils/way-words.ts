import type { Way } from '../../core/protocol'
import { numberIn } from '../../core/units'
import type { Region } from './time'

/** Where roads are measured in miles. Common practice, no source. */
const inMiles: ReadonlySet<string> = new Set(['en-US', 'en-GB'])
export function distanceWords(metres: number, { locale }: Region): string {
  const [unit, length] = inMiles.has(locale) ? ['mi', 1609.344] : ['km', 1000]
  const whole = metres / length
  if (whole < 0.05) return `under ${numberIn(0.1, locale)} ${unit}`
  return `${numberIn(whole < 10 ? Math.round(whole * 10) / 10 : Math.round(whole), locale)} ${unit}`
}

/** The turns of a way as one follows them; a ferry with when it is reached and when it lands. */
export const legWords = ({ name, kind, metres, from, to }: Way['legs'][number], region: Region): string =>
  kind === 'ferry'
    ? `${name}, there by ${clockTime(from, region)}, across at ${clockTime(to, region)}`
    : `${name}, ${distanceWords(metres, region)}`
