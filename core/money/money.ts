import { dinero, halfEven, multiply, toDecimal, transformScale } from 'dinero.js'
import { CHF, EUR, GBP, USD } from 'dinero.js/currencies'
import type { SchemeId } from '../units/scheme'
import { formatOfMoney } from './format'

/** Currencies a branch may do its sums in: two decimals each, so that cents are whole numbers everywhere. */
export const currencies = { USD, EUR, GBP, CHF } as const
export const currencyIds = ['USD', 'EUR', 'GBP', 'CHF'] as const
export type CurrencyId = (typeof currencyIds)[number]
export const usualCurrency: Record<SchemeId, CurrencyId> = { na120: 'USD', iec230: 'EUR' }

/** What a branch does its sums in: its own choice, else what is usual under its supply. */
export const currencyOf = ({ currency }: { currency: CurrencyId | null }, schemeId: SchemeId): CurrencyId =>
  currency ?? usualCurrency[schemeId]

/** Money of some currency; the currency itself is put in where it is shown. */
const of = (cents: number) => dinero({ amount: cents, currency: USD })

/**
 * An amount times a factor, to whole cents, half to even: halves do not pile up on one side.
 * @param cents whole cents
 * @param factor decimal, at most `decimals` digits behind the point
 */
export function timesHalfEven(cents: number, factor: number, decimals = 6): number {
  const scaled = Math.round(factor * 10 ** decimals)
  return transformScale(multiply(of(cents), { amount: scaled, scale: decimals }), 2, halfEven).toJSON().amount
}
/** Parts per ten thousand of an amount, half to even. */
export const share = (cents: number, basisPoints: number): number => timesHalfEven(cents, basisPoints / 10_000, 4)

/** To the nearest step of cents, half to even: 5 where the smallest coin is one of five. */
export function toStep(cents: number, step: number): number {
  if (step <= 1) return cents
  const whole = Math.floor(cents / step)
  const rest = cents - whole * step
  const up = rest * 2 > step || (rest * 2 === step && whole % 2 !== 0)
  return (whole + (up ? 1 : 0)) * step
}

/** As one writes it in files: 1234.50. */
export const decimalOf = (cents: number): string => toDecimal(of(cents))
/** As one writes it on papers and screens of that region. */
export const moneyIn = (cents: number, currency: CurrencyId, locale: string): string => formatOfMoney(locale, currency).format(cents / 100)

/** What somebody typed as an amount, in cents; null: it is none. Either decimal sign; no groups, for one could be taken for the other. */
export function typedCents(text: string): number | null {
  const match = /^\s*(\d{1,7})(?:[.,](\d{1,2}))?\s*$/.exec(text)
  return match ? Number(match[1]) * 100 + Number((match[2] ?? '0').padEnd(2, '0')) : null
}
