import { appendFileSync, existsSync, renameSync, rmSync, statSync } from 'node:fs'

/** One request, as it stands in the log: who, what, how it ended. No query, no body, no key of an address. */
export interface RequestLine {
  at: string
  id: string
  method: string
  /** As contracts name it: `/api/jobs/:id`. */
  route: string
  status: number
  ms: number
  personId: string | null
}
/**
 * A log of lines of JSON that never grows beyond its files: `requests.log`, then `.1` to `.4`, the oldest goes. Each line is handed
 * over at once, so that the last ones before a crash are there; a full disk stops no work, what is lost is a line.
 */
export class RequestLog {
  private bytes: number
  constructor(
    private readonly path: string,
    private readonly mostBytes = 20_000_000,
    private readonly files = 5,
  ) {
    this.bytes = existsSync(path) ? statSync(path).size : 0
  }
  write(line: RequestLine): void {
    const text = `${JSON.stringify(line)}\n`
    try {
      if (this.bytes + text.length > this.mostBytes) this.turn()
      appendFileSync(this.path, text, { mode: 0o600 })
      this.bytes += text.length
    } catch {
      // No room, or no folder.
    }
  }
  private turn(): void {
    rmSync(`${this.path}.${this.files - 1}`, { force: true })
    for (let number = this.files - 2; number >= 0; number--) {
      const from = number ? `${this.path}.${number}` : this.path
      if (existsSync(from)) renameSync(from, `${this.path}.${number + 1}`)
    }
    this.bytes = 0
  }
}
