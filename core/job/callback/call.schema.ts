import { z } from 'zod'
import { payers } from '../words'

/** A cause by the name it has in the triage; `own:` where somebody met one that was not listed. */
export const causeIdSchema = z
  .string()
  .max(60)
  .regex(/^([a-zA-Z]+|own:[0-9a-f-]{36})$/)
const answer = z.int().min(0).max(9).nullable()
const word = z.string().regex(/^[a-zA-Z]{2,30}$/)

/**
 * What was said on the telephone, and what was concluded from it then. Questions and symptoms by their names, answers by their
 * place: what another version asked is kept, too.
 */
export const callSchema = z.object({
  symptoms: z.array(word).max(8),
  answers: z.array(z.object({ question: word, answer: answer.describe('Null: doesn’t know.'), again: answer.optional() })).max(30),
  tried: z.array(z.object({ cause: causeIdSchema, mended: z.boolean() })).max(6),
  /** What ended the questions at once. */
  flags: z.array(word).max(10),
  /** Likeliest first; shares as they were believed then. */
  ranked: z.array(z.object({ cause: causeIdSchema, words: z.string().min(1).max(160), share: z.number().min(0).max(1) })).max(6),
  carry: z.array(z.string().min(1).max(80)).max(10),
  /** On site, as expected then. */
  minutes: z.int().min(0).max(600),
  licence: z.boolean(),
  payer: z.enum(payers).nullable(),
})
export type Call = z.infer<typeof callSchema>
