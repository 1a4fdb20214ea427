import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { foldEvents, type StreamEvent } from '../stream'
import { emptySite, siteStream } from '../site'
import { emptyJob, jobStream } from './index'

/**
 * Streams as releases wrote them. A file is never edited after its release: the program of today must fold it to a
 * state that tells the same story. A wanted change of the state is written into `expected` beside the old events.
 */
interface Golden {
  siteId: string
  jobId: string
  events: StreamEvent[]
  expected: { site: object; job: object }
}
const folder = 'core/job/golden'

test.each(readdirSync(folder).filter((name) => name.endsWith('.json')))('%s still folds to the same state', (name) => {
  const golden = JSON.parse(readFileSync(join(folder, name), 'utf8')) as Golden
  const of = (stream: string) => golden.events.filter((event) => event.stream === stream)
  expect(JSON.parse(JSON.stringify(foldEvents(siteStream.reducer, emptySite(golden.siteId), of('site'))))).toEqual(golden.expected.site)
  expect(JSON.parse(JSON.stringify(foldEvents(jobStream.reducer, emptyJob(golden.jobId), of('job'))))).toEqual(golden.expected.job)
})
