import type { Prediction, WireReading, WireTest, WiringPlan } from '../../core/wiring'
import type { PracticeAnswer, PracticeQuestion } from '../workers/practice'

type Asked<Question = PracticeQuestion> = Question extends PracticeQuestion ? Omit<Question, 'id' | 'boxId' | 'seed'> : never

/** The simulated meter at one practice box, and its breaker: both work in a worker, so the page stays quick under the finger. */
export function usePractice(boxId: () => string, seed: () => number) {
  const worker = new Worker(new URL('../workers/practice.ts', import.meta.url), { type: 'module' })
  const waiting = new Map<number, (answer: PracticeAnswer) => void>()
  let asked = 0
  worker.onmessage = ({ data }: MessageEvent<PracticeAnswer>) => {
    waiting.get(data.id)?.(data)
    waiting.delete(data.id)
  }
  function ask(question: Asked): Promise<PracticeAnswer> {
    const id = ++asked
    return new Promise((resolve) => {
      waiting.set(id, resolve)
      // What Vue watches cannot be sent; its plain likeness can.
      worker.postMessage(JSON.parse(JSON.stringify({ ...question, id, boxId: boxId(), seed: seed() })))
    })
  }
  onScopeDispose(() => worker.terminate())
  return {
    async read(tests: WireTest[]): Promise<WireReading[]> {
      const answer = await ask({ kind: 'read', tests })
      return answer.kind === 'read' ? answer.readings : []
    },
    async tryOut(plan: WiringPlan, table: Prediction[], lights: { id: string; letter: string }[]) {
      const answer = await ask({ kind: 'tryOut', plan, table, lights })
      return answer.kind === 'tryOut' ? answer : null
    },
  }
}
