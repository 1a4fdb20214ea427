import 'fake-indexeddb/auto'
import { fakeFeed, provideNuxt, settle } from '../testing/nuxt'
import type { CommandEnvelope, Outcome } from '../../core/stream'
import type { KeptEntry } from '../utils/local-store'

/** What the server says to a command: an outcome, a status that is none, or nothing at all. */
type Reply = 'accepted' | 'refused' | 'lost' | number
const sent: { route: string; body: CommandEnvelope }[] = []
let replies: Reply[] = []
const feed = fakeFeed()
const session = { viewer: { personId: 'ann' }, expired: false }
const store = new Map<string, string>()

const outcomeOf = (envelope: CommandEnvelope, status: 'accepted' | 'refused'): Outcome => ({
  commandId: envelope.id,
  stream: envelope.stream,
  streamId: envelope.streamId,
  seq: 1,
  ...(status === 'accepted'
    ? { status, eventTypes: [] }
    : { status, refusal: { code: 'notYours', reasons: ['It is not yours.'], toYes: [] } }),
})
/** False: a server of before, which takes one at a time. */
let takesSeveral = true
type Single = Awaited<ReturnType<typeof single>>
async function api(route: string, { body }: { body: CommandEnvelope & { commands?: CommandEnvelope[] } }) {
  if (!route.endsWith('/several')) return single(route, body)
  if (!takesSeveral) return { ok: false, problem: { status: 404, code: 'x', message: 'No such route.', details: null } }
  const answers: object[] = []
  for (const one of body.commands!) {
    const answer: Single = await single('POST /api/commands', one)
    if (answer.ok) answers.push({ outcome: answer.value })
    else if (answer.problem!.status === 0 || answer.problem!.status >= 500)
      return answers.length ? { ok: true, value: { answers } } : answer
    else answers.push({ problem: answer.problem })
  }
  return { ok: true, value: { answers } }
}
async function single(route: string, body: CommandEnvelope) {
  sent.push({ route, body })
  const reply = replies.shift() ?? 'lost'
  if (reply === 'lost' || typeof reply === 'number')
    return { ok: false, problem: { status: reply === 'lost' ? 0 : reply, code: 'x', message: 'No.', details: null } }
  return { ok: true, value: outcomeOf(body, reply) }
}

async function phone() {
  sent.length = 0
  replies = []
  feed.status = 'live'
  const { ref } = await import('vue')
  provideNuxt({
    api,
    useFeed: () => feed,
    useSession: () => session,
    useLocalStorage: (key: string, init: unknown) => ref(store.has(key) ? JSON.parse(store.get(key)!) : init),
    faultsOf: () => [],
  })
  Object.defineProperty(globalThis, 'navigator', { value: { onLine: true, storage: {} }, configurable: true })
  const local = await import('../utils/local-store')
  const rooms = await import('../utils/rooms')
  Object.assign(globalThis, local, rooms)
  const { useOutbox } = await import('../stores/outbox')
  const outbox = useOutbox()
  Object.assign(globalThis, { useOutbox: () => outbox })
  await outbox.ensureLoaded()
  for (const entry of outbox.entries) await outbox.drop(entry)
  const { sendCommand, newId } = await import('./sendCommand')
  const submit = (command: { type: string } & Record<string, unknown>, forbidden?: () => null) =>
    sendCommand('site', 'home', { basedOnSeq: 5, jobSeq: null, where: 'Tide House', forbidden }, command)
  /** What was begun by itself is over; then what waits goes out once more. */
  async function flush() {
    while (outbox.sending) await settle()
    await outbox.flush()
  }
  return { outbox, submit, newId, flush }
}
const fact = (boxId = 'box') => ({ type: 'observeLive', boxId, what: 'lightOn', volts: null, impedance: null, note: '' })
const ask = (newId: () => string) => ({ type: 'requestClose', grantId: newId(), breakerId: 'b', clearanceId: null })

