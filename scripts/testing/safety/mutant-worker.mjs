// Plays mutants, each as it is asked for, and says whether the simulated crew was hurt or stuck.
import { parentPort, workerData } from 'node:worker_threads'
import { loadSimulator } from './bundle.mjs'
import { mutants } from './mutants.mjs'

async function play({ name, focus, seed = workerData.seed, ...mutant }) {
  try {
    const { simulate } = await loadSimulator({ name, ...mutant })
    const report = simulate({ seed, steps: workerData.steps, stopAtFirst: true, focus })
    const what = Object.keys(report.harms)[0] ?? (report.deadlocks.length ? 'stuck: not everything could be closed again' : null)
    return { name, caught: what, steps: report.steps }
  } catch (error) {
    return { name, caught: null, steps: 0, error: error.message }
  }
}
parentPort.on('message', async (index) => parentPort.postMessage(await play(mutants[index])))
parentPort.postMessage(null)
