import { refuse } from '../stream/envelope'
import type { JobContext } from './context'
import type { JobState } from './state'

export function boxOf(job: JobState, context: JobContext, boxId: string) {
  return job.boxIds.includes(boxId) ? (context.site.boxes[boxId] ?? null) : null
}

export const noBox = () => refuse('noSuchBox', 'This box is not part of the job.')

export const noUnit = () => refuse('noSuchUnit', 'There is no such device on this job.')
