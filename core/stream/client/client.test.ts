import * as fc from 'fast-check'
import type { Outcome, StreamEvent } from '../index'
import { emptyStock, stockStream } from '../testing/stock'
import {
  submitCommand,
  memoryOutbox,
  sendQueued,
  takeInto,
  AwaitingOutcome,
  type Answer,
  type Submission,
  type QueuedCommand,
  type Line,
} from './index'
import { describeOutboxStorage } from './testing/outbox-conformance'

describeOutboxStorage('the memory', () => memoryOutbox())
test('a full storage says so and stores nothing', async () => {
  const storage = memoryOutbox<QueuedCommand>(0)
  await expect(storage.add({ personId: 'ann', makes: [], state: 'pending', refusal: null })).rejects.toMatchObject({
    name: 'QuotaExceededError',
  })
  expect(await storage.list('ann')).toEqual([])
})

interface Entry extends QueuedCommand {
  text: string
}
/** Runs `sendQueued` over a line that answers as told. */
function run(entries: Entry[], answer: (entry: Entry) => Answer) {
  const delivered: string[] = []
  const steps = sendQueued(
    () => entries,
    ({ text }) => text,
  )
  let step = steps.next()
  while (!step.done) {
    const doing = step.value
    let reply: Answer[] | undefined
    if (doing.do === 'deliver') {
      reply = []
      for (const one of doing.entries) {
        delivered.push(one.text)
        reply.push(answer(one))
        if (reply.at(-1)!.is === 'unreachable') break
      }
    } else if (doing.do === 'drop') for (const one of doing.entries) entries.splice(entries.indexOf(one), 1)
    else Object.assign(doing.entry, doing.to)
    step = steps.next(reply)
  }
  return delivered
}
const entry = (text: string, ...makes: string[]): Entry => ({ personId: 'ann', text, makes, state: 'pending', refusal: null })
const no: Answer = { is: 'refused', refusal: { code: 'no', reasons: [], toYes: [] } }

test('what is refused holds back only what names a thing it would have brought, and what names that', () => {
  const entries = [entry('tag', 't1'), entry('proof on t1', 'p1'), entry('box'), entry('reading of p1'), entry('done')]
  const delivered = run(entries, ({ text }) => (text === 'tag' ? no : { is: 'taken' }))
  expect(delivered).toEqual(['tag', 'box', 'done'])
  expect(entries.map(({ text, state }) => [text, state])).toEqual([
    ['tag', 'refused'],
    ['proof on t1', 'blocked'],
    ['reading of p1', 'blocked'],
  ])
})
test('what waits goes out together, but never with what it hangs on; what goes alone goes alone', () => {
  const entries = [entry('box', 'b1'), entry('other box', 'b2'), entry('note of b1'), entry('picture'), entry('last')]
  const requests: string[][] = []
  const steps = sendQueued(
    () => entries,
    ({ text }) => text,
    ({ text }) => text === 'picture',
  )
  let step = steps.next()
  while (!step.done) {
    const doing = step.value
    if (doing.do === 'deliver') requests.push(doing.entries.map(({ text }) => text))
    else if (doing.do === 'drop') for (const one of doing.entries) entries.splice(entries.indexOf(one), 1)
    step = steps.next(doing.do === 'deliver' ? doing.entries.map(() => ({ is: 'taken' })) : undefined)
  }
  expect(requests).toEqual([['box', 'other box'], ['note of b1'], ['picture'], ['last']])
})
test('what an answer does not speak of was not reached', () => {
  const entries = [entry('one'), entry('two'), entry('three')]
  const steps = sendQueued(
    () => entries,
    ({ text }) => text,
  )
  expect(steps.next().value).toMatchObject({ do: 'deliver', entries: [{ text: 'one' }, { text: 'two' }, { text: 'three' }] })
  expect(steps.next([{ is: 'taken' }]).value).toMatchObject({ do: 'drop', entries: [{ text: 'one' }] })
  expect(steps.next()).toEqual({ done: true, value: undefined })
})
test('whatever the line does, entries go out in order, none is lost, and none goes out again once taken', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('taken', 'refused', 'unreachable'), { minLength: 1, maxLength: 40 }),
      fc.integer({ min: 1, max: 12 }),
      (fates, count) => {
        const entries = Array.from({ length: count }, (_, index) => entry(`entry ${index};`))
        const taken: string[] = []
        let at = 0
        for (let tries = 0; tries < 40 && entries.some(({ state }) => state === 'pending'); tries++)
          run(entries, ({ text }) => {
            const fate = at < fates.length ? fates[at++]! : 'taken'
            if (fate === 'taken') taken.push(text)
            return fate === 'refused' ? no : { is: fate as 'taken' | 'unreachable' }
          })
        expect(new Set(taken).size).toBe(taken.length)
        const order = [...taken].sort((a, b) => Number(a.slice(6, -1)) - Number(b.slice(6, -1)))
        expect(taken).toEqual(order)
        expect(taken.length + entries.length).toBe(count)
        expect(entries.every(({ state }) => state === 'refused')).toBe(true)
      },
    ),
  )
})

