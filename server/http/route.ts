import {
  defineEventHandler,
  getQuery,
  getRequestHeader,
  getRouterParams,
  setResponseHeader,
  setResponseHeaders,
  setResponseStatus,
  type EventHandler,
  type H3Event,
} from 'h3'
import type { z } from 'zod'
import type { ApiProblem, Contract } from '../../core/protocol'
import { plainProblem } from '../../core/stream'
import { troubleOf, type Trouble } from '../database/transact'
import { sawTrouble } from '../metrics'
import { needRole, type Viewer } from '../services/access'
import { leaveLine } from '../services/access-record'
import { ApiError } from '../services/errors'
import { askerHears, askerWent } from '../services/thread'
import { bodyWithin } from './raw-body'
import { sessionViewer } from './session'
import { isPaper, isTold, keepForOpening, takeKept, Telling } from './told'

type Parsed<S> = S extends z.ZodType ? z.infer<S> : undefined
export interface RouteCall<C extends Contract> {
  event: H3Event
  viewer: C['access'] extends 'public' ? null : Viewer
  params: Parsed<C['params']>
  query: Parsed<C['query']>
  body: Parsed<C['body']>
}

export type ContractedHandler = EventHandler & { contract: Contract }

const bodyLimitBytes = 2 * 1024 * 1024

function parse(schema: z.ZodType | undefined, value: unknown, part: string): unknown {
  if (!schema) return undefined
  const parsed = schema.safeParse(value, { error: plainProblem })
  if (!parsed.success)
    throw new ApiError(
      400,
      'badRequest',
      `Something in the ${part} is missing or wrong.`,
      parsed.error.issues.map((issue) => ({ where: issue.path.join('.') || part, problem: issue.message })),
    )
  return parsed.data
}

async function readJson(event: H3Event): Promise<unknown> {
  if (!getRequestHeader(event, 'content-type')?.toLowerCase().startsWith('application/json'))
    throw new ApiError(415, 'notJson', 'This route takes JSON.')
  const raw = await bodyWithin(event, bodyLimitBytes, 'This is more than 2 MB.')
  const text = raw.toString('utf8')
  let read: unknown
  try {
    read = JSON.parse(text)
  } catch {
    throw new ApiError(400, 'badJson', 'This is not JSON.')
  }
  // Such signs are rare: only a text that has some is looked through.
  if (mayBeUnwritable.test(text) && hasUnwritable(read))
    throw new ApiError(
      400,
      'unwritable',
      'There is a sign in it that nobody can read: a control character, half of a letter, or a turn of the writing. Type it again.',
    )
  return read
}
/** Control characters, halves of letters, and marks that turn the rest of a line around: no database, paper or voice gives them back as they came. */
// eslint-disable-next-line no-control-regex -- they are what is looked for
const unwritable = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u202d\u202e]/
const mayBeUnwritable = /\\u(?:00[01]|d[89a-f]|202[de])|[\u202d\u202e]/i
function hasUnwritable(value: unknown): boolean {
  const left = [value]
  while (left.length) {
    const one = left.pop()
    if (typeof one === 'string') {
      if (unwritable.test(one) || !one.isWellFormed()) return true
    } else if (typeof one === 'object' && one !== null) for (const [key, part] of Object.entries(one)) left.push(key, part)
  }
  return false
}

/** What whoever asked may do: the same again. */
const notStored = 'Nothing was stored; the same again in a moment.'
const busy = { code: 'databaseBusy', message: `Too many are writing at once. ${notStored}` }
const troubleWords: Record<Trouble, { code: string; message: string }> = {
  away: {
    code: 'databaseAway',
    message: 'The database does not answer just now. The same request again in a moment finds out what was stored.',
  },
  deadlock: busy,
  locked: busy,
  readOnly: { code: 'databaseReadOnly', message: `The database takes no changes just now. ${notStored}` },
  full: { code: 'databaseFull', message: `The database has no room left: tell whoever keeps the server. ${notStored}` },
}

