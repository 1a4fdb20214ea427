import type { Prediction, WireReading, WireTest, WiringPlan } from '../../core/wiring'
import { practiceBoxes, practiceMeter, tryOut } from '../../core/wiring/practice'
import { answers } from './answers'

/** The hidden home behind a practice box lives here: its meter is read, and its breaker closed. */
type PracticeQuestion = { boxId: string; seed: number } & (
  { kind: 'read'; tests: WireTest[] } | { kind: 'tryOut'; plan: WiringPlan; table: Prediction[]; lights: { id: string; letter: string }[] }
)
type PracticeAnswer = { kind: 'read'; readings: WireReading[] } | ({ kind: 'tryOut' } & ReturnType<typeof tryOut>)
export interface PracticeTalk {
  question: PracticeQuestion
  answer: PracticeAnswer
}

const meters = new Map<string, ReturnType<typeof practiceMeter>>()
function answerPractice(question: PracticeQuestion): PracticeAnswer {
  const { boxId, seed } = question
  const box = practiceBoxes.find((one) => one.id === boxId)!
  if (question.kind === 'tryOut') return { kind: 'tryOut', ...tryOut(box, question.plan, question.table, question.lights) }
  const key = `${boxId} ${seed}`
  const meter = meters.get(key) ?? practiceMeter(box, seed)
  meters.set(key, meter)
  return { kind: 'read', readings: question.tests.map((test) => meter.read(test)) }
}
answers<PracticeTalk>(answerPractice)
