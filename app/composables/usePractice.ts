import type { Prediction, WireReading, WireTest, WiringPlan } from '../../core/wiring'
import type { PracticeTalk } from '../workers/practice'

type Asked<Question = PracticeTalk['question']> = Question extends PracticeTalk['question'] ? Omit<Question, 'boxId' | 'seed'> : never

/** The simulated meter at one practice box, and its breaker: both work in a worker, so the page stays quick under the finger. */
export function usePractice(boxId: () => string, seed: () => number) {
  const worker = useWorker<PracticeTalk>(() => new Worker(new URL('../workers/practice.ts', import.meta.url), { type: 'module' }))
  /** The last question came to no end; it may be asked again. */
  const failed = ref(false)
  /** What Vue watches cannot be sent; its plain likeness can. */
  async function ask(question: Asked): Promise<PracticeTalk['answer'] | null> {
    try {
      const answer = await worker.ask(JSON.parse(JSON.stringify({ ...question, boxId: boxId(), seed: seed() })) as PracticeTalk['question'])
      failed.value = false
      return answer
    } catch (error) {
      console.warn(error)
      failed.value = true
      return null
    }
  }
  return {
    failed,
    async read(tests: WireTest[]): Promise<WireReading[]> {
      const answer = await ask({ kind: 'read', tests })
      return answer?.kind === 'read' ? answer.readings : []
    },
    async tryOut(plan: WiringPlan, table: Prediction[], lights: { id: string; letter: string }[]) {
      const answer = await ask({ kind: 'tryOut', plan, table, lights })
      return answer?.kind === 'tryOut' ? answer : null
    },
  }
}
