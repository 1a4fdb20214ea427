import type { Household, Wish } from './household.schema'

export const noWish: Wish = { stays: null, noLamps: false, cheapNow: false, colour: null }
/** What is taken of a household that nobody asked. Common practice, no source. */
export const usualHousehold: Household = { guests: false, plainControls: false, renovating: false, worksWith: '', years: 8 }
