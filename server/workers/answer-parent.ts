import { parentPort } from 'node:worker_threads'

/** The thread’s side of `server/services/thread.ts`: one piece after the other. */
export function answerParent<What, Made>(work: (what: What) => Made | Promise<Made>): void {
  parentPort?.on('message', ({ id, what }: { id: number; what: What }) => {
    void (async () => work(what))().then(
      (made) => parentPort!.postMessage({ id, made }),
      (error: unknown) => parentPort!.postMessage({ id, problem: error instanceof Error ? error.message : String(error) }),
    )
  })
}
