import type { ApiAnswer, ApiGiven, ApiProblem, Route } from '../../core/protocol'

/** What the server refused, as a value a screen can show. */
export interface Problem {
  status: number
  code: string
  message: string
  details: unknown
}

export type Answer<T> = { ok: true; value: T } | { ok: false; problem: Problem }

const offline: Problem = {
  status: 0,
  code: 'offline',
  message: 'No connection to the server. Nothing was sent; what you entered is still here.',
  details: null,
}

/** A picture goes as it is. */
type Extra = { raw?: Blob }
/** Where a route is, with the parameters of its address and its query. */
function addressOf<R extends Route>(route: R, { params, query }: { params?: unknown; query?: unknown } = {}): string {
  const path = route.slice(route.indexOf(' ') + 1).replace(/:(\w+)/g, (_, name: string) => (params as Record<string, string>)[name]!)
  const asked = Object.entries((query ?? {}) as Record<string, unknown>).flatMap(([name, value]) =>
    value === undefined || value === '' ? [] : [[name, String(value)]],
  )
  return asked.length ? `${path}?${new URLSearchParams(asked)}` : path
}

/** Asks the server, as its contract says. Never throws: a refusal and a lost connection are values. */
export async function api<R extends Route>(
  ...[route, given]: Record<never, never> extends ApiGiven<R>
    ? [route: R, given?: ApiGiven<R> & Extra]
    : [route: R, given: ApiGiven<R> & Extra]
): Promise<Answer<ApiAnswer<R>>> {
  const { body, raw } = (given ?? {}) as { body?: unknown } & Extra
  let response: Response
  try {
    response = await fetch(addressOf(route, given), {
      method: route.slice(0, route.indexOf(' ')),
      headers: raw
        ? { 'content-type': raw.type || 'application/octet-stream' }
        : body !== undefined
          ? { 'content-type': 'application/json' }
          : {},
      body: raw ?? (body !== undefined ? JSON.stringify(body) : undefined),
      credentials: 'same-origin',
    })
  } catch {
    return { ok: false, problem: offline }
  }
  const isJson = response.headers.get('content-type')?.startsWith('application/json') ?? false
  if (response.ok && !isJson) return { ok: true, value: (await response.blob()) as ApiAnswer<R> }
  const data: unknown = await response.json().catch(() => null)
  if (response.ok) return { ok: true, value: data as ApiAnswer<R> }
  const error = (data as ApiProblem | null)?.error
  return {
    ok: false,
    problem: {
      status: response.status,
      code: error?.code ?? 'internal',
      message: error?.message ?? 'Something went wrong on the server. Nothing was changed.',
      details: error?.details ?? null,
    },
  }
}

/** The list of faults some problems carry. */
export function faultsOf(problem: Problem | null): { where: string; problem: string }[] {
  return Array.isArray(problem?.details) ? (problem.details as { where: string; problem: string }[]) : []
}

/** Does a fault lie at a path, or below it? */
export const liesAt = (where: string, path: string): boolean =>
  where === path || where.startsWith(`${path}.`) || where.startsWith(`${path}[`)
/** What is wrong at one field, by the path the server names it with; also what lies below that path. */
export const faultAt = (problem: Problem | null, path: string): string | undefined =>
  faultsOf(problem).find(({ where }) => liesAt(where, path))?.problem