export function answerProblem(event: H3Event, error: unknown): ApiProblem {
  if (error instanceof ApiError) {
    setResponseStatus(event, error.status)
    return { error: { code: error.code, message: error.message, details: error.details } }
  }
  const trouble = troubleOf(error)
  if (trouble !== null) {
    sawTrouble(trouble)
    // One line: a database that is away fails every request alike.
    console.error(`${new Date().toISOString()} the database is in trouble (${trouble}): ${(error as Error).message}`)
    setResponseStatus(event, 503)
    return { error: { ...troubleWords[trouble], details: null } }
  }
  // Whoever asked has gone: there is nobody to answer, and nothing was wrong.
  if (!event.node.res.closed) console.error(new Date().toISOString(), event.context.requestId ?? '', error)
  setResponseStatus(event, 500)
  return { error: { code: 'internal', message: 'Something went wrong on the server. Nothing was changed.', details: null } }
}

/** Told when the line is cut before there was an answer. */
function wentOf({ node: { res } }: H3Event): AbortSignal {
  const went = new AbortController()
  res.once('close', () => res.writableFinished || went.abort())
  return went.signal
}

/** Once it was done, or the file was made: what it was about is in its address, its body, or what it made. */
async function leave(
  { deed, of }: NonNullable<Contract['leaves']>,
  viewer: Viewer,
  call: { params: unknown; body: unknown },
  said: unknown,
) {
  const idOf = (part: unknown) => (part as { id?: string } | undefined)?.id ?? null
  const changes = deed === 'tester' ? Object.keys(call.body as object).map((field) => ({ field, from: '', to: '' })) : []
  await leaveLine(viewer, { deed, what: of, refId: idOf(call.params) ?? idOf(said), changes })
}

/** What a handler returns: the answer of its contract, or the bytes or text of a file. */
type Said<C extends Contract> =
  (C['answer'] extends z.ZodType ? z.input<C['answer']> : never) | (C['file'] extends string ? Uint8Array | string | undefined : never)

/** Tests hold every answer to its contract, and to nothing beside it: what is in no contract is no business of a client. */
const checksAnswers = process.env.CIRCUITRY_CHECK_ANSWERS === '1'
function asPromised(contract: Contract, said: unknown): unknown {
  if (!checksAnswers || !contract.answer || said instanceof Uint8Array || (contract.file && typeof said === 'string')) return said
  const parsed = contract.answer.safeParse(JSON.parse(JSON.stringify(said)))
  if (!parsed.success) throw new Error(`${contract.route} answers something else than it promises: ${parsed.error.message}`)
  return said
}

/**
 * A thin route: authenticates, authorises by role, validates with Zod, calls a service, answers. Errors are typed:
 * `{ error: { code, message, details } }` with 400, 401, 403, 404, 405, 409, 413, 415, 422, 429 or 503.
 */
export function defineRoute<C extends Contract>(
  contract: C,
  handle: (call: RouteCall<C>) => Said<C> | Promise<Said<C>>,
): ContractedHandler {
  const handler = defineEventHandler(async (event) => {
    setResponseHeader(event, 'cache-control', 'no-store')
    let telling: Telling | null = null
    try {
      let viewer: Viewer | null = null
      if (contract.access !== 'public') {
        viewer = await sessionViewer(event)
        if (!viewer) throw new ApiError(401, 'notLoggedIn', 'Log in first.')
        event.context.personId = viewer.personId
        if (contract.access !== 'crew') needRole(viewer, [...contract.access], `This is for: ${contract.access.join(', ')}.`)
      }
      const call = {
        event,
        viewer,
        params: parse(contract.params, getRouterParams(event), 'address'),
        query: parse(contract.query, getQuery(event), 'query'),
        body: contract.body ? parse(contract.body, await readJson(event), 'request') : undefined,
      }
      const personId = viewer?.personId ?? ''
      if (isTold(contract, event)) telling = new Telling(event.node.res)
      else if (isPaper(contract)) {
        const made = takeKept(event, personId)
        if (made) setResponseHeaders(event, made.headers)
        if (made) return made.bytes
      }
      const work = () => askerWent.run(wentOf(event), () => handle(call as RouteCall<C>))
      const said = await (telling ? askerHears.run(telling.before, work) : work())
      if (contract.leaves && viewer) await leave(contract.leaves, viewer, call, said)
      if (!telling) return asPromised(contract, said)
      keepForOpening(event, personId, said as Uint8Array, telling.headers)
      telling.end({ made: true })
    } catch (error) {
      if (telling) return telling.failed(error)
      return answerProblem(event, error)
    }
  })
  return Object.assign(handler, { contract }) as ContractedHandler
}
