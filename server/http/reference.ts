import { z } from 'zod'
import { jobCommandSchema } from '../../core/record'
import { siteCommandSchema } from '../../core/safety'
import type { RouteContract } from './route'

export interface ListedRoute {
  method: string
  path: string
  contract: RouteContract
}

/** `jobs/[id]/index.get.ts` → GET /api/jobs/:id */
export function routeOfFile(file: string, contract: RouteContract): ListedRoute {
  const match = /^(.*)\.(get|post|patch)\.ts$/.exec(file)
  if (!match) throw new Error(`${file} is no route file.`)
  const path = `/api/${match[1]}`.replace(/\/index$/, '').replace(/\[(\w+)\]/g, ':$1')
  return { method: match[2]!.toUpperCase(), path, contract }
}

const fence = (schema: z.ZodType) => [
  '```json',
  JSON.stringify(z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }), null, 1),
  '```',
  '',
]

/** The API reference, made from the schemas the routes validate with. */
export function apiReference(routes: ListedRoute[]): string {
  const lines = [
    '# API reference',
    '',
    'Made from the schemas (`npm run docs:api`); do not edit.',
    '',
    'JSON in, JSON out. A session cookie comes from `POST /api/auth/login`. Errors are `{ "error": { "code", "message", "details" } }` with 400 (not a proper request), 401 (nobody logged in), 403 (not for this role, or from another site), 404 (not there, or not yours), 409 (a conflict), 413, 415, 422 (a file with faults) or 429 (too many tries).',
    '',
    'A *refused command* is no error: it answers 200 with `status: "refused"`, the reasons and the shortest way to yes, and is stored like an accepted one.',
    '',
    '| Route | For | What |',
    '| --- | --- | --- |',
    ...routes.map(
      ({ method, path, contract }) =>
        `| \`${method} ${path}\` | ${typeof contract.access === 'string' ? contract.access : contract.access.join(', ')} | ${contract.summary}${contract.answers ? ` Answers ${contract.answers}.` : ''} |`,
    ),
    '',
  ]
  for (const { method, path, contract } of routes) {
    if (!contract.query && !contract.body) continue
    lines.push(`## ${method} ${path}`, '')
    if (contract.query) lines.push('Query:', '', ...fence(contract.query))
    if (contract.body) lines.push('Body:', '', ...fence(contract.body))
  }
  lines.push('## Commands of a site', '', ...fence(siteCommandSchema), '## Commands of a job', '', ...fence(jobCommandSchema))
  return lines.join('\n')
}
