import { readdirSync, readFileSync } from 'node:fs'
import { request } from 'node:http'
import { jest } from '@jest/globals'
import sharp from 'sharp'
import { v7 as uuid } from 'uuid'
import { automationJsonSchema } from '../../core/automation'
import { jobFileJsonSchema } from '../../core/format'
import { closeDatabase, database } from '../../server/database'
import { contracts, type Contract } from '../../core/protocol'
import { greedyPlan } from '../../core/plan/greedy'
import { leaned, waysOf, weightsOf } from '../../core/plan'
import { openApi, routeOfFile } from '../../server/http/reference'
import { viewerOf } from '../../server/services/access'
import { planSource } from '../../server/services/plan-source'
import { hashPassword } from '../../server/services/secrets'

jest.setTimeout(120_000)
const url = process.env.CIRCUITRY_TEST_URL!
const files = readdirSync('server/api', { recursive: true })
  .map(String)
  .filter((name) => name.endsWith('.ts'))
  .sort()
/** Every contract, with its method and path. */
const routes = [...contracts.values()].map((contract: Contract) => {
  const [method, path] = contract.route.split(' ') as [string, string]
  return { method, path, contract }
})

type Session = (
  method: string,
  path: string,
  body?: unknown,
  headers?: Record<string, string>,
) => Promise<{ status: number; body: { error?: { code: string; message: string } } & Record<string, unknown>; headers: Headers }>
const session =
  (cookie: string): Session =>
  async (method, path, body, headers = {}) => {
    const answer = await fetch(url + path, {
      method,
      headers: { ...(cookie ? { cookie } : {}), ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      body: body === undefined ? undefined : body instanceof Uint8Array ? (body as BodyInit) : JSON.stringify(body),
    })
    const text = await answer.text()
    let parsed: never
    try {
      parsed = JSON.parse(text) as never
    } catch {
      parsed = {} as never
    }
    return { status: answer.status, body: parsed, headers: answer.headers }
  }
async function cookieOf(login: string, password = 'tide-and-lantern'): Promise<string> {
  const answer = await fetch(`${url}/api/auth/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login, password }),
  })
  if (!answer.ok) throw new Error(`login of ${login}: ${answer.status}`)
  return answer.headers.getSetCookie()[0]!.split(';')[0]!
}
const logIn = async (login: string, password?: string): Promise<Session> => session(await cookieOf(login, password))

const stranger = session('')
let lead: Session, tech: Session, rival: Session, quay: Session
let ids: Record<string, string>
const other = uuid()

beforeAll(async () => {
  ;[lead, tech, quay] = await Promise.all([logIn('odo.reed'), logIn('bram.ash'), logIn('sefa.vale')])
  // A second company on the same server, with a lead who knows every id of the first one.
  const { models, sequelize } = database()
  const branchId = uuid()
  await models.companies.create({ id: other, name: 'Rival', createdAt: new Date() })
  await sequelize.query('INSERT INTO feeds (company_id, seq) VALUES (:other, 0)', { replacements: { other } })
  await models.branches.create({ id: branchId, companyId: other, name: 'Rival', schemeId: 'na120', timezone: 'UTC', settings: {} })
  const login = `rival-${other.slice(-8)}`
  await models.people.create({
    id: uuid(),
    companyId: other,
    branchId,
    login,
    name: 'Rival Lead',
    initials: 'RL',
    role: 'lead',
    licensed: true,
    active: true,
    passwordHash: await hashPassword('rival password'),
    sessionEpoch: 0,
    pinHash: null,
  })
  rival = await logIn(login, 'rival password')
  const jobs = (await lead('GET', '/api/jobs')).body.jobs as { id: string; siteId: string; siteName: string; branchId: string }[]
  const job = jobs.find((entry) => entry.siteName === 'Tide House')!
  const unit = ((await lead('GET', '/api/units?search=Tide')).body.units as { id: string }[])[0]!
  const list = async (name: string) => ((await lead('GET', `/api/${name}`)).body[name] as { id: string }[])[0]!.id
  ids = {
    job: job.id,
    loft: jobs.find((entry) => entry.siteName === 'The Net Loft')!.id,
    site: job.siteId,
    unit: unit.id,
    people: await list('people'),
    branches: job.branchId,
    catalogue: await list('catalogue'),
    parts: await list('parts'),
    instruments: await list('instruments'),
    articles: ((await lead('GET', `/api/articles?branchId=${job.branchId}`)).body.articles as { id: string }[])[0]!.id,
  }
  // An offer that is open: its link is a key of its own.
  const boathouse = jobs.find((entry) => entry.siteName === 'The Boathouse')!
  const odo = (await models.people.findOne({ where: { login: 'odo.reed' } }))!
  const source = await planSource(await viewerOf(odo), boathouse.id)
  const problem = leaned(waysOf(source).problem, weightsOf('switches', 8))
  const offered = await lead('POST', `/api/jobs/${boathouse.id}/quotes`, { chosen: greedyPlan(problem).map(({ id }) => id) })
  ids.stock = ((await lead('GET', `/api/stock?branchId=${job.branchId}`)).body.places as { id: string }[])[0]!.id
  ids.quotes = String(offered.body.id)
  const around = new URLSearchParams({
    from: new Date(Date.now() - 86_400_000).toISOString(),
    to: new Date(Date.now() + 86_400_000).toISOString(),
    branchId: job.branchId,
  })
  ids.visits = ((await lead('GET', `/api/visits?${around}`)).body.visits as { id: string }[])[0]!.id
  ids.messages = ((await lead('GET', `/api/messages?branchId=${job.branchId}`)).body.messages as { id: string }[])[0]!.id
  const asked = {
    id: uuid(),
    kind: 'off',
    startsAt: new Date(Date.now() + 9e8).toISOString(),
    endsAt: new Date(Date.now() + 9.5e8).toISOString(),
  }
  ids.requests = String((await tech('POST', '/api/requests', asked)).body.id)
  ids.token = String(offered.body.link).split('/').at(-1)!
})
afterAll(() => closeDatabase())

/** A real address of the first company for a route, so that only rights stand between. */
const real = (path: string) =>
  path
    .replace(':unitId', ids.unit!)
    .replace(':callbackId', uuid())
    .replace(':token', ids.token!)
    .replace(':id', path.includes('/sites') ? ids.site! : path.includes('/photos/') ? uuid() : (ids[path.split('/')[2]!] ?? ids.job!))
/** What a question has to say besides. */
const asks = (path: string) => (path.endsWith('/claim') ? '?serial=SN-1' : '')
const guarded = () => routes.filter((route) => route.contract.access !== 'public')

test('every contract has its route and every route its contract', async () => {
  expect(files.map(routeOfFile).sort()).toEqual([...contracts.keys()].sort())
  for (const file of files)
    expect(((await import(`../../server/api/${file}`)) as { default: { contract: Contract } }).default.contract).toBe(
      contracts.get(routeOfFile(file)),
    )
})

test('the reference and the JSON Schema in docs/ are those of the contracts; the server hands the reference out', async () => {
  const reference = JSON.parse(JSON.stringify(openApi())) as { paths: Record<string, object> }
  expect(JSON.parse(readFileSync('docs/openapi.json', 'utf8'))).toEqual(reference)
  expect(JSON.parse(readFileSync('docs/job.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(jobFileJsonSchema())))
  expect(JSON.parse(readFileSync('docs/automation.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(automationJsonSchema())))
  expect((await stranger('GET', '/api/formats/api')).body).toEqual(reference)
  // Every reference in it leads somewhere.
  const text = JSON.stringify(reference)
  for (const [, path] of text.matchAll(/"\$ref":"#\/(.*?)"/g)) {
    let at: unknown = reference
    if (path!.startsWith('components/')) for (const part of path!.split('/')) at = (at as Record<string, unknown>)[part]
    expect([path, typeof at]).toEqual([path, 'object'])
  }
})

test('every route that is not public refuses a stranger with 401', async () => {
  expect(guarded().length).toBeGreaterThan(28)
  for (const route of guarded())
    expect(
      `${route.method} ${route.path} ${(await stranger(route.method, real(route.path), route.contract.body ? {} : undefined)).status}`,
    ).toBe(`${route.method} ${route.path} 401`)
})

test('every route with a body answers nonsense with 400 and says where; no JSON with 415; broken JSON with 400', async () => {
  for (const route of routes.filter((candidate) => candidate.contract.body)) {
    for (const nonsense of [
      { nonsense: true, id: 5, role: 'king', source: 7, name: 3, active: 'x', login: 4, company: [], settings: 9, model: 1 },
      [],
    ]) {
      const { status, body } = await lead(route.method, real(route.path), nonsense)
      // A change with nothing to change in it is allowed; it must not be a crash.
      expect(`${route.path} ${status}`).toBe(`${route.path} 400`)
      expect(body.error!.message.length).toBeGreaterThan(10)
    }
    expect(
      (await lead(route.method, real(route.path), new TextEncoder().encode('{"a":'), { 'content-type': 'application/json' })).status,
    ).toBe(400)
    expect((await lead(route.method, real(route.path), new TextEncoder().encode('hello'), { 'content-type': 'text/plain' })).status).toBe(
      415,
    )
  }
})

test('every route with an id answers nonsense with 400 and an unknown id with 404', async () => {
  for (const route of guarded().filter((candidate) => candidate.path.includes(':id') && !candidate.contract.body)) {
    const ask = (id: string) => lead(route.method, route.path.replace(':id', id).replace(/:(unit|callback)Id/, id) + asks(route.path))
    expect(`${route.path} ${(await ask('nonsense')).status}`).toBe(`${route.path} 400`)
    expect(`${route.path} ${(await ask(uuid())).status}`).toBe(`${route.path} 404`)
  }
  for (const path of ['/api/jobs?status=melted', '/api/visits?from=yesterday&to=today', '/api/events?stream=job&streamId=x&after=-1'])
    expect((await lead('GET', path)).status).toBe(400)
})

test('a lead of another company gets nothing, route by route', async () => {
  for (const route of guarded().filter((candidate) => candidate.path.includes(':id'))) {
    const body = {
      people: { name: 'Taken', text: '' },
      visits: { phone: '', email: '', id: uuid(), purpose: 'late', channel: 'sms', body: 'We come later than we said.' },
      messages: { recipient: '555 0199' },
      requests: route.path.endsWith('/withdraw') ? {} : { approve: false },
      branches: { name: 'Taken' },
      catalogue: { active: false },
      parts: { active: false },
      instruments: { active: false },
      articles: { active: false },
      quotes: route.path.endsWith('/sign') ? { totalCents: 0, signer: 'Rival', strokes: [[[0, 0]]] } : { reason: '' },
      stock: { name: 'Taken' },
      links: { despiteHomes: true },
      jobs: route.path.endsWith('/changes')
        ? { solutions: ['x'], reason: 'taken' }
        : route.path.endsWith('/link')
          ? { id: uuid(), unitId: uuid(), doing: 'join' }
          : route.path.endsWith('/home-page')
            ? { id: uuid(), months: 12, pin: null }
            : route.path.endsWith('/send')
              ? { id: uuid(), channel: 'sms', body: 'Here is the page of your home.' }
              : route.path.endsWith('/end')
                ? {}
                : { chosen: ['x'] },
      sites: { place: 'walk', otherId: ids.site, said: 'other', position: null },
    }[route.path.split('/')[2]!]
    expect(
      `${route.method} ${route.path} ${(await rival(route.method, real(route.path) + asks(route.path), route.contract.body ? body : undefined)).status}`,
    ).toBe(`${route.method} ${route.path} 404`)
  }
  for (const [stream, streamId] of [
    ['job', ids.job],
    ['site', ids.site],
  ] as const) {
    expect((await rival('GET', `/api/events?stream=${stream}&streamId=${streamId}&after=0`)).status).toBe(404)
    expect(
      (await rival('POST', '/api/commands', { id: uuid(), stream, streamId, at: new Date().toISOString(), command: { type: 'leaveSite' } }))
        .status,
    ).toBe(404)
  }
  const secret = /Tide House|bram\.ash|Harrow Reach|Lantern|Port Sallow/
  for (const path of [
    '/api/jobs',
    '/api/sites',
    '/api/callbacks',
    '/api/triage',
    '/api/units?search=',
    '/api/people',
    '/api/branches',
    '/api/catalogue',
    '/api/parts',
    '/api/instruments',
    '/api/messages',
    '/api/requests',
    '/api/insight',
    '/api/insight/work',
    '/api/returns',
    '/api/batteries',
    '/api/insight/failures?model=Harrow%20Reach%20Tide%20dimmer',
    '/api/visits?from=2020-01-01T00:00:00Z&to=2040-01-01T00:00:00Z',
  ]) {
    const answer = await rival('GET', path)
    expect(answer.status).toBe(200)
    expect(JSON.stringify(answer.body)).not.toMatch(secret)
  }
  expect(
    (
      await rival('POST', '/api/instruments', {
        branchId: ids.branches,
        name: 'x',
        serial: 'x',
        kind: 'both',
        calibrationDue: '2030-01-01',
      })
    ).status,
  ).toBe(404)
})

test('roles: what is for the lead or the office is refused to a technician; another branch is not there', async () => {
  const office = routes.filter(({ contract: { access } }) => Array.isArray(access) && !access.includes('technician'))
  expect(office.length).toBeGreaterThan(6)
  for (const route of office)
    expect(
      `${route.method} ${route.path} ${(await tech(route.method, real(route.path), route.contract.body ? {} : undefined)).status}`,
    ).toBe(`${route.method} ${route.path} 403`)
  expect((await quay('GET', `/api/jobs/${ids.job}`)).status).toBe(404)
  expect(JSON.stringify((await quay('GET', '/api/jobs')).body)).not.toMatch(/Tide House/)
})

test('an address that is none is not there, a wrong method is told the right ones, and heads can be asked for', async () => {
  for (const path of ['/api/nothing', '/api/jobs/one/two/three/four', '/api/'])
    for (const method of ['GET', 'POST', 'PUT', 'DELETE'])
      expect([method, path, (await lead(method, path)).status]).toEqual([method, path, 404])
  expect((await lead('GET', '/api/nothing')).body.error).toMatchObject({ code: 'noSuchRoute' })
  for (const { method, path } of routes) {
    const wrong = ['DELETE', 'PUT'].find((one) => one !== method)!
    const answer = await stranger(wrong, path.replace(/:\w+/g, uuid()))
    expect([path, answer.status, answer.body.error?.code]).toEqual([path, 405, 'wrongMethod'])
    expect(answer.headers.get('allow')!.split(', ')).toContain(method)
  }
  const head = await stranger('HEAD', '/api/health')
  expect([head.status, head.headers.get('content-type')]).toEqual([200, 'application/json'])
  expect((await stranger('GET', '/api/ready')).body).toMatchObject({ ok: true, version: '0.1.0' })
})
test('signs that no paper and no database gives back are refused, wherever they stand; letters of any script are not', async () => {
  const named = (name: string) => lead('POST', '/api/people', { name, login: 'xx' })
  for (const sign of ['\u0000', '\u001b', '\u202e', '\ud800', '\udc00x'])
    expect([sign, (await named(`Ann${sign}`)).body.error?.code]).toEqual([sign, 'unwritable'])
  const raw = new TextEncoder().encode(`{"name":"Ann\\ud83d","login":"xx"}`)
  expect((await lead('POST', '/api/people', raw, { 'content-type': 'application/json' })).body.error?.code).toBe('unwritable')
  for (const name of ['Ann 💡', 'Лампа', 'Ku\u0308che', 'O\u2019Hara'])
    expect([name, (await named(name)).body.error?.code]).toEqual([name, 'badRequest'])
})
test('a request from another site is refused, whatever cookie it carries', async () => {
  for (const headers of [{ origin: 'https://evil.example' }, { 'sec-fetch-site': 'cross-site' }, { origin: 'null' }] as Record<
    string,
    string
  >[]) {
    const answer = await lead('POST', '/api/people', { name: 'x' }, headers)
    expect([answer.status, answer.body.error!.code]).toEqual([403, 'foreignOrigin'])
  }
})

test('the cookie alone is a login: what is in it lets nobody in by a header', async () => {
  const [name, value] = (await cookieOf('odo.reed')).split(/=(.*)/s) as [string, string]
  expect((await session(`${name}=${value}`)('GET', '/api/people')).status).toBe(200)
  for (const header of [`x-${name}-session`, 'x-h3-session', 'authorization'])
    expect([header, (await stranger('GET', '/api/people', undefined, { [header]: value })).status]).toEqual([header, 401])
})
test('each answer of the API has a number of its own; whoever is guessed at, and what was taken out, is told to whom it concerns', async () => {
  const asked = await Promise.all([lead('GET', '/api/auth/me'), stranger('GET', '/api/people'), lead('GET', '/api/nothing')])
  const numbers = asked.map(({ headers }) => headers.get('x-request-id'))
  expect(new Set(numbers).size).toBe(3)
  for (const number of numbers) expect(number).toMatch(/^[0-9a-f-]{36}$/)
  expect(asked.map(({ body }) => (body as { tried?: object | null }).tried !== undefined)).toEqual([true, false, false])
  await lead('GET', `/api/jobs/${ids.job}/export`)
  const { lines } = (await lead('GET', '/api/access-record?deed=file')).body as { lines: { what: string; jobId: string; who: string }[] }
  expect(lines[0]).toMatchObject({ what: 'the whole record', jobId: ids.job, who: 'Odo Reed' })
  // A file that somebody may not have leaves no line.
  expect((await rival('GET', `/api/jobs/${ids.job}/export`)).status).toBe(404)
  expect(
    ((await rival('GET', '/api/access-record')).body as { lines: { deed: string }[] }).lines.every(({ deed }) => deed === 'login'),
  ).toBe(true)
  expect((await lead('GET', '/api/access-record?deed=nonsense')).status).toBe(400)
  expect((await lead('GET', '/api/access-record?before=x')).status).toBe(400)
})
test('what unseals one’s own entries is the same for a person everywhere, and another’s for nobody', async () => {
  const key = async (of: Session) => (await of('GET', '/api/me/device-key')).body
  const again = await logIn('odo.reed')
  expect(await key(lead)).toEqual(await key(again))
  expect(new Set((await Promise.all([lead, tech, quay, rival].map(key))).map((one) => one.key)).size).toBe(4)
  expect((await stranger('GET', '/api/me/device-key')).status).toBe(401)
})
test('a page that waits for papers hears how many are before it; and opens what was made', async () => {
  const [cookie, otherCookie] = await Promise.all([cookieOf('odo.reed'), cookieOf('lena.moss')])
  const path = `/api/jobs/${ids.job}/pack`
  const tell = async (who: string, at: string) => {
    const answer = await fetch(url + at, { headers: { cookie: who, 'x-circuitry-tells': '1' } })
    return { status: answer.status, type: answer.headers.get('content-type'), text: await answer.text() }
  }
  const all = await Promise.all([path, `/api/jobs/${ids.loft}/pack`, `/api/jobs/${ids.job}/guest-card`, path].map((at) => tell(cookie, at)))
  const lines = all.map(({ text }) =>
    text
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Record<string, unknown>),
  )
  for (const told of lines) {
    expect(told.at(-1)).toEqual({ made: true })
    expect(told).toContainEqual({ before: 0 })
  }
  expect(lines.some((told) => told.some(({ before }) => Number(before) > 0))).toBe(true)
  const open = async (who: string) => {
    const answer = await fetch(url + path, { headers: { cookie: who } })
    return { answer, bytes: Buffer.from(await answer.arrayBuffer()) }
  }
  const first = await open(cookie)
  expect([first.answer.status, first.answer.headers.get('content-type'), first.bytes.subarray(0, 5).toString()]).toEqual([
    200,
    'application/pdf',
    '%PDF-',
  ])
  expect(first.answer.headers.get('content-disposition')).toMatch(/^inline; filename="handover-\d+\.pdf"$/)
  expect((await open(otherCookie)).answer.status).toBe(200)
  // What cannot be is said as ever before it begins, and in its last line after.
  expect((await tell('', path)).status).toBe(401)
  expect((await tell(cookie, '/api/jobs/nonsense/pack')).status).toBe(400)
  const none = await tell(cookie, `/api/jobs/${uuid()}/pack`)
  expect(JSON.parse(none.text.trim().split('\n').at(-1)!)).toMatchObject({ problem: { code: 'notFound' } })
  // No paper, no telling.
  expect((await tell(cookie, '/api/jobs')).type).toContain('application/json')
})
test('nonsense of megabytes is answered with what is wrong in it, at most so much', async () => {
  const { body } = await lead('GET', '/api/branches')
  const branchId = (body.branches as { id: string }[])[0]!.id
  const answer = await lead('POST', '/api/jobs/import', {
    ...{ branchId, siteId: null, newHome: true, checkOnly: true },
    source: { kind: 'json', text: '['.repeat(900_000) },
  })
  expect([answer.status, answer.body.error!.code]).toEqual([422, 'fileBroken'])
})

test('pictures: only pictures, by their bytes; not too large', async () => {
  const png = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64')
  // Where this technician is on a visit.
  const path = `/api/jobs/${ids.loft}/photos`
  const send = (bytes: Uint8Array, type: string) => tech('POST', path, bytes, { 'content-type': type })
  expect((await send(Buffer.from('<script>alert(1)</script>'), 'image/png')).status).toBe(415)
  expect((await send(new Uint8Array(), 'image/png')).status).toBe(400)
  expect((await send(new Uint8Array(8.5 * 1024 * 1024), 'image/jpeg')).status).toBe(413)
  const stored = await send(png, 'text/html')
  expect(stored.status).toBe(200)
  const back = await fetch(`${url}/api/photos/${String(stored.body.id)}`)
  expect(back.status).toBe(401)
  expect((await quay('GET', `/api/photos/${String(stored.body.id)}`)).status).toBe(404)
  expect((await tech('GET', `/api/photos/${String(stored.body.id)}?size=small`)).headers.get('content-type')).toBe('image/jpeg')
  // As a phone takes it, and as no limit in front of the route may refuse it.
  const noise = { type: 'gaussian' as const, mean: 120, sigma: 60 }
  const large = await sharp({ create: { width: 2400, height: 1800, channels: 3, background: '#000', noise } })
    .jpeg({ quality: 95 })
    .toBuffer()
  expect(large.length).toBeGreaterThan(2_600_000)
  expect((await send(large, 'image/jpeg')).status).toBe(200)
})

test('a body whose length nobody said is read to its limit only', async () => {
  const cookie = await cookieOf('bram.ash')
  /** Sends without end until the server has had enough. */
  const pour = (path: string, type: string) =>
    new Promise<{ status: number; sent: number }>((resolve, reject) => {
      let sent = 0
      const headers = { cookie, 'content-type': type, 'transfer-encoding': 'chunked' }
      const pouring = request(`${url}${path}`, { method: 'POST', headers }, (answer) => {
        resolve({ status: answer.statusCode!, sent })
        pouring.destroy()
      })
      pouring.on('error', reject)
      const piece = Buffer.alloc(64 * 1024, 'x')
      const more = () => {
        if (pouring.destroyed || sent > 60_000_000) return
        sent += piece.length
        pouring.write(piece, () => setImmediate(more))
      }
      more()
    })
  const json = await pour('/api/commands', 'application/json')
  const picture = await pour(`/api/jobs/${ids.loft}/photos`, 'image/jpeg')
  expect([json.status, picture.status]).toEqual([413, 413])
  expect(json.sent).toBeLessThan(20_000_000)
  expect(picture.sent).toBeLessThan(40_000_000)
  expect((await tech('GET', '/api/jobs')).status).toBe(200)
})
test('headers: no sniffing, no framing, a policy without other hosts', async () => {
  const { headers } = await fetch(`${url}/login`)
  expect(headers.get('x-content-type-options')).toBe('nosniff')
  const policy = headers.get('content-security-policy')!
  expect(policy).toContain("default-src 'self'")
  expect(policy).toContain("frame-ancestors 'none'")
  expect(policy).not.toMatch(/https?:|upgrade-insecure-requests/)
  const cookie = (
    await fetch(`${url}/api/auth/login`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ login: 'kit.ivers', password: 'tide-and-lantern' }),
    })
  ).headers.getSetCookie()[0]!
  expect(cookie).toMatch(/HttpOnly/i)
  expect(cookie).toMatch(/SameSite=Lax/i)
})

test('a closed account loses its session at once', async () => {
  const people = (await lead('GET', '/api/people')).body.people as { id: string; login: string }[]
  const pip = people.find((person) => person.login === 'pip.tarn')!
  const before = await logIn('pip.tarn')
  expect((await before('GET', '/api/jobs')).status).toBe(200)
  expect((await lead('PATCH', `/api/people/${pip.id}`, { active: false })).status).toBe(200)
  expect((await before('GET', '/api/jobs')).status).toBe(401)
  await expect(logIn('pip.tarn')).rejects.toThrow(/401/)
  expect((await lead('PATCH', `/api/people/${pip.id}`, { active: true })).status).toBe(200)
})

test('label sheet: a PDF of the paper of that part of the world; letters and length are bounded', async () => {
  const labels = [{ letter: 'A', cable: 'from panel', word: 'line' }]
  const ask = async (body: unknown) => {
    const answer = await fetch(`${url}/api/labels`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie: techCookie },
      body: JSON.stringify(body),
    })
    return { status: answer.status, text: Buffer.from(await answer.arrayBuffer()).toString('latin1') }
  }
  const login = await fetch(`${url}/api/auth/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login: 'bram.ash', password: 'tide-and-lantern' }),
  })
  const techCookie = login.headers.getSetCookie()[0]!.split(';')[0]!
  const letter = await ask({ box: 'door', schemeId: 'na120', labels })
  expect(letter.status).toBe(200)
  // US Letter and A4 in points of 1/72 in (ANSI/ASME Y14.1, ISO 216).
  expect(letter.text.slice(0, 5)).toBe('%PDF-')
  expect(letter.text).toMatch(/MediaBox \[0 0 612 792\]/)
  expect((await ask({ box: 'door', schemeId: 'iec230', labels })).text).toMatch(/MediaBox \[0 0 595\.28 841\.89\]/)
  expect((await ask({ box: 'door', schemeId: 'iec230', labels: [{ ...labels[0], letter: '<b>' }] })).status).toBe(400)
  expect((await ask({ box: 'door', schemeId: 'iec230', labels: [] })).status).toBe(400)
})
