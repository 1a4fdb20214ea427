// Every rule switched off, on two threads. Used by npm test and npm run test:safety.
import { Worker } from 'node:worker_threads'
import { mutants } from './mutants.mjs'

/** @returns {Promise<{ name: string, caught: string | null, steps: number, error?: string }[]>} */
export async function playMutants({ seed, steps, threads = 2 }) {
  const results = []
  let next = 0
  await Promise.all(
    Array.from(
      { length: threads },
      () =>
        new Promise((resolve, reject) => {
          const worker = new Worker(new URL('./mutant-worker.mjs', import.meta.url), { workerData: { seed, steps } })
          // Whoever is free takes the next: some show late.
          worker.on('message', (result) => {
            if (result) results.push(result)
            if (next < mutants.length) worker.postMessage(next++)
            else resolve(worker.terminate())
          })
          worker.on('error', reject)
        }),
    ),
  )
  return results
}
