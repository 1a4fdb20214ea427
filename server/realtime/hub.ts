import type { FeedMessage } from '../../core/protocol'
import { feedAfter, feedSeqs } from '../services/feed'

export interface FeedClient {
  companyId: string
  /** Newest feed number this client has. */
  cursor: number
  wants(message: FeedMessage): boolean
  /** Sends one message; false when the connection is gone. */
  send(message: FeedMessage): boolean
}

const batch = 200
/** How often this server looks for what other servers committed, ms. */
const watchEveryMs = 250

/**
 * Hands committed changes to connected clients, each in the order of the company's feed, none left out.
 * Own commits wake it at once; commits of other servers are noticed by watching the feed counters.
 */
export class FeedHub {
  private readonly clients = new Map<string, Set<FeedClient>>()
  private readonly running = new Map<string, Promise<void>>()
  private readonly again = new Set<string>()
  private timer: NodeJS.Timeout | null = null

  add(client: FeedClient): () => void {
    const mates = this.clients.get(client.companyId) ?? new Set()
    mates.add(client)
    this.clients.set(client.companyId, mates)
    this.timer ??= setInterval(() => void this.watch().catch(() => undefined), watchEveryMs).unref()
    this.wake(client.companyId)
    return () => {
      mates.delete(client)
      if (mates.size === 0 && this.clients.get(client.companyId) === mates) this.clients.delete(client.companyId)
      if (this.clients.size === 0 && this.timer) {
        clearInterval(this.timer)
        this.timer = null
      }
    }
  }

  /** Windows that are connected to this server. */
  get open(): number {
    let count = 0
    for (const mates of this.clients.values()) count += mates.size
    return count
  }

  /** Called after a commit. */
  wake(companyId: string): void {
    if (this.running.has(companyId)) {
      this.again.add(companyId)
      return
    }
    const run = this.deliver(companyId)
      // The database may be away for a moment; the watch tries again.
      .catch(() => undefined)
      .finally(() => {
        this.running.delete(companyId)
        if (this.again.delete(companyId)) this.wake(companyId)
      })
    this.running.set(companyId, run)
  }

  private async deliver(companyId: string): Promise<void> {
    for (;;) {
      const mates = [...(this.clients.get(companyId) ?? [])]
      if (mates.length === 0) return
      const messages = await feedAfter(companyId, Math.min(...mates.map((client) => client.cursor)), batch)
      if (messages.length === 0) return
      for (const client of mates) {
        for (const message of messages) {
          if (message.seq <= client.cursor) continue
          client.cursor = message.seq
          if (client.wants(message) && !client.send(message)) break
        }
      }
      if (messages.length < batch) return
    }
  }

  private async watch(): Promise<void> {
    for (const [companyId, seq] of await feedSeqs([...this.clients.keys()])) {
      if ([...(this.clients.get(companyId) ?? [])].some((client) => client.cursor < seq)) this.wake(companyId)
    }
  }
}

export const hub = new FeedHub()
