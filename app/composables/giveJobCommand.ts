import type { Given } from './useJobRecord'

/** One command to a job from a screen that does not hold its record (the day board, the callback list). */
export async function giveJobCommand(jobId: string, command: { type: string } & Record<string, unknown>): Promise<Given> {
  return (await sendCommand('job', jobId, { siteSeq: 0, jobSeq: null, where: '' }, command)).given
}
