import type { ServerResponse } from 'node:http'
import { getRequestHeader, type H3Event } from 'h3'
import type { Contract, PaperTold } from '../../core/protocol'
import { ApiError } from '../services/errors'

/** A paper that was asked for by a page that waits is kept for the browser, which opens it under its own address a moment later. */
interface Kept {
  bytes: Uint8Array
  headers: Record<string, string>
  until: number
}
/** Choices of ours, no source: a tab opens at once; forty packs of pictures are 200 MB. */
const [keptMs, mostKept] = [60_000, 40]
const kept = new Map<string, Kept>()
/** Of one person, or of whoever has the link, under one address. */
const keyOf = (event: H3Event, personId: string) => `${personId} ${event.path}`

/** Once, and not for long. */
export function takeKept(event: H3Event, personId: string): Kept | null {
  const key = keyOf(event, personId)
  const one = kept.get(key)
  kept.delete(key)
  return one && one.until > Date.now() ? one : null
}
export function keepForOpening(event: H3Event, personId: string, bytes: Uint8Array, headers: Record<string, string>): void {
  const now = Date.now()
  for (const [key, { until }] of kept) if (until <= now) kept.delete(key)
  kept.set(keyOf(event, personId), { bytes, headers, until: now + keptMs })
  while (kept.size > mostKept) kept.delete(kept.keys().next().value!)
}

/** A file that is made, at an address that says all of it. */
export const isPaper = ({ file, route }: Contract): boolean => route.startsWith('GET ') && Boolean(file?.includes('application/pdf'))
/** Who waits before a page that says how far it is, and for what. */
export const isTold = (contract: Contract, event: H3Event): boolean =>
  isPaper(contract) && getRequestHeader(event, 'x-circuitry-tells') === '1'

/** Lines of JSON, each when it is so: how many are before it, then that it is made, or why it is not. */
export class Telling {
  /** What is said of the file itself, which goes out later. */
  readonly headers: Record<string, string> = {}

  constructor(private readonly response: ServerResponse) {
    response.setHeader('content-type', 'application/x-ndjson; charset=utf-8')
    response.setHeader('x-accel-buffering', 'no')
    response.flushHeaders()
    response.setHeader = (name: string, value: number | string | readonly string[]) => {
      this.headers[name.toLowerCase()] = String(value)
      return response
    }
  }
  readonly before = (count: number): void => this.line({ before: count })
  end(last: PaperTold): void {
    this.line(last)
    this.response.end()
  }
  failed(error: unknown): void {
    const { code, message } =
      error instanceof ApiError ? error : { code: 'internal', message: 'Something went wrong on the server. Nothing was changed.' }
    this.end({ problem: { code, message } })
  }
  private line(told: PaperTold): void {
    if (!this.response.writableEnded) this.response.write(`${JSON.stringify(told)}\n`)
  }
}
