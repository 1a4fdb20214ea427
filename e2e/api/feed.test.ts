import { jest } from '@jest/globals'
import { v7 as uuid } from 'uuid'

jest.setTimeout(60_000)
const first = process.env.CIRCUITRY_TEST_URL!
const second = process.env.CIRCUITRY_SECOND_URL!

interface Message {
  id: number | null
  event: string
  data: {
    seq: number
    reset?: boolean
    topic?: string
    streamId?: string
    events?: { seq: number; type: string; payload: Record<string, unknown> }[]
  }
}

async function logIn(login: string, url = first): Promise<string> {
  const answer = await fetch(`${url}/api/auth/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login, password: 'tide-and-lantern' }),
  })
  return answer.headers.getSetCookie()[0]!.split(';')[0]!
}

/** An open feed that collects what it is sent. */
async function listen(url: string, cookie: string, headers: Record<string, string> = {}, query = '') {
  const stop = new AbortController()
  const messages: Message[] = []
  const answer = await fetch(`${url}/api/feed${query}`, { headers: { cookie, ...headers }, signal: stop.signal })
  void (async () => {
    let rest = ''
    const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader()
    for (;;) {
      const { value, done } = await reader.read().catch(() => ({ value: undefined, done: true }))
      if (done) return
      const parts = (rest + value).split('\n\n')
      rest = parts.pop()!
      for (const part of parts) {
        const field = (name: string) =>
          part
            .split('\n')
            .find((line) => line.startsWith(`${name}: `))
            ?.slice(name.length + 2)
        const event = field('event')
        if (event)
          messages.push({ id: field('id') ? Number(field('id')) : null, event, data: JSON.parse(field('data') ?? '{}') as Message['data'] })
      }
    }
  })()
  const until = async (fits: (message: Message) => boolean, ms = 4000) => {
    for (let waited = 0; waited < ms; waited += 20) {
      const found = messages.find(fits)
      if (found) return found
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
    throw new Error(`not seen: ${JSON.stringify(messages).slice(0, 400)}`)
  }
  const hello = await until((message) => message.event === 'hello')
  return { messages, until, hello, close: () => stop.abort() }
}

async function jobOf(cookie: string, site: string): Promise<string> {
  const { jobs } = (await (await fetch(`${first}/api/jobs`, { headers: { cookie } })).json()) as {
    jobs: { id: string; siteName: string }[]
  }
  return jobs.find((job) => job.siteName === site)!.id
}
async function list(cookie: string, jobId: string, text: string, url = first): Promise<string> {
  const id = uuid()
  const answer = await fetch(`${url}/api/commands`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json' },
    body: JSON.stringify({
      id,
      stream: 'job',
      streamId: jobId,
      at: new Date().toISOString(),
      command: { type: 'listDefect', defectId: uuid(), pointId: null, text },
    }),
  })
  expect(await answer.json()).toMatchObject({ status: 'accepted' })
  return text
}
const holds = (text: string) => (message: Message) => message.data.events?.some((event) => event.payload.text === text) ?? false

test('what one server commits is seen by clients of the other, in order, without a gap', async () => {
  const lead = await logIn('odo.reed')
  const jobId = await jobOf(lead, 'Heron House')
  const here = await listen(first, lead)
  const there = await listen(second, await logIn('odo.reed', second))
  const texts: string[] = []
  for (let index = 0; index < 12; index++) texts.push(await list(lead, jobId, `two servers ${index}`, index % 2 ? second : first))
  for (const client of [here, there]) {
    await client.until(holds(texts.at(-1)!))
    const seen = client.messages.flatMap((message) => message.data.events ?? []).map((event) => event.payload.text)
    expect(seen.filter((text) => texts.includes(String(text)))).toEqual(texts)
    const seqs = client.messages
      .filter((message) => message.event === 'change' && message.data.streamId === jobId)
      .flatMap((message) => message.data.events!.map((event) => event.seq))
    expect(seqs).toEqual(seqs.map((_, index) => seqs[0]! + index))
    client.close()
  }
})

test('a client that was away resumes after its last event and misses nothing', async () => {
  const lead = await logIn('odo.reed')
  const jobId = await jobOf(lead, 'Heron House')
  const before = await listen(first, lead)
  await list(lead, jobId, 'before the tunnel')
  const last = await before.until(holds('before the tunnel'))
  before.close()
  await list(lead, jobId, 'in the tunnel 1')
  await list(lead, jobId, 'in the tunnel 2')
  const after = await listen(first, lead, { 'last-event-id': String(last.id) })
  expect(after.hello.data).toEqual({ seq: last.id, reset: false })
  await after.until(holds('in the tunnel 2'))
  expect(after.messages.filter((message) => message.event === 'change').map((message) => message.id)).toEqual([last.id! + 1, last.id! + 2])
  after.close()
})

test('a cursor from nowhere is told to load again', async () => {
  const lead = await logIn('odo.reed')
  const client = await listen(first, lead, {}, '?from=99999999')
  expect(client.hello.data.reset).toBe(true)
  client.close()
})

test('people of another branch are not told; sealed codes never leave the server', async () => {
  const lead = await logIn('odo.reed')
  const quay = await listen(first, await logIn('sefa.vale'))
  const near = await listen(first, await logIn('bram.ash'), {}, '?from=0')
  const jobId = await jobOf(lead, 'Heron House')
  await list(lead, jobId, 'for Port Sallow only')
  await near.until(holds('for Port Sallow only'), 10_000)
  await new Promise((resolve) => setTimeout(resolve, 400))
  expect(quay.messages.filter((message) => message.event === 'change')).toEqual([])
  const text = JSON.stringify(near.messages)
  expect(text).toContain('unitRecorded')
  expect(text).not.toContain('"sealed":"v1')
  for (const client of [quay, near]) client.close()
})
