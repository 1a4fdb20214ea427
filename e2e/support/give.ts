import { expect, type Page } from '@playwright/test'
import type { JobState } from '../../core/job'
import type { SiteState } from '../../core/site'
import { ask } from './people'

export interface JobRecord {
  job: { siteId: string }
  siteState: SiteState
  jobState: JobState
}
type Command = { type: string; [key: string]: unknown }
/** Commands as somebody’s own device gives them; each has to be accepted. */
export const giving =
  (page: Page, jobId: string) =>
  async (stream: 'site' | 'job', command: Command): Promise<void> => {
    const { job, siteState, jobState } = await ask<JobRecord>(page, `/api/jobs/${jobId}`)
    const outcome = await ask<{ status: string; refusal?: { reasons: string[] } }>(page, '/api/commands', {
      ...{ id: crypto.randomUUID(), at: new Date().toISOString(), heldMs: 0 },
      ...{ stream, streamId: stream === 'site' ? job.siteId : jobId },
      ...{ basedOnSeq: siteState.seq, jobSeq: jobState.seq },
      command,
    })
    expect(outcome, `${command.type}: ${outcome.refusal?.reasons.join(' ')}`).toMatchObject({ status: 'accepted' })
  }
