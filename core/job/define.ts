import { defineCommands, defineEvents } from '../stream'
import type { JobContext, JobDecision } from './context'
import type { JobState } from './state'
import type { JobWords } from './telling'

/** What an entry of a job's record may carry. */
export interface JobEventMarks {
  /** Changes what the customer signs for. */
  material?: true
  /** The rows of jobs, visits, units or callbacks follow from it. */
  rows?: true
}
/** Who may give a command, and when. */
export interface JobCommandMarks {
  /**
   * crew: whoever is on a visit of the job · office: the dispatcher and leads · crewOrOffice · itself: the command looks at whose
   * visit it is · system: what follows from something outside the record, never given by hand.
   */
  by: 'crew' | 'office' | 'crewOrOffice' | 'itself' | 'system'
  /** May wait on a phone without network and is sent later. */
  queues?: true
}

export const jobEvent = defineEvents<JobState, JobWords, JobEventMarks>()
export const jobCommand = defineCommands<JobState, JobContext, JobDecision, JobCommandMarks>()
