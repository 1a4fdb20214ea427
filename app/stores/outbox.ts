import { defineStore } from 'pinia'
import { v7 as uuid } from 'uuid'
import type { CommandEnvelope, Outcome, Refusal } from '../../core/stream'
import { sendQueued, type Answer } from '../../core/stream/client'
import { waitingStorage as storage } from '~/utils/leaving'

const full: Refusal = {
  code: 'storageFull',
  reasons: ['This device has no room left: this was NOT stored.'],
  toYes: ['Write it down. Free some room (pictures, other apps), or go where there is a connection, then enter it again.'],
}

/**
 * What this person did without network, in order. It leaves when the server has taken it; a refusal stays in sight
 * until a person resolves it and stops only what depends on it.
 */
export const useOutbox = defineStore('outbox', () => {
  const session = useSession()
  const entries = shallowRef<KeptEntry[]>([])
  /** What waits could not be read: there may be something. */
  const unread = ref(false)
  const sending = ref(false)
  const done = ref(0)
  /** Time since this page was loaded at which each entry was kept: right even when somebody sets the clock. */
  const keptSince = new Map<number, number>()

  /** Sites of which this person asked something and never heard the answer, also over a new start of the page. */
  const outcomeUnknown = useLocalStorage<Record<string, string[]>>('circuitry-unheard', {})
  const isOutcomeUnknown = (siteId: string) => (outcomeUnknown.value[session.viewer?.personId ?? ''] ?? []).includes(siteId)
  function setOutcomeUnknown(siteId: string, is: boolean) {
    const personId = session.viewer?.personId
    if (!personId || isOutcomeUnknown(siteId) === is) return
    const rest = (outcomeUnknown.value[personId] ?? []).filter((one) => one !== siteId)
    outcomeUnknown.value = { ...outcomeUnknown.value, [personId]: is ? [...rest, siteId] : rest }
  }

  const pending = computed(() => entries.value.filter((entry) => entry.state === 'pending'))
  const stuck = computed(() => entries.value.filter((entry) => entry.state !== 'pending'))
  const pendingOf = (streamId: string) => pending.value.filter((entry) => entry.envelope?.streamId === streamId)

  /** Whose entries are, or are being, read. */
  let reading: { personId: string | null; done: Promise<void> } = { personId: null, done: Promise.resolve() }
  /** Nothing overtakes what waits: it is read before anything is sent. */
  function ensureLoaded(): Promise<void> {
    const personId = session.viewer?.personId ?? null
    return reading.personId === personId ? reading.done : load()
  }
  function load(): Promise<void> {
    reading = { personId: session.viewer?.personId ?? null, done: read() }
    return reading.done
  }
  async function read() {
    const personId = session.viewer?.personId
    if (!personId) {
      entries.value = []
      return
    }
    try {
      entries.value = await storage.list(personId)
      unread.value = false
    } catch {
      unread.value = true
      entries.value = []
      // Asked again by whoever comes next: what waits may be there, and its key on the way.
      reading.personId = null
    }
  }

  async function add(entry: Omit<KeptEntry, 'key' | 'personId' | 'state' | 'refusal' | 'keptAt'>): Promise<Refusal | null> {
    const row: KeptEntry = { ...entry, personId: session.viewer!.personId, state: 'pending', refusal: null, keptAt: Date.now() }
    try {
      const key = await storage.add(row)
      keptSince.set(key, performance.now())
      entries.value = [...entries.value, { ...row, key }]
      return null
    } catch (error) {
      return isFull(error)
        ? full
        : {
            code: 'notStored',
            reasons: ['This device could not store it.'],
            toYes: ['Go where there is a connection, then enter it again.'],
          }
    }
  }
  /** `label`: what it is called in the list. The rooms of commands are not loaded on every page for it. */
  const keep = (envelope: CommandEnvelope, label: string, where: string, makes: string[]) =>
    // As it will be sent: what a screen holds may be watched by it, and such an object no database takes.
    add({ kind: 'command', envelope: JSON.parse(JSON.stringify(envelope)) as CommandEnvelope, photo: null, label, where, makes })
  const keepPhoto = (jobId: string, id: string, blob: Blob, where: string) =>
    add({ kind: 'photo', envelope: null, photo: { id, jobId, blob }, label: 'picture', where, makes: [id] })

  async function change(entry: KeptEntry, to: Partial<KeptEntry>) {
    await storage.change(entry.key!, to)
    entries.value = entries.value.map((one) => (one.key === entry.key ? { ...one, ...to } : one))
  }
  /** Takes an entry away for good: sent, or given up by its person. */
  const drop = (entry: KeptEntry) => dropAll([entry])
  async function dropAll(gone: KeptEntry[]) {
    for (const { key } of gone) await storage.drop(key!)
    const keys = new Set(gone.map(({ key }) => key))
    entries.value = entries.value.filter(({ key }) => !keys.has(key))
  }
  async function retry(entry: KeptEntry) {
    // What waits because of this one comes along; a new id, because the old one is answered for ever.
    await change(entry, {
      state: 'pending',
      refusal: null,
      envelope: entry.envelope ? { ...entry.envelope, id: uuid(), basedOnSeq: entry.envelope.basedOnSeq } : null,
    })
    for (const one of entries.value.filter((other) => other.state === 'blocked')) await change(one, { state: 'pending', refusal: null })
    await flush()
  }

  const says = (entry: KeptEntry) => JSON.stringify(entry.envelope?.command ?? entry.photo?.id ?? '')
  function heldMs(entry: KeptEntry): number {
    const here = keptSince.has(entry.key!) ? performance.now() - keptSince.get(entry.key!)! : 0
    return Math.min(2_592_000_000, Math.round(Math.max(0, Date.now() - entry.keptAt, here)))
  }

  /** What a problem of the line or the server says of an entry. */
  function saidBy({ status, code, message }: { status: number; code: string; message: string }): Answer {
    if (status === 401) session.expired = true
    if (status === 0 || status === 401 || status >= 500) return { is: 'unreachable' }
    return { is: 'refused', refusal: { code, reasons: [message], toYes: ['Tell the office if this is unexpected.'] } }
  }
  const saidOf = (outcome: Outcome | null): Answer =>
    outcome?.status === 'refused' ? { is: 'refused', refusal: outcome.refusal } : { is: 'taken' }
  const asSent = (entry: KeptEntry) => ({ ...entry.envelope!, heldMs: heldMs(entry) })

  /** Several in one request, where the server knows how; else one after the other. */
  async function deliver(entries: KeptEntry[]): Promise<Answer[]> {
    // Somebody else signed in on this device meanwhile.
    if (entries.some((entry) => entry.personId !== session.viewer?.personId)) return []
    if (entries.length > 1) {
      const answer = await api('POST /api/commands/several', { body: { commands: entries.map(asSent) } })
      if (answer.ok) return answer.value.answers.map((one) => ('outcome' in one ? saidOf(one.outcome) : saidBy(one.problem)))
      const said = saidBy(answer.problem)
      if (said.is === 'unreachable') return []
    }
    const answers: Answer[] = []
    for (const entry of entries) {
      answers.push(await deliverOne(entry))
      if (answers.at(-1)!.is === 'unreachable') break
    }
    return answers
  }
  async function deliverOne(entry: KeptEntry): Promise<Answer> {
    const answer =
      entry.kind === 'photo'
        ? await api('POST /api/jobs/:id/photos', {
            params: { id: entry.photo!.jobId },
            query: { id: entry.photo!.id },
            raw: entry.photo!.blob,
          })
        : await api('POST /api/commands', { body: asSent(entry) })
    return answer.ok ? saidOf(entry.kind === 'command' ? (answer.value as Outcome) : null) : saidBy(answer.problem)
  }

  /** Sends what waits: see `sendQueued`. */
  async function flush(): Promise<void> {
    if (sending.value || pending.value.length === 0 || !session.viewer) return
    sending.value = true
    done.value = 0
    try {
      const steps = sendQueued(
        () => entries.value,
        says,
        ({ kind }) => kind === 'photo',
      )
      let step = steps.next()
      while (!step.done) {
        const doing = step.value
        if (doing.do === 'deliver') {
          step = steps.next(await deliver(doing.entries))
          continue
        }
        if (doing.do === 'change') await change(doing.entry, doing.to)
        else {
          await dropAll(doing.entries)
          done.value += doing.entries.length
        }
        step = steps.next()
      }
    } finally {
      sending.value = false
    }
  }

  return {
    entries,
    pending,
    stuck,
    unread,
    sending,
    done,
    pendingOf,
    heldMs,
    isOutcomeUnknown,
    setOutcomeUnknown,
    load,
    ensureLoaded,
    keep,
    keepPhoto,
    drop,
    retry,
    flush,
  }
})
