import type { FeedMessage } from '../../core/protocol'
import { feedAfter, feedSeqs } from '../services/feed'

export interface FeedClient {
  companyId: string
  /** Newest feed number this client has. */
  cursor: number
  wants(message: FeedMessage): boolean
  /** Sends one message; false when the connection is gone. */
  send(message: FeedMessage): boolean
  /** The database has not answered for long: what stands on this client’s screen is not live any more. Ends the connection. */
  deaf(): void
}

const batch = 200
/** How often this server looks for what other servers committed, ms: seldom while it seems to be the only one. */
const [watchAloneMs, watchOthersMs] = [250, 50]
/** So many finds within so long say that others write, too, ms. One alone may be an own commit that was seen before its answer. */
const [someFinds, lastlyMs] = [3, 300_000]
/** A server that heard nothing of the database for so long tells nobody that they are live, ms: longer than another node takes to be written to. */
const longestDeafMs = 6000

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
  /** When the database last said how far each feed is. */
  private heardAt = 0
  private listening: NodeJS.Timeout | null = null

  constructor(
    private readonly seqs: (companyIds: string[]) => Promise<Map<string, number>> = feedSeqs,
    private readonly deafMs = longestDeafMs,
  ) {}

  add(client: FeedClient): () => void {
    const mates = this.clients.get(client.companyId) ?? new Set()
    mates.add(client)
    this.clients.set(client.companyId, mates)
    this.timer ??= this.watchSoon()
    if (!this.listening) {
      this.heardAt = Date.now()
      this.listening = setInterval(() => this.endTheDeaf(), this.deafMs / 6).unref()
    }
    this.look(client.companyId)
    return () => {
      mates.delete(client)
      if (mates.size === 0 && this.clients.get(client.companyId) === mates) this.clients.delete(client.companyId)
      if (this.clients.size > 0) return
      if (this.timer) clearTimeout(this.timer)
      if (this.listening) clearInterval(this.listening)
      this.timer = this.listening = null
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
  /** An asking that hangs says as little as one that fails. */
  private endTheDeaf(): void {
    if (Date.now() - this.heardAt < this.deafMs) return
    for (const mates of [...this.clients.values()]) for (const client of [...mates]) client.deaf()
  }
  private async watch(): Promise<void> {
    const now = Date.now()
    this.finds = this.finds.filter((at) => at > now - lastlyMs)
    const seqs = await this.seqs([...this.clients.keys()])
    this.heardAt = Date.now()
    for (const [companyId, seq] of seqs) {
      if (![...(this.clients.get(companyId) ?? [])].some((client) => client.cursor < seq)) continue
      if (!this.running.has(companyId) && this.finds.length < someFinds) this.finds.push(now)
      this.look(companyId)
    }
  }
}

export const hub = new FeedHub()
