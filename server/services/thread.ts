import { AsyncLocalStorage } from 'node:async_hooks'
import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { Worker } from 'node:worker_threads'
import type { ApiError } from './errors'

/** Who asks went away: what nobody waits for any more is not worked on. Set for each request. */
export const askerWent = new AsyncLocalStorage<AbortSignal>()

/** Who asks hears how many pieces are before theirs; none: it is worked on. */
export const askerHears = new AsyncLocalStorage<(before: number) => void>()

const nobodyWaits = 'Nobody waits for it any more.'

interface Waiting<What, Made> {
  id: number
  what: What
  resolve: (made: Made) => void
  reject: (reason: Error) => void
  hears?: (before: number) => void
}
interface Limits {
  /** So many wait at most. */
  mostWaiting: number
  /** What each may take, ms. */
  longest: number
  /** What nobody waits for any more may take so much longer, ms. */
  patience?: number
  whenManyWait: () => ApiError
  whenTooLong: () => ApiError
}

/**
 * Heavy work beside everything else the server does: one piece after the other, in a thread of its own.
 * What takes too long, or what nobody waits for any more, ends together with its thread; the next piece starts another.
 */
export class Beside<What, Made> {
  private readonly queue: Waiting<What, Made>[] = []
  private worker: Worker | null = null
  /** What is worked on, and when that is given up. */
  private running: (Waiting<What, Made> & { timer: NodeJS.Timeout }) | null = null
  private count = 0
  /** The thread of the built server; null: not built, as in unit tests, which do the work themselves. */
  private readonly file: string | null

  constructor(
    name: string,
    private readonly here: (what: What) => Made | Promise<Made>,
    private readonly limits: Limits,
    folder = join(dirname(process.argv[1] ?? ''), 'workers'),
  ) {
    const path = join(folder, `${name}.mjs`)
    this.file = existsSync(path) ? path : null
  }

  /** @throws ApiError where too many wait, or it took too long */
  async made(what: What): Promise<Made> {
    const went = askerWent.getStore()
    // They went while it was put together.
    if (went?.aborted) throw new Error(nobodyWaits)
    const hears = askerHears.getStore()
    if (!this.file) {
      hears?.(0)
      return this.here(what)
    }
    if (this.queue.length >= this.limits.mostWaiting) throw this.limits.whenManyWait()
    return new Promise((resolve, reject) => {
      const id = ++this.count
      this.queue.push({ id, what, resolve, reject, hears })
      went?.addEventListener('abort', () => this.drop(id), { once: true })
      if (this.running) hears?.(this.queue.length)
      this.next()
    })
  }

  /** What waits, and what is worked on. */
  get waiting(): number {
    return this.queue.length + (this.running ? 1 : 0)
  }

  private drop(id: number): void {
    const gone = new Error(nobodyWaits)
    if (this.running?.id === id) {
      this.running.reject(gone)
      // Most are done in a moment, and a new thread takes longer to begin: only what lasts is given up.
      clearTimeout(this.running.timer)
      this.running.timer = setTimeout(() => this.giveUp(gone), this.limits.patience ?? 3000)
      return
    }
    const at = this.queue.findIndex((one) => one.id === id)
    if (at < 0) return
    this.queue.splice(at, 1)[0]!.reject(gone)
    this.tell(at)
  }

  private next(): void {
    if (this.running || !this.queue.length || !this.file) return
    const waiting = this.queue.shift()!
    this.worker ??= this.start(this.file)
    const timer = setTimeout(() => this.giveUp(this.limits.whenTooLong()), this.limits.longest)
    this.running = { ...waiting, timer }
    waiting.hears?.(0)
    this.tell()
    this.worker.ref()
    this.worker.postMessage({ id: waiting.id, what: waiting.what })
  }

  /** Those from here on have moved up. */
  private tell(from = 0): void {
    this.queue.slice(from).forEach(({ hears }, index) => hears?.(from + index + 1))
  }

  /** @returns who waits for what has just ended */
  private ended(): Waiting<What, Made> | null {
    const done = this.running
    if (done) clearTimeout(done.timer)
    this.running = null
    // Nobody keeps the server up for a thread that has nothing to do.
    this.worker?.unref()
    return done
  }

  private start(path: string): Worker {
    const fresh = new Worker(path)
    fresh.on('message', ({ id, made, problem }: { id: number; made?: Made; problem?: string }) => {
      if (this.running?.id !== id) return
      const done = this.ended()!
      if (problem === undefined) done.resolve(made as Made)
      else done.reject(new Error(problem))
      this.next()
    })
    const lost = (error: Error) => fresh === this.worker && this.giveUp(error)
    fresh.on('error', (error) => lost(error instanceof Error ? error : new Error(String(error))))
    fresh.on('exit', () => lost(new Error('The thread ended.')))
    return fresh
  }

  /** The thread is thrown away; the next piece starts another. */
  private giveUp(error: Error): void {
    const old = this.worker
    this.worker = null
    void old?.terminate()
    this.ended()?.reject(error)
    this.next()
  }
}
