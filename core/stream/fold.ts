import type { StreamEvent } from './envelope'
import { currentVersion, upcast, type UpcasterTable } from './upcast'

/** What every stream's state carries. */
export interface StreamState {
  seq: number
  /** Set when an event of an unknown type or a newer version was met: nothing may be granted then. */
  unknownEvent: string | null
  /** The newest seq up to which this program understood everything: what its person knows, whatever came later. */
  understoodSeq: number
}

export interface StreamReducer<S extends StreamState> {
  upcasters: UpcasterTable
  /** Event types this program understands. */
  knows(type: string): boolean
  /** What a payload of this type says, or null when it is none. Left out where somebody else has read it already. */
  read?(type: string, payload: unknown): unknown
  /** Changes `state` in place. Must not look at anything but its arguments. */
  evolve(state: S, event: StreamEvent): void
}

export class SeqGap extends Error {
  constructor(
    readonly expected: number,
    readonly got: number,
  ) {
    super(`Expected seq ${expected}, got ${got}`)
  }
}

/** The event in its version of today, or null when this program does not understand it. */
export function understood<S extends StreamState>(reducer: StreamReducer<S>, event: StreamEvent): StreamEvent | null {
  if (!reducer.knows(event.type) || event.version > currentVersion(reducer.upcasters, event.type)) return null
  const lifted = upcast(reducer.upcasters, event)
  if (!reducer.read) return lifted
  const payload = reducer.read(event.type, lifted.payload)
  return payload === null ? null : Object.assign({}, lifted, { payload })
}

/**
 * Applies one event. Events already applied are ignored; a gap throws SeqGap, so that the caller fetches what
 * is missing; an event this program does not understand is counted and marks the state, never hidden.
 */
export function applyEvent<S extends StreamState>(reducer: StreamReducer<S>, state: S, event: StreamEvent): void {
  if (event.seq <= state.seq) return
  if (event.seq !== state.seq + 1) throw new SeqGap(state.seq + 1, event.seq)
  const entry = understood(reducer, event)
  if (entry === null) state.unknownEvent ??= `${event.type} v${event.version}`
  else if (state.unknownEvent === null) {
    reducer.evolve(state, entry)
    state.understoodSeq = event.seq
  } else {
    // It may speak of something the entry that was not understood brought in. Shown as far as it can be; nothing is granted.
    try {
      reducer.evolve(state, entry)
    } catch {
      // Not shown.
    }
  }
  state.seq = event.seq
}

export function foldEvents<S extends StreamState>(reducer: StreamReducer<S>, state: S, events: Iterable<StreamEvent>): S {
  for (const event of events) applyEvent(reducer, state, event)
  return state
}
