/** A phone that is slower than this sends the picture as it is, ms. */
const patienceMs = 20_000

/**
 * A picture as it is sent and kept: small enough for a weak signal, without the place it was taken at. One that cannot be drawn here
 * comes back as it is. It goes on when its page is left: a picture that was taken is not lost.
 */
export function shrinkPicture(file: Blob): Promise<Blob> {
  return new Promise((resolve) => {
    const worker = new Worker(new URL('../workers/shrink.ts', import.meta.url), { type: 'module' })
    const done = (picture: Blob) => {
      clearTimeout(late)
      worker.terminate()
      resolve(picture)
    }
    const late = setTimeout(() => done(file), patienceMs)
    worker.onmessage = ({ data }: MessageEvent<{ answer: Blob }>) => done(data.answer)
    worker.onerror = (event) => {
      event.preventDefault()
      done(file)
    }
    worker.postMessage({ id: 1, question: file })
  })
}
