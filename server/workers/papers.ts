import { parentPort } from 'node:worker_threads'
import { renderDrawings, renderPaper, type Printing } from './render-paper'

/** A thread that lays papers out, one after the other: the server answers everybody else meanwhile. */
parentPort?.on('message', ({ id, what }: { id: number; what: Printing }) => {
  const made = what.kind === 'paper' ? renderPaper(what.paper) : renderDrawings(what.title, what.schemeId, what.svgs, what.widthMm)
  made.then(
    (bytes) => parentPort!.postMessage({ id, bytes }),
    (error: unknown) => parentPort!.postMessage({ id, problem: error instanceof Error ? error.message : String(error) }),
  )
})
