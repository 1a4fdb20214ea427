import type { Refusal } from '../envelope'

/** Something a person did without network, kept on their device until the server has taken it. */
export interface QueuedCommand {
  /** Given by the storage, in order. */
  key?: number
  personId: string
  /** Ids that only this entry brings into the world: whoever names one of them depends on it. */
  makes: string[]
  state: 'pending' | 'refused' | 'blocked'
  refusal: Refusal | null
}
/** What a device keeps it in. What `add` and `change` have resolved for outlives the device's power. */
export interface OutboxStorage<E extends QueuedCommand> {
  /** Entries of one person, oldest first. */
  list(personId: string): Promise<E[]>
  /** @returns its key. Throws when there is no room: then nothing was stored. */
  add(entry: E): Promise<number>
  change(key: number, to: Partial<E>): Promise<void>
  drop(key: number): Promise<void>
}

/** What comes back for one entry. Unreachable: nobody knows whether it arrived; it goes out again as it was. */
export type Answer = { is: 'taken' } | { is: 'refused'; refusal: Refusal } | { is: 'unreachable' }
/** What sending asks of its device. `deliver` is answered entry by entry; what has no answer was not reached. */
export type OutboxStep<E extends QueuedCommand> =
  { do: 'deliver'; entries: E[] } | { do: 'change'; entry: E; to: Pick<QueuedCommand, 'state' | 'refusal'> } | { do: 'drop'; entries: E[] }

const waitsForAnother: Refusal = {
  code: 'waitsForAnother',
  reasons: ['It belongs to an entry that was refused.'],
  toYes: ['Resolve that one first.'],
}

/** So many go out in one request, and so many letters: more would make the first of them wait for the last. */
const mostTogether = 25
const mostLetters = 200_000

/**
 * Sends what waits, oldest first, once each. Stops at a lost connection; goes on behind a refusal, and holds back only what names
 * a thing that a refused entry would have brought: so what names a thing that another one brings never goes out together with it.
 * Written as steps, so that a browser runs it over a real line and a simulation over a worse one.
 * @param entries as they are now; read anew after each step
 * @param says everything an entry names, as text
 * @param alone entries that go out by themselves
 */
export function* sendQueued<E extends QueuedCommand>(
  entries: () => readonly E[],
  says: (entry: E) => string,
  alone: (entry: E) => boolean = () => false,
): Generator<OutboxStep<E>, void, Answer[] | undefined> {
  for (;;) {
    const pending = entries().filter(({ state }) => state === 'pending')
    const first = pending[0]
    if (!first) return
    const lost = entries().flatMap(({ state, makes }) => (state === 'pending' ? [] : makes))
    const isLost = (text: string) => lost.some((id) => text.includes(id))
    if (isLost(says(first))) {
      yield { do: 'change', entry: first, to: { state: 'blocked', refusal: waitsForAnother } }
      continue
    }
    const together = [first]
    let letters = says(first).length
    for (const entry of alone(first) ? [] : pending.slice(1, mostTogether)) {
      const text = says(entry)
      letters += text.length
      if (letters > mostLetters || alone(entry) || isLost(text) || together.some(({ makes }) => makes.some((id) => text.includes(id))))
        break
      together.push(entry)
    }
    const answers = (yield { do: 'deliver', entries: together })!
    const cut = answers.findIndex(({ is }) => is === 'unreachable')
    const known = cut < 0 ? answers : answers.slice(0, cut)
    const reached = together.slice(0, known.length).map((entry, index) => ({ entry, answer: known[index]! }))
    // All at once: whoever shows the record with what waits makes it anew after each step.
    const taken = reached.flatMap(({ entry, answer }) => (answer.is === 'taken' ? [entry] : []))
    if (taken.length) yield { do: 'drop', entries: taken }
    for (const { entry, answer } of reached)
      if (answer.is === 'refused') yield { do: 'change', entry, to: { state: 'refused', refusal: answer.refusal } }
    if (reached.length < together.length) return
  }
}
