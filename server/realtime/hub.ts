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
/** How often this server looks for what other servers committed, ms: seldom while it seems to be the only one. */
const [watchAloneMs, watchOthersMs] = [250, 50]
/** So many finds within so long say that others write, too, ms. One alone may be an own commit that was seen before its answer. */
const [someFinds, lastlyMs] = [3, 300_000]

/**
 * Hands committed changes to connected clients, each in the order of the company's feed, none left out.
 * Own commits wake it at once; commits of other servers are noticed by watching the feed counters, at once where they give a hint.
 */
export class FeedHub {
  private readonly clients = new Map<string, Set<FeedClient>>()
  private readonly running = new Map<string, Promise<void>>()
  private readonly again = new Set<string>()
  private timer: NodeJS.Timeout | null = null
  /** When something was found that nobody here had said. */
  private finds: number[] = []

  add(client: FeedClient): () => void {
    const mates = this.clients.get(client.companyId) ?? new Set()
    mates.add(client)
    this.clients.set(client.companyId, mates)
    this.timer ??= this.watchSoon()
    this.look(client.companyId)
    return () => {
      mates.delete(client)
      if (mates.size === 0 && this.clients.get(client.companyId) === mates) this.clients.delete(client.companyId)
      if (this.clients.size === 0 && this.timer) {
        clearTimeout(this.timer)
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

  /** Whom a commit of this server is said to: the other servers. */
  tellOthers: (companyId: string) => void = () => undefined

  /** Called after a commit of this server. */
  wake(companyId: string): void {
    this.tellOthers(companyId)
    this.look(companyId)
  }
  /** Something may be new for its clients. */
  look(companyId: string): void {
    if (this.running.has(companyId)) {
      this.again.add(companyId)
      return
    }
    const run = this.deliver(companyId)
      // The database may be away for a moment; the watch tries again.
      .catch(() => undefined)
      .finally(() => {
        this.running.delete(companyId)
        if (this.again.delete(companyId)) this.look(companyId)
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

  private watchSoon(): NodeJS.Timeout {
    const othersWrite = this.finds.length >= someFinds
    const next = () => {
      // Nobody is left, or they came back meanwhile and look by themselves.
      if (this.timer === mine) this.timer = this.clients.size > 0 ? this.watchSoon() : null
    }
    const look = () => void this.watch().then(next, next)
    const mine: NodeJS.Timeout = setTimeout(look, othersWrite ? watchOthersMs : watchAloneMs).unref()
    return mine
  }
  private async watch(): Promise<void> {
    const now = Date.now()
    this.finds = this.finds.filter((at) => at > now - lastlyMs)
    for (const [companyId, seq] of await feedSeqs([...this.clients.keys()])) {
      if (![...(this.clients.get(companyId) ?? [])].some((client) => client.cursor < seq)) continue
      if (!this.running.has(companyId) && this.finds.length < someFinds) this.finds.push(now)
      this.look(companyId)
    }
  }
}

export const hub = new FeedHub()
