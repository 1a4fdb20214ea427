/** Money in whole cents: rounding half to even, taxes by line or by document, amounts as people type and read them. */
export * from './money'
export * from './document'
export * from './default-settings'
export type { MoneySettings } from './settings'
