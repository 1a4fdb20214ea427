import { eachText } from './each-text'
import type { SchemeId } from './scheme'

/** Regions of English whose clock, dates and decimal sign a branch may choose. */
export const localeIds = [
  'en-US',
  'en-CA',
  'en-GB',
  'en-IE',
  'en-AU',
  'en-NZ',
  'en-IN',
  'en-ZA',
  'en-CH',
  'en-DE',
  'en-NL',
  'en-SE',
] as const
export type LocaleId = (typeof localeIds)[number]

/** What a branch that has chosen nothing writes times and numbers by. Common practice, no source. */
export const usualLocale: Record<SchemeId, LocaleId> = { na120: 'en-US', iec230: 'en-GB' }

/** Where something is told: times are that zone's, written as one does there. */
export interface Region {
  zone: string
  locale: LocaleId
}
export const regionOf = (
  branch: { timezone: string; schemeId: SchemeId; settings: { locale?: LocaleId | null } } | null | undefined,
): Region => ({
  zone: branch?.timezone ?? 'UTC',
  locale: branch?.settings.locale ?? usualLocale[branch?.schemeId ?? 'na120'],
})

/** A formatter costs far more to make than to use, and screens use one for every sentence: each is made once. */
function once<O, F>(make: (locale: string, options?: O) => F): (locale: string, options?: O) => F {
  const made = new Map<string, F>()
  return (locale, options) => {
    const key = `${locale} ${JSON.stringify(options)}`
    const known = made.get(key) ?? make(locale, options)
    made.set(key, known)
    return known
  }
}
export const formatOf = once((locale, options?: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(locale, options))
const numbersOf = once((locale, options?: Intl.NumberFormatOptions) => new Intl.NumberFormat(locale, options))
/** A time of day does not break, nor hold narrow spaces that no shipped font has. */
const unbroken = (text: string) => text.replace(/\s/g, '\u00a0')
const plainSpaces = (text: string) => text.replace(/[\u202f\u2009]/g, ' ')

/** The time of day there: 18:26, or 6:26 PM. Empty for what is no time. */
export function clockOf(iso: string, { zone, locale }: Region): string {
  const at = Date.parse(iso)
  return Number.isNaN(at) ? '' : unbroken(formatOf(locale, { timeZone: zone, timeStyle: 'short' }).format(at))
}
/** A time of day, minutes after midnight, as one writes it there. */
export const clockOfDay = (minute: number, locale: LocaleId): string =>
  unbroken(formatOf(locale, { timeZone: 'UTC', timeStyle: 'short' }).format(minute * 60_000))
/** Day, month and time of a moment there, where the year goes without saying. */
export const shortMomentOf = (iso: string, { zone, locale }: Region): string =>
  plainSpaces(
    formatOf(locale, { timeZone: zone, day: 'numeric', month: 'short', hour: 'numeric', minute: '2-digit' }).format(Date.parse(iso)),
  )
/** Day, month, year and time of a moment there, for papers. */
export const momentOf = (iso: string, { zone, locale }: Region): string =>
  plainSpaces(formatOf(locale, { timeZone: zone, dateStyle: 'medium', timeStyle: 'short' }).format(Date.parse(iso)))
/** A date without a time as it is written there. */
export const dateIn = (date: string, locale: LocaleId): string =>
  Number.isNaN(Date.parse(date)) ? date : plainSpaces(formatOf(locale, { timeZone: 'UTC', dateStyle: 'medium' }).format(Date.parse(date)))

/** The decimal sign there. */
export const decimalSign = (locale: LocaleId): string =>
  numbersOf(locale)
    .formatToParts(0.5)
    .find(({ type }) => type === 'decimal')!.value
/** A number as it is written there, without groups: nobody is to take a group for a decimal sign. */
export const numberIn = (value: number, locale: LocaleId, decimals?: number): string =>
  numbersOf(locale, { useGrouping: false, minimumFractionDigits: decimals ?? 0, maximumFractionDigits: decimals ?? 10 }).format(value)

const measured = /(?<![\d.,(])(\d+)\.(\d+)(?=[ \u00a0]?(?:[kMm]?V|[kM]?Ω|m?A|k?W|in³|mm²?|GHz|h)(?![\w²³]))/g
// A serial may look like a date: only what something ended on is one.
const isoDate = /(?<= ended on )\d{4}-\d{2}-\d{2}(?![\w-])/g
/** Sentences with their dates and measured values as they are written there; only what has its unit is a measured value. */
export function inRegion<T>(said: T, locale: LocaleId): T {
  const sign = decimalSign(locale)
  return eachText(said, (text) => text.replace(measured, `$1${sign}$2`).replace(isoDate, (date) => dateIn(date, locale)))
}
