import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { StreamEvent, StreamKind } from '../stream'

/**
 * Streams as releases wrote them. A file is never edited after its release: the program of today must fold it to a
 * state that tells the same story. A wanted change of the state is written into `expected` beside the old events.
 */
export interface GoldenStream {
  kind: StreamKind
  id: string
  events: StreamEvent[]
  expected: object
}
/** As the first release was put down. */
interface OneHome {
  siteId: string
  jobId: string
  events: StreamEvent[]
  expected: { site: object; job: object }
}
const folder = 'core/job/golden'
export const goldenFiles = readdirSync(folder).filter((name) => name.endsWith('.json'))

export function goldenStreams(name: string): GoldenStream[] {
  const golden = JSON.parse(readFileSync(join(folder, name), 'utf8')) as { streams: GoldenStream[] } | OneHome
  if ('streams' in golden) return golden.streams
  return (['site', 'job'] as const).map((kind) => ({
    kind,
    id: kind === 'site' ? golden.siteId : golden.jobId,
    events: golden.events.filter((event) => event.stream === kind),
    expected: golden.expected[kind],
  }))
}
