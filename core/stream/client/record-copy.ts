import type { StreamEvent } from '../envelope'
import { applyEvent, SeqGap, type StreamReducer, type StreamState } from '../fold'

/**
 * Takes what came over the line into a copy of a record: repeated entries change nothing, what an old program does not understand
 * is marked.
 * @returns false when entries between are missing: what came after `copy.seq` has to be fetched
 */
export function takeInto<S extends StreamState>(reducer: StreamReducer<S>, copy: S, events: Iterable<StreamEvent>): boolean {
  try {
    for (const event of events) applyEvent(reducer, copy, event)
    return true
  } catch (error) {
    if (error instanceof SeqGap) return false
    throw error
  }
}
