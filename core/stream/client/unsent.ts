import type { EventDraft, Refusal } from '../envelope'
import { entriesOf, type EntryFrame } from '../entries'
import { foldEvents, type StreamReducer, type StreamState } from '../fold'

/**
 * Shows on top of a copy what an unsent command would make of it. The server decides again when it is sent; what would be refused
 * already here is not shown.
 */
export function showUnsent<S extends StreamState>(
  stream: { name: string; reducer: StreamReducer<S> },
  copy: S,
  decision: { ok: true; events: EventDraft[] } | { ok: false },
  frame: EntryFrame,
): void {
  if (!decision.ok) return
  foldEvents(
    stream.reducer,
    copy,
    entriesOf(stream, copy.seq, decision.events, frame, () => frame.commandId),
  )
}

/**
 * Why a command is not kept: the record as it is on this device already forbids it, and whoever is told “kept” goes on and does it.
 * A fact is kept whatever the record says; so is what only an update of the program can judge.
 */
export function forbiddenHere(decision: { ok: true } | { ok: false; refusal: Refusal }, isFact: boolean): Refusal | null {
  return decision.ok || isFact || decision.refusal.code === 'updateNeeded' ? null : decision.refusal
}
