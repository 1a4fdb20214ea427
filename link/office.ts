import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { LinkAnswer, LinkTask } from '../core/link'

export interface Pass {
  office: string
  linkId: string
  key: string
}
export interface Given {
  id: string
  answer: LinkAnswer
}
/** The office does not know this laptop any more. */
export class Dismissed extends Error {}

/** Written whole or not at all, for this account alone. */
export function keep(file: string, value: unknown): void {
  writeFileSync(`${file}.new`, JSON.stringify(value), { mode: 0o600 })
  renameSync(`${file}.new`, file)
}
const kept = <T>(file: string): T | null => (existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as T) : null)

/** The office, as the link sees it: it is asked for work and told what came of it; it never calls. */
export class Office {
  private unsent: Given[]
  private constructor(
    private readonly pass: Pass,
    private readonly answersFile: string,
  ) {
    this.unsent = kept<Given[]>(answersFile) ?? []
  }

  /** With the pass that this folder keeps, or with one that a one-time code is changed for. */
  static async enter(folder: string, office: string, code: string | null, name: string): Promise<Office> {
    mkdirSync(folder, { recursive: true, mode: 0o700 })
    const file = join(folder, 'office.json')
    const known = kept<Pass>(file)
    if (code) {
      const answer = await fetch(`${office}/api/link/pair`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ code, name }),
      })
      const said = (await answer.json()) as Omit<Pass, 'office'> & { error?: { message: string } }
      if (answer.ok) keep(file, { office, linkId: said.linkId, key: said.key })
      // A code that was used before is this folder’s own, where it has a pass already.
      else if (!known) throw new Error(said.error?.message ?? `The office answers ${answer.status}.`)
    } else if (!known) throw new Error('This folder is paired with no office yet: give the one-time code with --code=.')
    const pass = kept<Pass>(file)!
    return new Office({ ...pass, office }, join(folder, 'answers.json'))
  }

  /** Waits for work; the office answers as soon as there is some, or with none. */
  async take(signal: AbortSignal): Promise<LinkTask[]> {
    const { tasks } = await this.post<{ tasks: LinkTask[] }>('/api/link/take', {}, signal)
    return tasks
  }
  /** Kept until the office has it: what a device did is not lost with the line. */
  answer(given: Given): void {
    this.unsent.push(given)
    keep(this.answersFile, this.unsent)
    // Dismissed meanwhile: the next question for work says so.
    void this.send().catch(() => undefined)
  }
  async send(): Promise<void> {
    for (;;) {
      const [first] = this.unsent
      if (!first) return
      try {
        await this.post('/api/link/answers', first)
      } catch (error) {
        if (error instanceof Dismissed) throw error
        return
      }
      this.unsent = this.unsent.filter((one) => one.id !== first.id)
      keep(this.answersFile, this.unsent)
    }
  }

  private async post<T>(path: string, body: object, signal?: AbortSignal): Promise<T> {
    const answer = await fetch(this.pass.office + path, {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        authorization: `Bearer ${this.pass.linkId}.${this.pass.key}`,
      },
      body: JSON.stringify(body),
      signal: signal ?? AbortSignal.timeout(20_000),
    })
    if (answer.status === 401) throw new Dismissed('The office does not know this laptop any more.')
    if (!answer.ok) throw new Error(`The office answers ${answer.status}.`)
    return (await answer.json()) as T
  }
}
