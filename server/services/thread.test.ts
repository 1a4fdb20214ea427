import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as rest } from 'node:timers/promises'
import { ApiError } from './errors'
import { askerHears, askerWent, Beside } from './thread'

interface Piece {
  say: string
  ms?: number
  does?: 'throw' | 'spin' | 'exit'
}
const worker = `import { parentPort } from 'node:worker_threads'
parentPort.on('message', ({ id, what }) => {
  if (what.does === 'exit') process.exit(3)
  if (what.does === 'throw') return parentPort.postMessage({ id, problem: 'It cannot be done.' })
  while (what.does === 'spin') continue
  setTimeout(() => parentPort.postMessage({ id, made: what.say }), what.ms ?? 0)
})`
let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'circuitry-thread-'))
  writeFileSync(join(folder, 'echo.mjs'), worker)
})
afterAll(() => rmSync(folder, { recursive: true }))

const beside = (longest = 5000, mostWaiting = 3) =>
  new Beside<Piece, string>(
    'echo',
    ({ say }) => `here ${say}`,
    {
      ...{ mostWaiting, longest, patience: 150 },
      whenManyWait: () => new ApiError(503, 'many', 'Many wait.'),
      whenTooLong: () => new ApiError(422, 'long', 'Too long.'),
    },
    folder,
  )
/** Asks as a request that can be cut off. */
const asked = (work: Beside<Piece, string>, what: Piece) => {
  const line = new AbortController()
  const answer = askerWent.run(line.signal, () => work.made(what)).catch((error: Error) => error.message)
  return { answer, cut: () => line.abort() }
}

test('one after the other, each with its own answer; a fault is told and stops nobody', async () => {
  const work = beside()
  const all = [
    work.made({ say: 'one', ms: 40 }),
    work.made({ say: 'two' }),
    work.made({ say: '', does: 'throw' }),
    work.made({ say: 'last' }),
  ]
  expect((await Promise.allSettled(all)).map((one) => (one.status === 'fulfilled' ? one.value : one.reason.message))).toEqual([
    'one',
    'two',
    'It cannot be done.',
    'last',
  ])
})
test('who waits hears how many are before them, and when theirs is begun', async () => {
  const work = beside()
  const heard: Record<string, number[]> = { first: [], second: [], third: [], gone: [] }
  const ask = (name: string, ms = 0) =>
    askerHears.run(
      (before) => heard[name]!.push(before),
      () => work.made({ say: name, ms }),
    )
  const all = [ask('first', 60), ask('second')]
  const leaves = askerHears.run(
    (before) => heard.gone!.push(before),
    () => asked(work, { say: 'gone' }),
  )
  const last = ask('third')
  leaves.cut()
  await Promise.all([...all, last])
  expect(heard).toEqual({ first: [0], second: [1, 0], gone: [2], third: [3, 2, 1, 0] })
  expect(await leaves.answer).toBe('Nobody waits for it any more.')
})
test('where nothing is built it is done here', async () => {
  const work = new Beside<Piece, string>('none', ({ say }) => `here ${say}`, {
    ...{ mostWaiting: 1, longest: 1000 },
    whenManyWait: () => new ApiError(503, 'many', ''),
    whenTooLong: () => new ApiError(422, 'long', ''),
  })
  expect(await work.made({ say: 'one' })).toBe('here one')
})
test('what takes too long, and a thread that dies, are given up; the next ones have a new thread', async () => {
  const work = beside(400)
  const spins = work.made({ say: '', does: 'spin' })
  const after = work.made({ say: 'after' })
  await expect(spins).rejects.toMatchObject({ status: 422, code: 'long' })
  expect(await after).toBe('after')
  await expect(work.made({ say: '', does: 'exit' })).rejects.toThrow('The thread ended.')
  expect(await work.made({ say: 'again' })).toBe('again')
})
test('more than may wait are refused at once, and those that wait are not', async () => {
  const work = beside(5000, 2)
  const taken = [work.made({ say: 'one', ms: 60 }), work.made({ say: 'two' }), work.made({ say: 'three' })]
  await expect(work.made({ say: 'four' })).rejects.toMatchObject({ status: 503, code: 'many' })
  expect(await Promise.all(taken)).toEqual(['one', 'two', 'three'])
})
test('whoever asked and went away is not worked for: neither what waits nor what runs', async () => {
  const work = beside()
  const runs = asked(work, { say: '', does: 'spin' })
  const waits = asked(work, { say: 'nobody reads this' })
  const stays = asked(work, { say: 'stays' })
  await rest(60)
  waits.cut()
  expect(await waits.answer).toBe('Nobody waits for it any more.')
  runs.cut()
  expect(await runs.answer).toBe('Nobody waits for it any more.')
  expect(await stays.answer).toBe('stays')
  // One that ends by itself keeps its thread, and its answer is nobody’s.
  const slow = asked(work, { say: 'slow', ms: 60 })
  await rest(20)
  slow.cut()
  expect(await slow.answer).toBe('Nobody waits for it any more.')
  expect(await work.made({ say: 'after it' })).toBe('after it')
  // Gone before it was asked for: its paper was still being put together.
  const gone = new AbortController()
  gone.abort()
  await expect(askerWent.run(gone.signal, () => work.made({ say: 'nobody reads this either' }))).rejects.toThrow('Nobody waits')
  // One that is answered already may go.
  stays.cut()
  expect(await work.made({ say: 'later' })).toBe('later')
})
