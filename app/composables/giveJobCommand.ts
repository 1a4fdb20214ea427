import type { Outcome } from '../../core/stream'
import type { Given } from './useJobRecord'

/** One command to a job from a screen that does not hold its record (the day board, the callback list). */
export async function giveJobCommand(jobId: string, command: { type: string } & Record<string, unknown>): Promise<Given> {
  const answer = await api<Outcome>('/api/commands', {
    body: { id: newId(), stream: 'job', streamId: jobId, at: new Date().toISOString(), basedOnSeq: 0, command },
  })
  if (!answer.ok)
    return {
      ok: false,
      refusal: {
        code: answer.problem.code,
        reasons: [answer.problem.message, ...faultsOf(answer.problem).map((fault) => fault.problem)],
        toYes: [],
      },
    }
  return answer.value.status === 'accepted' ? { ok: true, refusal: null } : { ok: false, refusal: answer.value.refusal }
}
