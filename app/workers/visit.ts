import { enoughUntil, orderOfVisit, type Enough, type VisitRun, type VisitWork } from '../../core/dispatch/visit'

/** `until`: minutes after the beginning by which the crew has to leave. */
export interface VisitQuestion {
  work: VisitWork
  until: number
}
export interface VisitAnswer {
  /** What the numbers of the run stand for. */
  boxIds: string[]
  run: VisitRun
  enough: Enough
}

self.onmessage = ({ data: { id, question } }: MessageEvent<{ id: number; question: VisitQuestion }>) => {
  const { order, run } = orderOfVisit(question.work)
  const answer: VisitAnswer = {
    boxIds: question.work.boxes.map(({ id: boxId }) => boxId),
    run,
    enough: enoughUntil(question.work, order, question.until),
  }
  self.postMessage({ id, answer })
}
