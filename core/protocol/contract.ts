import type { z } from 'zod'
import type { PersonRole } from '../stream'

/** What stands in a company’s access record. */
export const deeds = ['login', 'password', 'pin', 'person', 'branch', 'tester', 'link', 'homePage', 'file', 'erased'] as const
export type Deed = (typeof deeds)[number]

/**
 * What one route of the server takes, who may call it, and what it answers: the screens are typed by it, the server holds
 * itself to it, the API reference and the route tests are made from it.
 */
export interface Contract {
  /** Method and path, parameters with a colon: `GET /api/jobs/:id`. */
  route: `${'GET' | 'POST' | 'PATCH'} /api/${string}`
  summary: string
  /** public: nobody need be logged in · crew: anyone of the company · else: these roles. */
  access: 'public' | 'crew' | readonly PersonRole[]
  params?: z.ZodType
  query?: z.ZodType
  body?: z.ZodType
  /** What comes back as JSON; left out where it is a file or a stream. */
  answer?: z.ZodType
  /** The kind of file, or stream, that comes back. */
  file?: string
  /** The kind of file that is sent as it is. */
  sends?: string
  /** What it leaves in the access record once it was done, and of a file, what that is. */
  leaves?: { deed: Deed; of?: string }
}

/** What a page that waits for a paper is told, a line each: how many are made before it (none: it is being made), the end. */
export type PaperTold = { before: number } | { made: true } | { problem: { code: string; message: string } }

export const contract = <const C extends Contract>(of: C): C => of

type Input<S> = S extends z.ZodType ? z.input<S> : undefined
/** What a caller has to give: parameters of the address, query, body. */
export type Submission<C extends Contract> = (C['params'] extends z.ZodType ? { params: Input<C['params']> } : { params?: undefined }) &
  (C['query'] extends z.ZodType ? { query?: Input<C['query']> } : { query?: undefined }) &
  (C['body'] extends z.ZodType ? { body: Input<C['body']> } : { body?: undefined })
/** Its body, once it was checked. */
export type BodyOf<C extends Contract> = z.output<NonNullable<C['body']>>
/** What it answers, as JSON. */
export type AnswerOf<C extends Contract> = C['answer'] extends z.ZodType ? z.output<C['answer']> : C['file'] extends string ? Blob : never
