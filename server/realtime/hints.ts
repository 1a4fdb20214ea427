import { randomUUID } from 'node:crypto'
import { createClient } from 'redis'

type Client = ReturnType<typeof createClient>
/** What is said and heard: which company has something new. Nothing of it is kept, and nothing rests on it. */
const channelOf = (databaseName: string) => `circuitry commits ${databaseName}`
/** A service that is away is asked again so often at the latest, ms. */
const askAgainMs = 2_000

/**
 * A word to the other servers after a commit (CIRCUITRY_HINTS names a Redis or Valkey service), so that they look at once. Where it is
 * away nobody waits for it: the watching of counters goes on, and finds the same a little later.
 */
export class Hints {
  private saying: Client | null = null
  private hearing: Client | null = null
  private readonly channel: string
  private readonly own = randomUUID()

  constructor(
    private readonly url: string,
    databaseName: string,
    private readonly hear: (companyId: string) => void,
  ) {
    this.channel = channelOf(databaseName)
  }

  /** Connects in the background; a start waits for it no more than a commit does. */
  start(): void {
    const socket = { reconnectStrategy: (tries: number) => Math.min(100 * 2 ** Math.min(tries, 6), askAgainMs), connectTimeout: 2_000 }
    const opened = (): Client => {
      const client = createClient({ url: this.url, socket, disableOfflineQueue: true }) as Client
      // Without a listener one lost connection would end the server.
      client.on('error', () => undefined)
      return client
    }
    this.saying = opened()
    this.hearing = opened()
    const quietly = (work: Promise<unknown>) => void work.catch(() => undefined)
    quietly(this.saying.connect())
    quietly(this.hearing.connect().then(() => this.hearing?.subscribe(this.channel, (word) => this.take(word))))
  }

  private take(word: string): void {
    const [from, companyId] = word.split(' ')
    if (companyId && from !== this.own) this.hear(companyId)
  }

  /** Both ways are open. */
  get ready(): boolean {
    return Boolean(this.saying?.isReady && this.hearing?.isReady)
  }

  say(companyId: string): void {
    if (this.saying?.isReady) void this.saying.publish(this.channel, `${this.own} ${companyId}`).catch(() => undefined)
  }

  stop(): void {
    for (const client of [this.saying, this.hearing]) client?.destroy()
    this.saying = this.hearing = null
  }
}
