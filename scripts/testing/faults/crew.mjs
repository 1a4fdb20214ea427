// People with phones for the fault runs: they send until they get an answer, and listen until they have heard everything.
import { randomUUID } from 'node:crypto'
import { sleep } from '../../lib/host.mjs'

export const median = (numbers) => [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)] ?? NaN

const demoLogins = ['lena.moss', 'bram.ash', 'kit.ivers', 'odo.reed']

/** Somebody of the demo company, valid on every server of the same database. */
export async function logInAs(url, login, password = 'tide-and-lantern') {
  const answer = await fetch(`${url}/api/auth/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login, password }),
  })
  if (!answer.ok) throw new Error(`${login}: ${answer.status}`)
  return { login, cookie: answer.headers.getSetCookie()[0].split(';')[0] }
}
/** One session for each of four of them. */
export async function logIn(url) {
  const people = []
  for (const login of demoLogins) people.push(await logInAs(url, login))
  return people
}

export async function get(url, person, path) {
  const answer = await fetch(url + path, { headers: { cookie: person.cookie } })
  if (!answer.ok) throw new Error(`${path}: ${answer.status}`)
  return answer.json()
}

export const post = (url, person, path, body) =>
  fetch(url + path, {
    method: 'POST',
    headers: { cookie: person.cookie, 'content-type': 'application/json' },
    body: JSON.stringify(body),
  })

/** Jobs with everything a random command needs to know. */
export async function jobsOf(url, person, names) {
  const { jobs } = await get(url, person, '/api/jobs')
  const found = []
  for (const name of names) {
    const job = jobs.find((one) => one.siteName === name)
    const { siteState } = await get(url, person, `/api/jobs/${job.id}`)
    found.push({
      jobId: job.id,
      siteId: siteState.siteId,
      breakers: Object.values(siteState.breakers)
        .filter((one) => one.role === 'branch' && one.offLimits === null)
        .map((one) => one.id),
      boxes: Object.keys(siteState.boxes),
    })
  }
  return found
}

/**
 * Sends a command as a phone does: the same id again and again, to whichever server answers, until there is an answer.
 * @returns the outcome and how often it had to be sent
 */
export async function give(urls, person, envelope, patienceMs = 90_000) {
  const until = Date.now() + patienceMs
  for (let tries = 1; ; tries++) {
    const url = urls[tries % urls.length]
    try {
      const answer = await fetch(`${url}/api/commands`, {
        method: 'POST',
        headers: { cookie: person.cookie, 'content-type': 'application/json' },
        body: JSON.stringify(envelope),
        signal: AbortSignal.timeout(15_000),
      })
      const body = await answer.json()
      if (answer.status === 200) return { outcome: body, tries }
      if (answer.status < 500) throw Object.assign(new Error(`${envelope.command.type}: ${JSON.stringify(body)}`), { final: true })
    } catch (error) {
      if (error.final || Date.now() > until) throw error
    }
    await sleep(150 + Math.random() * 350)
  }
}

/** A phone that asks once more hears the same. @returns a sentence for each that does not */
export async function heardOtherwise(urls, person, answered) {
  const wrong = []
  for (const { envelope, outcome } of answered) {
    const again = await give(urls, person, envelope)
    if (JSON.stringify(again.outcome) !== JSON.stringify(outcome)) wrong.push(`${outcome.commandId} is answered differently afterwards`)
  }
  return wrong
}

export const envelopeOf = (stream, streamId, command, over = {}) => ({
  id: randomUUID(),
  stream,
  streamId,
  at: new Date().toISOString(),
  command,
  ...over,
})

/** Something a person on the job might say; some of it will be refused, and the refusal must be remembered too. */
export function randomEnvelope(job) {
  const pick = (list) => list[Math.floor(Math.random() * list.length)]
  const breakerId = pick(job.breakers)
  const boxId = pick(job.boxes)
  const site = (command) => envelopeOf('site', job.siteId, command, { basedOnSeq: Math.floor(Math.random() * 40) })
  return pick([
    () =>
      envelopeOf('job', job.jobId, { type: 'listDefect', defectId: randomUUID(), pointId: null, text: `seen ${randomUUID().slice(0, 8)}` }),
    () => site({ type: 'observeBreaker', breakerId, state: pick(['open', 'closed']), how: pick(['did', 'found']), note: '' }),
    () => site({ type: 'hangTag', tagId: randomUUID(), breakerId, lock: 'red', measure: '' }),
    () => site({ type: 'askOpen', askId: randomUUID(), breakerId, boxId: null, note: '' }),
    () => site({ type: 'openBox', boxId }),
    () => site({ type: 'observeLive', boxId, what: 'lightOn', volts: null, note: '' }),
    () => site({ type: 'requestClose', grantId: randomUUID(), breakerId, clearanceId: null }),
  ])()
}

/** A phone's live connection: comes back by itself and resumes after what it has. */
export class Listener {
  constructor(urls, person, jobs) {
    this.urls = urls
    this.person = person
    this.seen = new Map(jobs.flatMap((job) => [job.siteId, job.jobId]).map((id) => [id, []]))
    /** When each entry was heard, by stream and number. */
    this.heard = new Map()
    this.last = null
    this.reconnects = -1
    /** Changes of these records that came without what was changed. */
    this.bare = 0
    this.ended = false
    this.ready = new Promise((resolve) => (this.isReady = resolve))
    this.running = this.run()
  }
  take(streamId, events) {
    const list = this.seen.get(streamId)
    if (!list) return
    for (const event of events) {
      const newest = list.at(-1)
      if (newest !== undefined && event.seq <= newest) continue
      list.push(event.seq)
      this.heard.set(`${streamId} ${event.seq}`, performance.now())
    }
  }
  async run() {
    for (let turn = 0; !this.ended; turn++) {
      this.reconnects++
      this.stop = new AbortController()
      try {
        const answer = await fetch(`${this.urls[turn % this.urls.length]}/api/feed`, {
          headers: { cookie: this.person.cookie, ...(this.last === null ? {} : { 'last-event-id': String(this.last) }) },
          signal: this.stop.signal,
        })
        if (!answer.ok) throw new Error(String(answer.status))
        let rest = ''
        for await (const chunk of answer.body.pipeThrough(new TextDecoderStream())) {
          const parts = (rest + chunk).split('\n\n')
          rest = parts.pop()
          for (const part of parts) {
            const field = (name) => part.match(new RegExp(`^${name}: (.*)$`, 'm'))?.[1]
            if (field('id')) this.last = Number(field('id'))
            if (field('event') === 'hello') this.isReady()
            if (field('event') === 'change') {
              const { streamId, events } = JSON.parse(field('data'))
              if (this.seen.has(streamId) && !events?.length) this.bare++
              if (events) this.take(streamId, events)
            }
          }
        }
      } catch {
        // Whatever happened: again in a moment.
      }
      if (!this.ended) await sleep(200 + Math.random() * 400)
    }
  }
  /** The network goes away for a moment. */
  drop() {
    this.stop?.abort()
  }
  async close() {
    this.ended = true
    this.stop?.abort()
    await this.running
  }
}
