import { defineStore } from 'pinia'
import { v7 as uuid } from 'uuid'
import type { CommandEnvelope, Outcome, Refusal, StreamKind } from '../../core/stream'
import { streams } from '../../core/streams'
import { commandLabel } from '~/utils/command-label'

export const mayKeep = (stream: StreamKind, type: string) => streams[stream].commands.get(type)?.rules.queues === true

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
  const sending = ref(false)
  const done = ref(0)
  /** Time since this page was loaded at which each entry was kept: right even when somebody sets the clock. */
  const keptSince = new Map<number, number>()

  /** Sites of which this person asked something and never heard the answer, also over a new start of the page. */
  const unheard = useLocalStorage<Record<string, string[]>>('circuitry-unheard', {})
  const isUnheard = (siteId: string) => (unheard.value[session.viewer?.personId ?? ''] ?? []).includes(siteId)
  function setUnheard(siteId: string, is: boolean) {
    const personId = session.viewer?.personId
    if (!personId || isUnheard(siteId) === is) return
    const rest = (unheard.value[personId] ?? []).filter((one) => one !== siteId)
    unheard.value = { ...unheard.value, [personId]: is ? [...rest, siteId] : rest }
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
      entries.value = await (await localStore()).entries.where('personId').equals(personId).sortBy('key')
    } catch {
      entries.value = []
    }
  }

  async function add(entry: Omit<KeptEntry, 'key' | 'personId' | 'state' | 'refusal' | 'keptAt'>): Promise<Refusal | null> {
    const row: KeptEntry = { ...entry, personId: session.viewer!.personId, state: 'pending', refusal: null, keptAt: Date.now() }
    try {
      const key = await (await localStore()).entries.add(row)
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
  const keep = (envelope: CommandEnvelope, where: string, makes: string[]) =>
    add({ kind: 'command', envelope, photo: null, label: commandLabel(envelope.stream, envelope.command), where, makes })
  const keepPhoto = (jobId: string, id: string, blob: Blob, where: string) =>
    add({ kind: 'photo', envelope: null, photo: { id, jobId, blob }, label: 'picture', where, makes: [id] })

  async function change(entry: KeptEntry, to: Partial<KeptEntry>) {
    await (await localStore()).entries.update(entry.key!, to)
    entries.value = entries.value.map((one) => (one.key === entry.key ? { ...one, ...to } : one))
  }
  /** Takes an entry away for good: sent, or given up by its person. */
  async function drop(entry: KeptEntry) {
    await (await localStore()).entries.delete(entry.key!)
    entries.value = entries.value.filter((one) => one.key !== entry.key)
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

  const mentions = (entry: KeptEntry, ids: string[]) => {
    const says = JSON.stringify(entry.envelope?.command ?? entry.photo?.id ?? '')
    return ids.some((id) => says.includes(id))
  }
  function heldMs(entry: KeptEntry): number {
    const here = keptSince.has(entry.key!) ? performance.now() - keptSince.get(entry.key!)! : 0
    return Math.min(2_592_000_000, Math.round(Math.max(0, Date.now() - entry.keptAt, here)))
  }

  /** Sends what waits, oldest first, once each. Stops at a lost connection; goes on behind a refusal. */
  async function flush(): Promise<void> {
    if (sending.value || pending.value.length === 0 || !session.viewer) return
    sending.value = true
    done.value = 0
    try {
      const lost: string[] = stuck.value.flatMap((entry) => entry.makes)
      for (;;) {
        const entry = pending.value[0]
        if (!entry || entry.personId !== session.viewer?.personId) return
        if (mentions(entry, lost)) {
          lost.push(...entry.makes)
          await change(entry, {
            state: 'blocked',
            refusal: { code: 'waitsForAnother', reasons: ['It belongs to an entry that was refused.'], toYes: ['Resolve that one first.'] },
          })
          continue
        }
        const answer =
          entry.kind === 'photo'
            ? await api('POST /api/jobs/:id/photos', {
                params: { id: entry.photo!.jobId },
                query: { id: entry.photo!.id },
                raw: entry.photo!.blob,
              })
            : await api('POST /api/commands', { body: { ...entry.envelope!, heldMs: heldMs(entry) } })
        if (!answer.ok && (answer.problem.status === 0 || answer.problem.status === 401 || answer.problem.status >= 500)) {
          if (answer.problem.status === 401) session.expired = true
          return
        }
        const refusal: Refusal | null = !answer.ok
          ? { code: answer.problem.code, reasons: [answer.problem.message], toYes: ['Tell the office if this is unexpected.'] }
          : entry.kind === 'command' && (answer.value as Outcome).status === 'refused'
            ? (answer.value as Extract<Outcome, { status: 'refused' }>).refusal
            : null
        if (refusal) {
          lost.push(...entry.makes)
          await change(entry, { state: 'refused', refusal })
        } else {
          await drop(entry)
          done.value++
        }
      }
    } finally {
      sending.value = false
    }
  }

  return {
    entries,
    pending,
    stuck,
    sending,
    done,
    pendingOf,
    heldMs,
    isUnheard,
    setUnheard,
    load,
    ensureLoaded,
    keep,
    keepPhoto,
    drop,
    retry,
    flush,
  }
})
