import type { WorkerTalk } from '../composables/useWorker'

/** This worker's part of `useWorker`: every question gets the answer that belongs to it. */
export function answers<Talk extends WorkerTalk<unknown, unknown>>(answer: (question: Talk['question']) => Talk['answer']) {
  self.onmessage = ({ data }: MessageEvent<{ id: number; question: Talk['question'] }>) =>
    self.postMessage({ id: data.id, answer: answer(data.question) })
}
