import { z } from 'zod'
import { contracts, type Contract } from '../../core/protocol'
import { jobCommandSchema } from '../../core/job/schemas'
import { siteCommandSchema } from '../../core/site/schemas'

/** `jobs/[id]/index.get.ts` → `GET /api/jobs/:id` */
export function routeOfFile(file: string): string {
  const match = /^(.*)\.(get|post|patch)\.ts$/.exec(file)
  if (!match) throw new Error(`${file} is no route file.`)
  const path = `/api/${match[1]}`.replace(/\/index$/, '').replace(/\[(\w+)\]/g, ':$1')
  return `${match[2]!.toUpperCase()} ${path}`
}

const schema = (of: z.ZodType, io: 'input' | 'output') => z.toJSONSchema(of, { io, unrepresentable: 'any', target: 'draft-2020-12' })
const json = (of: object) => ({ 'application/json': { schema: of } })
const refers = (name: string) => ({ $ref: `#/components/schemas/${name}` })

const problems: Record<string, string> = {
  400: 'Not a proper request.',
  401: 'Nobody is logged in.',
  403: 'Not for this role, or from another site.',
  404: 'Not there, or not yours.',
  405: 'Not in this way.',
  409: 'A conflict.',
  413: 'Too large.',
  415: 'Not what this takes.',
  422: 'A file with faults.',
  429: 'Too many tries.',
  503: 'The database does not answer just now.',
}

function parameters({ params, query }: Contract): object[] {
  const of = (where: 'path' | 'query', given: z.ZodType | undefined) => {
    const { properties = {}, required = [] } = given ? schema(given, 'input') : {}
    return Object.entries(properties).map(([name, one]) => ({
      name,
      in: where,
      required: where === 'path' || required.includes(name),
      schema: one,
    }))
  }
  return [...of('path', params), ...of('query', query)]
}

function operation(of: Contract): object {
  const { answer, body, file, sends } = of
  const command = of.route === 'POST /api/commands'
  const taken = sends ? Object.fromEntries(sends.split(/, | or /).map((type) => [type, {}])) : null
  const given = command ? refers('CommandEnvelope') : body ? schema(body, 'input') : null
  return {
    summary: of.summary,
    tags: [of.route.split('/')[2]],
    ...(of.access === 'public' ? { security: [] } : {}),
    ...(typeof of.access === 'string' ? {} : { 'x-roles': of.access }),
    parameters: parameters(of),
    ...(taken ? { requestBody: { content: taken } } : given ? { requestBody: { required: true, content: json(given) } } : {}),
    responses: {
      200: {
        description: command ? 'The stored outcome: accepted, or refused with reasons and the shortest way to yes.' : 'As asked.',
        content: {
          ...(answer ? json(schema(answer, 'output')) : {}),
          ...(file ? Object.fromEntries(file.split(/, | or /).map((type) => [type, {}])) : {}),
        },
      },
      default: { $ref: '#/components/responses/Problem' },
    },
  }
}

function describe(): object {
  const paths: Record<string, Record<string, object>> = {}
  for (const one of contracts.values()) {
    const [method, path] = one.route.split(' ') as [string, string]
    ;(paths[path.replace(/:(\w+)/g, '{$1}')] ??= {})[method.toLowerCase()] = operation(one)
  }
  const envelope = contracts.get('POST /api/commands')!.body!
  return {
    openapi: '3.1.0',
    info: {
      title: 'Circuitry',
      version: '1',
      description:
        'JSON in, JSON out. A session cookie comes from POST /api/auth/login. A refused command is no error: it answers 200 with status “refused”, the reasons and the shortest way to yes, and is stored like an accepted one.',
    },
    security: [{ session: [] }],
    paths,
    components: {
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'nuxt-session' } },
      responses: {
        Problem: {
          description: Object.entries(problems)
            .map(([status, what]) => `${status}: ${what}`)
            .join(' '),
          content: json(refers('Problem')),
        },
      },
      schemas: {
        Problem: {
          type: 'object',
          required: ['error'],
          properties: {
            error: {
              type: 'object',
              required: ['code', 'message', 'details'],
              properties: { code: { type: 'string' }, message: { type: 'string' }, details: {} },
            },
          },
        },
        CommandEnvelope: {
          allOf: [schema(envelope, 'input')],
          properties: { command: { anyOf: [refers('SiteCommand'), refers('JobCommand')] } },
        },
        SiteCommand: schema(siteCommandSchema, 'input'),
        JobCommand: schema(jobCommandSchema, 'input'),
      },
    },
  }
}

let described: object | null = null
/** The API as OpenAPI 3.1, made once from the contracts that the routes validate with and the screens are typed by. */
export const openApi = (): object => (described ??= describe())
