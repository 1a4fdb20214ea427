import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { renderDrawings, renderPaper, type Printing } from '../workers/render-paper'
import { ApiError } from './errors'

/** So many papers wait at most, and each takes no longer than this, ms. Choices of ours, no source. */
const [mostWaiting, longest] = [40, 60_000]

interface Waiting {
  id: number
  what: Printing
  resolve: (bytes: Buffer) => void
  reject: (reason: Error) => void
}
const queue: Waiting[] = []
let worker: Worker | null = null
/** What is being laid out, and when that is given up. */
let running: (Waiting & { timer: NodeJS.Timeout }) | null = null
let count = 0

/** The thread of the built server; null: not built, as in unit tests. */
const file = (() => {
  const path = join(dirname(process.argv[1] ?? ''), 'workers', 'papers.mjs')
  return existsSync(path) ? path : null
})()

/**
 * A paper, laid out beside everything else the server does, one after the other.
 * @throws ApiError 503 where too many wait, or it took too long
 */
export function printed(what: Printing): Promise<Buffer> {
  if (!file) return what.kind === 'paper' ? renderPaper(what.paper) : renderDrawings(what.title, what.schemeId, what.svgs, what.widthMm)
  if (queue.length >= mostWaiting)
    return Promise.reject(new ApiError(503, 'papersWait', 'Many papers are being made just now. Try again in a minute.'))
  return new Promise((resolve, reject) => {
    queue.push({ id: ++count, what, resolve, reject })
    next()
  })
}

function next(): void {
  if (running || !queue.length || !file) return
  const waiting = queue.shift()!
  worker ??= start(file)
  const timer = setTimeout(() => giveUp(new ApiError(503, 'paperTooLong', 'This paper took too long to be made.')), longest)
  running = { ...waiting, timer }
  worker.ref()
  worker.postMessage({ id: waiting.id, what: waiting.what })
}

/** @returns who waits for what has just ended */
function ended(): Waiting | null {
  const done = running
  if (done) clearTimeout(done.timer)
  running = null
  // Nobody keeps the server up for a thread that has nothing to do.
  worker?.unref()
  return done
}

function start(path: string): Worker {
  const fresh = new Worker(path)
  fresh.on('message', ({ id, bytes, problem }: { id: number; bytes?: Uint8Array; problem?: string }) => {
    if (running?.id !== id) return
    const done = ended()!
    if (bytes) done.resolve(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength))
    else done.reject(new Error(problem))
    next()
  })
  fresh.on('error', (error) => fresh === worker && giveUp(error instanceof Error ? error : new Error(String(error))))
  fresh.on('exit', () => fresh === worker && giveUp(new Error('The thread that makes papers ended.')))
  return fresh
}

/** The thread is thrown away; the next paper starts another. */
function giveUp(error: Error): void {
  const old = worker
  worker = null
  void old?.terminate()
  ended()?.reject(error)
  next()
}
