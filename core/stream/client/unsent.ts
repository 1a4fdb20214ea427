import type { Decision, EventDraft } from '../envelope'
import { entriesOf, type EntryFrame } from '../entries'
import { foldEvents, type StreamReducer, type StreamState } from '../fold'

/**
 * Shows on top of a copy what an unsent command would make of it. The server decides again when it is sent; what would be refused
 * already here is not shown.
 */
export function showUnsent<S extends StreamState>(
  stream: { name: string; reducer: StreamReducer<S> },
  copy: S,
  decision: Decision<EventDraft>,
  frame: EntryFrame,
): void {
  if (!decision.ok) return
  foldEvents(
    stream.reducer,
    copy,
    entriesOf(stream, copy.seq, decision.events, frame, () => frame.commandId),
  )
}
