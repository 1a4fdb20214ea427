import type { Submission } from './useJobRecord'

/** One command to a job from a screen that does not hold its record (the day board, the callback list). */
export async function submitJobCommand(jobId: string, command: { type: string } & Record<string, unknown>): Promise<Submission> {
  return (await sendCommand('job', jobId, { basedOnSeq: 0, jobSeq: null, where: '' }, command)).submission
}
