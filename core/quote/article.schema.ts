import { z } from 'zod'
import { articleKinds, lampColours } from './article-words'
import { gtinIsValid } from './gtin'

const cents = z.int().min(0).max(10_000_000)
const text = z.string().trim().min(1).max(80)
/** Where an article may be bought: the price of one, how long it takes, how many are in a pack. */
export const supplySchema = z.object({
  supplier: text,
  costCents: cents,
  leadDays: z.int().min(0).max(365),
  packOf: z.int().min(1).max(500),
})
/** What a branch sells and keeps: a device or a part of its lists, or something beside them. */
export const articleBodySchema = z.object({
  kind: z.enum(articleKinds),
  /** The device model or the part it is; null: of this list only. */
  refId: z.uuid().nullable(),
  maker: z.string().trim().max(60),
  name: text,
  /** The number under its bars: GTIN-8, -12, -13 or -14; empty: none on record. */
  gtin: z.union([z.literal(''), z.string().refine(gtinIsValid, 'The check digit of this number is wrong: look at it again.')]),
  /** Net, what a customer pays for one; null: no price yet, and so in no plan. */
  priceCents: cents.nullable(),
  /** A bin is refilled, not counted one by one. */
  bin: z.boolean().default(false),
  shelf: z.string().trim().max(20).default(''),
  supplies: z.array(supplySchema).max(6).default([]),
  /** What it joins beside its own app; `triedOn`: by us, that day. Promised only, it counts for nothing. */
  works: z
    .array(z.object({ with: z.string().trim().min(1).max(40), triedOn: z.iso.date().nullable() }))
    .max(12)
    .default([]),
  /** Of a kit: what is in it, by article of this branch. Received, it is its contents. */
  contents: z
    .array(z.object({ articleId: z.uuid(), quantity: z.int().min(1).max(100) }))
    .max(12)
    .default([]),
  lamp: z
    .object({ watts: z.number().positive().max(200), colour: z.enum(lampColours) })
    .nullable()
    .default(null),
  /** Of a hub: how many devices it holds. */
  holds: z.int().min(1).max(1000).nullable().default(null),
  /** Of a module that is plugged or screwed in: the most it switches, watts. */
  mostWatts: z.number().positive().max(5000).nullable().default(null),
})
export type ArticleBody = z.infer<typeof articleBodySchema>
export const articleSchema = articleBodySchema.extend({ id: z.uuid(), branchId: z.uuid(), active: z.boolean() })
export type Article = z.infer<typeof articleSchema>
