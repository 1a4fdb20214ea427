import type { ApiProblem } from '../../server/http/route'

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

/** Asks the server. Never throws: a refusal and a lost connection are values. */
export async function api<T>(
  path: string,
  options: { method?: 'GET' | 'POST' | 'PATCH'; body?: unknown; raw?: Blob; /** The answer is a file, not JSON. */ file?: boolean } = {},
): Promise<Answer<T>> {
  let response: Response
  try {
    response = await fetch(path, {
      method: options.method ?? (options.body !== undefined || options.raw ? 'POST' : 'GET'),
      headers: options.raw
        ? { 'content-type': options.raw.type || 'application/octet-stream' }
        : options.body !== undefined
          ? { 'content-type': 'application/json' }
          : {},
      body: options.raw ?? (options.body !== undefined ? JSON.stringify(options.body) : undefined),
      credentials: 'same-origin',
    })
  } catch {
    return { ok: false, problem: offline }
  }
  if (response.ok && options.file) return { ok: true, value: (await response.blob()) as T }
  const data: unknown = await response.json().catch(() => null)
  if (response.ok) return { ok: true, value: data as T }
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
