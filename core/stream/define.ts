import type { EventDraft, StreamEvent } from './envelope'
import type { StreamReducer, StreamState } from './fold'
import type { Sentence } from './telling'
import type { Upcaster, UpcasterTable } from './upcast'

/** What an entry means: to the state, and in words. `S`: state of its stream, `W`: words it is told with, `P`: its payload. */
export interface EventRules<S, W, P> {
  /** Lifts of what earlier programs wrote, oldest first: as many as there are older versions. */
  lifts?: Upcaster[]
  /** Changes `state` in place. Looks at nothing but its arguments. */
  evolve(state: S, payload: P, event: StreamEvent): void
  /** What its maker did, as a sentence without a subject. */
  say(payload: P, words: W): Sentence
}
/** A kind of entry. Called with a payload it drafts one. */
export interface EventKind<S, W, M, T extends string, P> {
  (payload: P): EventDraft<T, P>
  readonly kind: 'event'
  readonly type: T
  readonly rules: EventRules<S, W, P> & M
}
/** Any kind of entry of a stream, whatever its payload. */
export interface AnyEvent<S, W, M> {
  readonly kind: 'event'
  readonly type: string
  readonly rules: EventRules<S, W, never> & M
}
/** The `defineEvent` of one stream. `M`: marks its entries may carry. */
export function defineEvents<S, W, M>() {
  return <T extends string, P>(type: T, rules: EventRules<S, W, P> & M): EventKind<S, W, M, T, P> =>
    Object.assign((payload: P) => ({ type, payload }), { kind: 'event' as const, type, rules })
}

/** What becomes of a command. `I`: what is said with it, without its type; `D`: what a decision of its stream is. */
export interface CommandRules<S, C, D, I> {
  decide(state: S, submission: I, context: C): D
  /** What it is called where it waits to be sent. */
  label?(submission: I): string
}
export interface CommandKind<S, C, D, M, T extends string, I> {
  readonly kind: 'command'
  readonly type: T
  readonly rules: CommandRules<S, C, D, I> & M
  /** What is said with it: for types only. */
  readonly submission?: I
}
export interface AnyCommand<S, C, D, M> {
  readonly kind: 'command'
  readonly type: string
  readonly rules: CommandRules<S, C, D, never> & M
}
/** The `defineCommand` of one stream. `M`: marks its commands carry, such as who may give them. */
export function defineCommands<S, C, D, M>() {
  return <T extends string, I>(type: T, rules: CommandRules<S, C, D, I> & M): CommandKind<S, C, D, M, T, I> => ({
    kind: 'command' as const,
    type,
    rules,
  })
}

/** A room: what the module of one subject exports. */
type Room = Readonly<Record<string, unknown>>
type In<R> = R extends unknown ? R[keyof R] : never
/** The entries that the kinds in these rooms draft. */
export type EventsIn<R> = In<R> extends infer K ? (K extends { readonly kind: 'event' } & ((payload: never) => infer D) ? D : never) : never
/** The commands in these rooms, as they are sent. */
export type CommandsIn<R> =
  In<R> extends infer K
    ? K extends { readonly kind: 'command'; readonly type: infer T extends string; readonly submission?: infer I }
      ? string extends keyof NonNullable<I>
        ? { type: T }
        : { type: T } & NonNullable<I>
      : never
    : never

const isKind =
  <K>(kind: 'event' | 'command') =>
  (one: unknown): one is K =>
    (typeof one === 'object' || typeof one === 'function') && one !== null && 'kind' in one && one.kind === kind

/** One kind of record: what may be said in it, what that means, and how it is told. Made of rooms, one for each subject. */
export interface StreamDefinition<S extends StreamState, C, D, W, EM, CM> {
  name: string
  /** Bumped when `evolve` changes what a stored stream folds to: snapshots of another version are thrown away. */
  reducerVersion: number
  empty(streamId: string): S
  events: ReadonlyMap<string, AnyEvent<S, W, EM>>
  commands: ReadonlyMap<string, AnyCommand<S, C, D, CM>>
  reducer: StreamReducer<S>
}

/**
 * Composes a stream of its rooms. Throws when two kinds bear one name.
 * @param around runs `evolve` and what every entry does besides
 */
export function defineStream<S extends StreamState, C, D, W, EM, CM>(
  name: string,
  {
    reducerVersion,
    empty,
    rooms,
    around = (_state, _event, _rules, evolve) => evolve(),
  }: {
    reducerVersion: number
    empty(streamId: string): S
    rooms: Room[]
    around?(state: S, event: StreamEvent, rules: EM, evolve: () => void): void
  },
): StreamDefinition<S, C, D, W, EM, CM> {
  const all = rooms.flatMap((room) => Object.values(room))
  const events = byType(all.filter(isKind<AnyEvent<S, W, EM>>('event')))
  const commands = byType(all.filter(isKind<AnyCommand<S, C, D, CM>>('command')))
  const upcasters: UpcasterTable = Object.fromEntries([...events].map(([type, { rules }]) => [type, rules.lifts ?? []]))
  const reducer: StreamReducer<S> = {
    upcasters,
    knows: (type) => events.has(type),
    evolve(state, event) {
      const { rules } = events.get(event.type)!
      around(state, event, rules, () => rules.evolve(state, event.payload as never, event))
    },
  }
  return { name, reducerVersion, empty, events, commands, reducer }
}

function byType<K extends { type: string }>(kinds: K[]): ReadonlyMap<string, K> {
  const map = new Map(kinds.map((kind) => [kind.type, kind]))
  if (map.size !== new Set(kinds).size) throw new Error('Two things of a stream bear one name.')
  return map
}

/** The types of those commands that carry a mark. */
export function commandsThat<S extends StreamState, C, D, W, EM, CM>(
  stream: StreamDefinition<S, C, D, W, EM, CM>,
  carry: (marks: CM) => boolean | undefined,
): ReadonlySet<string> {
  return new Set([...stream.commands.values()].filter(({ rules }) => carry(rules)).map(({ type }) => type))
}
