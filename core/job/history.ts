import { siteStream, siteWords, type SiteState } from '../site'
import { understood, type StreamEvent, type StreamKind, type Tone } from '../stream'
import { inTrade } from '../units/trade-words'
import { jobStream } from './stream'
import type { JobState } from './state'
import { jobWords } from './telling'

export interface HistoryLine {
  id: string
  stream: StreamKind
  seq: number
  at: string
  receivedAt: string
  who: string
  initials: string
  what: string
  /** The proof that this is one of many small steps of; null: it stands by itself. */
  proofId: string | null
  /** Alarms and refusals by the physical world stand out. */
  tone: Tone
}

/** Entries of which a proof has dozens. */
const steps: ReadonlySet<string> = new Set(['readingTaken', 'readingsSwept', 'referenceSeen'])

/** One event as a line of history: who, when, what, with readings. */
export function historyLine(event: StreamEvent, job: JobState, site: SiteState, nameOf: (personId: string) => string): HistoryLine {
  // As it is understood today: an entry of an earlier program is lifted, one of a later program is not told in words of this one.
  const entry = event.stream === 'site' ? understood(siteStream.reducer, event) : understood(jobStream.reducer, event)
  const said =
    event.stream === 'site'
      ? entry && siteStream.events.get(event.type)!.rules.say(entry.payload as never, siteWords(site))
      : entry && jobStream.events.get(event.type)!.rules.say(entry.payload as never, jobWords(job, site, nameOf))
  const { what, tone } =
    said && typeof said === 'object'
      ? said
      : { what: said ?? `recorded ${event.type}, which this program does not know`, tone: 'plain' as const }
  return {
    id: event.id,
    stream: event.stream,
    seq: event.seq,
    at: event.at,
    receivedAt: event.receivedAt,
    who: event.actor.name,
    initials: event.actor.initials,
    what: inTrade(event.actor.via ? `${what} (own PIN, on ${event.actor.via.initials}’s device)` : what, site.schemeId),
    proofId: entry && tone === 'plain' && steps.has(event.type) ? String((entry.payload as { proofId: unknown }).proofId) : null,
    tone,
  }
}