test('a server of before takes what waits one after the other', async () => {
  const { outbox, submit, flush } = await phone()
  feed.status = 'lost'
  for (const box of ['a', 'b', 'c']) await submit(fact(box))
  feed.status = 'live'
  takesSeveral = false
  replies = ['accepted', 'accepted', 'accepted']
  await flush()
  takesSeveral = true
  expect(sent.map(({ body }) => (body.command as { boxId?: string }).boxId)).toEqual(['a', 'b', 'c'])
  expect(outbox.pending).toEqual([])
})
test('a fact that finds no network is kept, said to be, and goes out later under the same id', async () => {
  const { outbox, submit, flush } = await phone()
  replies = ['lost']
  feed.status = 'lost'
  const { submission } = await submit(fact())
  expect(submission).toEqual({ ok: true, refusal: null, kept: true })
  expect(outbox.pending).toMatchObject([{ where: 'Tide House', label: expect.stringMatching(/\w/), state: 'pending' }])
  feed.status = 'live'
  while (outbox.sending) await settle()
  replies = ['accepted']
  await flush()
  expect(outbox.pending).toEqual([])
  expect(new Set(sent.map(({ body }) => body.id)).size).toBe(1)
  expect(sent.at(-1)!.body.heldMs).toBeGreaterThanOrEqual(0)
})
test('a question is never kept: without network it is refused, and says so', async () => {
  const { outbox, submit, newId } = await phone()
  replies = ['lost']
  feed.status = 'lost'
  const { submission } = await submit(ask(newId))
  expect(submission.ok).toBe(false)
  expect(outbox.entries).toEqual([])
})
test('asked again after an answer that never came: the same id, so that the server does it once', async () => {
  const { submit, newId } = await phone()
  const question = ask(newId)
  replies = ['lost', 'accepted']
  expect((await submit(question)).submission.ok).toBe(false)
  // A second tap makes a new id for the same new thing.
  expect((await submit({ ...question, grantId: newId() })).submission.ok).toBe(true)
  expect(sent[1]!.body.id).toBe(sent[0]!.body.id)
  // Once it was answered, the same words are a new question.
  replies = ['accepted']
  await submit({ ...question, grantId: newId() })
  expect(sent[2]!.body.id).not.toBe(sent[0]!.body.id)
})
test('nothing overtakes what waits, and a refusal stays in sight until its person resolves it', async () => {
  const { outbox, submit, flush } = await phone()
  feed.status = 'lost'
  replies = ['lost', 'lost']
  await submit(fact('first'))
  await submit(fact('second'))
  expect(outbox.pending.map(({ envelope }) => (envelope!.command as unknown as { boxId: string }).boxId)).toEqual(['first', 'second'])
  feed.status = 'live'
  while (outbox.sending) await settle()
  sent.length = 0
  replies = ['refused', 'accepted']
  await flush()
  expect(sent.map(({ body }) => (body.command as unknown as { boxId: string }).boxId)).toEqual(['first', 'second'])
  expect(outbox.stuck).toMatchObject([{ state: 'refused', refusal: { code: 'notYours' } }])
  const [stuck] = outbox.stuck as KeptEntry[]
  const before = stuck!.envelope!.id
  replies = ['accepted']
  await outbox.retry(stuck!)
  // Answered for ever under its old id.
  expect(sent.at(-1)!.body.id).not.toBe(before)
  expect(outbox.entries).toEqual([])
})
test('what a server in trouble says is no answer; a session that ended is said', async () => {
  const { outbox, submit, flush } = await phone()
  replies = [500]
  expect((await submit(fact())).submission).toMatchObject({ ok: true, kept: true })
  expect(outbox.pending).toHaveLength(1)
  while (outbox.sending) await settle()
  replies = [401]
  session.expired = false
  await flush()
  expect([session.expired, outbox.pending.length]).toEqual([true, 1])
})
test('what waits is its person’s: somebody else on this device does not send it', async () => {
  const { outbox, submit } = await phone()
  feed.status = 'lost'
  replies = ['lost']
  await submit(fact())
  session.viewer = { personId: 'ben' }
  await outbox.ensureLoaded()
  expect(outbox.entries).toEqual([])
  session.viewer = { personId: 'ann' }
  await outbox.ensureLoaded()
  expect(outbox.pending).toHaveLength(1)
})
test('a part of the program that cannot be had is said to be the reason that nothing was stored', async () => {
  const { outbox, submit } = await phone()
  Object.assign(globalThis, { loadRooms: () => Promise.reject(new Error('offline')) })
  const { submission } = await submit(fact())
  expect(submission).toMatchObject({ ok: false, refusal: { code: 'notStored' } })
  expect([sent.length, outbox.entries.length]).toEqual([0, 0])
})
