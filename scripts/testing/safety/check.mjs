// Every rule switched off, on two threads. Used by npm test and npm run test:safety.
import { Worker } from 'node:worker_threads'
import { mutants } from './mutants.mjs'

/** @returns {Promise<{ name: string, caught: string | null, steps: number, error?: string }[]>} */
export async function playMutants({ seed, steps, threads = 2 }) {
  const results = []
  await Promise.all(
    Array.from({ length: threads }, (_, part) => {
      const indices = mutants.flatMap((_mutant, index) => (index % threads === part ? [index] : []))
      return new Promise((resolve, reject) => {
        const worker = new Worker(new URL('./mutant-worker.mjs', import.meta.url), { workerData: { indices, seed, steps } })
        worker.on('message', (result) => {
          if (result) results.push(result)
          else resolve()
        })
        worker.on('error', reject)
      })
    }),
  )
  return results
}
