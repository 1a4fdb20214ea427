import type { EventDraft, StreamEvent } from './envelope'
import { currentVersion, type UpcasterTable } from './upcast'
import type { StreamKind } from './words'

/** What the entries of one command have in common. */
export type EntryFrame = Pick<StreamEvent, 'streamId' | 'commandId' | 'at' | 'receivedAt' | 'actor'>

/**
 * What a decision drafted, as entries of a stream, in the versions of today.
 * @param seq of the newest entry before them
 */
export function entriesOf(
  stream: { name: string; reducer: { upcasters: UpcasterTable } },
  seq: number,
  drafts: EventDraft[],
  frame: EntryFrame,
  newId: () => string,
): StreamEvent[] {
  return drafts.map(({ type, payload }, index) => ({
    ...frame,
    id: newId(),
    stream: stream.name as StreamKind,
    seq: seq + 1 + index,
    version: currentVersion(stream.reducer.upcasters, type),
    type,
    payload,
  }))
}
