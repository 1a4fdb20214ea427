import type { WorkerTalk } from '../composables/useWorker'

/** This worker's part of `useWorker`: every question gets the answer that belongs to it. What fails is an error of the worker. */
export function answers<Talk extends WorkerTalk<unknown, unknown>>(
  answer: (question: Talk['question']) => Talk['answer'] | Promise<Talk['answer']>,
) {
  self.onmessage = ({ data: { id, question } }: MessageEvent<{ id: number; question: Talk['question'] }>) => {
    const say = (given: Talk['answer']) => self.postMessage({ id, answer: given })
    const given = answer(question)
    if (!(given instanceof Promise)) return say(given)
    // A promise that fails would be heard by nobody.
    void given.then(say).catch((error: Error) =>
      setTimeout(() => {
        throw error
      }),
    )
  }
}
