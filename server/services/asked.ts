import { v7 as uuid } from 'uuid'
import type { JobCommand } from '../../core/job'
import type { SiteCommand } from '../../core/site'
import type { CommandEnvelope, StreamKind } from '../../core/stream'
import type { JobRow, SiteRow } from '../database'
import type { Viewer } from './access'
import type { BranchRules } from './branch-rules'

/** Who sends what, and when it arrived. */
export interface Writing {
  envelope: CommandEnvelope
  viewer: Viewer
  now: Date
}
/** One command for one record, with the rules of its branch. */
export interface Asked extends Writing {
  /** What the envelope holds, read by its schema once. */
  command: SiteCommand | JobCommand
  row: SiteRow | JobRow
  settings: BranchRules
  /** Visits that are moved together with this one: where they were booked does not count. */
  together?: ReadonlySet<string>
}

/**
 * Wraps a command that no client sent: it saw nothing of the record, and did not wait.
 * @param options.id Where the same again has to be the same.
 */
export const byProgram = <K extends StreamKind>(
  stream: K,
  streamId: string,
  command: CommandEnvelope['command'],
  now: Date,
  { id = uuid(), basedOnSeq = 0 }: { id?: string; basedOnSeq?: number } = {},
) => ({ id, stream, streamId, at: now.toISOString(), basedOnSeq, jobSeq: null, heldMs: 0, command })
