// Plays mutants one after the other and says of each whether the simulated crew was hurt or stuck.
import { parentPort, workerData } from 'node:worker_threads'
import { loadSimulator } from './bundle.mjs'
import { mutants } from './mutants.mjs'

for (const index of workerData.indices) {
  const { name, focus, seed = workerData.seed, ...mutant } = mutants[index]
  try {
    const { simulate } = await loadSimulator({ name, ...mutant })
    const report = simulate({ seed, steps: workerData.steps, stopAtFirst: true, focus })
    const what = Object.keys(report.harms)[0] ?? (report.deadlocks.length ? 'stuck: not everything could be closed again' : null)
    parentPort.postMessage({ name, caught: what, steps: report.steps })
  } catch (error) {
    parentPort.postMessage({ name, caught: null, steps: 0, error: error.message })
  }
}
parentPort.postMessage(null)
