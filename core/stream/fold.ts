import type { StreamEvent } from './envelope'
import { upcast, type UpcasterTable } from './upcast'

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

/**
 * Applies one event. Events already applied are ignored; a gap throws SeqGap, so that the caller fetches what
 * is missing; an event this program does not understand is counted and marks the state, never hidden.
 */
export function applyEvent<S extends StreamState>(reducer: StreamReducer<S>, state: S, event: StreamEvent): void {
  if (event.seq <= state.seq) return
  if (event.seq !== state.seq + 1) throw new SeqGap(state.seq + 1, event.seq)
  if (!reducer.knows(event.type) || event.version > (reducer.upcasters[event.type]?.length ?? 0) + 1) {
    state.unknownEvent ??= `${event.type} v${event.version}`
  } else if (state.unknownEvent === null) {
    reducer.evolve(state, upcast(reducer.upcasters, event))
    state.understoodSeq = event.seq
  } else {
    // It may speak of something the entry that was not understood brought in. Shown as far as it can be; nothing is granted.
    try {
      reducer.evolve(state, upcast(reducer.upcasters, event))
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
