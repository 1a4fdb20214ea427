import { z } from 'zod'
import { lightColours } from './words'

/** What the household said of one point. */
export const wishSchema = z.object({
  /** It stays what it is: a dimmer, or the old switch on the wall. */
  stays: z.enum(['dimmer', 'old']).nullable(),
  noLamps: z.boolean(),
  cheapNow: z.boolean(),
  colour: z.enum(lightColours).nullable(),
})
export type Wish = z.infer<typeof wishSchema>
/** Who lives there, and what they are about to do. */
export const householdSchema = z.object({
  /** Visitors, tenants, guests: whoever was not shown how it works. */
  guests: z.boolean(),
  /** Somebody wants the wall as it always was. */
  plainControls: z.boolean(),
  /** Walls are open anyway. */
  renovating: z.boolean(),
  /** What everything is to work with, as its makers call it; empty: its own app is enough. */
  worksWith: z.string().trim().max(40),
  /** Years one looks ahead. */
  years: z.int().min(1).max(20),
})
export type Household = z.infer<typeof householdSchema>