describe('giving a command', () => {
  const accepted = { status: 'accepted' } as Outcome
  const unreachable = { is: 'unreachable' as const, refusal: { code: 'offline', reasons: [], toYes: [] } }
  /** @returns what was done, and what the person is told */
  function submit(queues: boolean, line: Line, replies: { send?: unknown; keep?: unknown; afterSendingKept?: Partial<Line> } = {}) {
    const did: string[] = []
    const steps = submitCommand(queues, () => line)
    let step = steps.next()
    while (!step.done) {
      did.push(step.value.do)
      if (step.value.do === 'sendQueued') Object.assign(line, replies.afterSendingKept)
      const reply = step.value.do === 'send' ? (replies.send ?? { is: 'outcome', outcome: accepted }) : (replies.keep ?? null)
      step = steps.next(reply as never)
    }
    return { did, submission: step.value as Submission }
  }
  const good: Line = { waiting: 0, connected: true, live: true }
  const none: Line = { waiting: 0, connected: false, live: false }

  test('is sent where there is a line', () => {
    expect(submit(true, { ...good })).toEqual({ did: ['send'], submission: { is: 'outcome', outcome: accepted } })
  })
  test('is kept without one, if it may wait; a question is tried and its outcome is unknown', () => {
    expect(submit(true, { ...none })).toEqual({ did: ['keep'], submission: { is: 'queued' } })
    const asked = submit(false, { ...none }, { send: unreachable })
    expect(asked).toMatchObject({ did: ['send', 'outcomeUnknown'], submission: { is: 'refused', awaitingOutcome: true } })
  })
  test('overtakes nothing that waits', () => {
    expect(submit(true, { ...good, waiting: 2 }).did).toEqual(['keep', 'sendQueued'])
    expect(submit(false, { ...good, waiting: 2 })).toMatchObject({
      did: ['sendQueued'],
      submission: { is: 'refused', refusal: { code: 'catchingUp' } },
    })
    expect(submit(false, { ...good, waiting: 2 }, { afterSendingKept: { waiting: 0 } }).did).toEqual(['sendQueued', 'send'])
  })
  test('is kept when its answer was lost, for it may have arrived', () => {
    expect(submit(true, { ...good }, { send: unreachable })).toEqual({ did: ['send', 'keep', 'sendQueued'], submission: { is: 'queued' } })
  })
  test('is refused when it cannot be kept', () => {
    const refusal = { code: 'storageFull', reasons: [], toYes: [] }
    expect(submit(true, { ...none }, { keep: refusal })).toEqual({
      did: ['keep'],
      submission: { is: 'refused', refusal, awaitingOutcome: false },
    })
    // It may have arrived before: then nobody knows what came of it.
    const sent = submit(true, { ...good }, { send: unreachable, keep: refusal })
    expect(sent).toMatchObject({
      did: ['send', 'keep', 'outcomeUnknown', 'sendQueued'],
      submission: { is: 'refused', awaitingOutcome: true },
    })
  })
})

test('what was not answered goes out again as it was, until something later is accepted', () => {
  const awaitingOutcome = new AwaitingOutcome<{ streamId: string; id: string }>()
  const first = { streamId: 'home', id: '1' }
  awaitingOutcome.goesOut('I leave', first)
  awaitingOutcome.failed('I leave', first)
  expect(awaitingOutcome.find('I leave')).toBe(first)
  awaitingOutcome.accepted('another home')
  expect(awaitingOutcome.find('I leave')).toBe(first)
  awaitingOutcome.accepted('home')
  expect(awaitingOutcome.find('I leave')).toBeUndefined()
})

test('a copy takes repeats, says when something is missing, and marks what it does not understand', () => {
  const put = (seq: number, version = 3) =>
    ({ seq, version, type: 'piecesPut', payload: { what: 'plates', pieces: 1, note: '' } }) as unknown as StreamEvent
  const copy = emptyStock('s')
  expect(takeInto(stockStream.reducer, copy, [put(1), put(2)])).toBe(true)
  expect(takeInto(stockStream.reducer, copy, [put(1), put(2)])).toBe(true)
  expect(takeInto(stockStream.reducer, copy, [put(4)])).toBe(false)
  expect(copy).toMatchObject({ seq: 2, pieces: { plates: 2 } })
  expect(takeInto(stockStream.reducer, copy, [put(3, 9), put(4)])).toBe(true)
  expect(copy).toMatchObject({ seq: 4, understoodSeq: 2, unknownEvent: 'piecesPut v9' })
})
