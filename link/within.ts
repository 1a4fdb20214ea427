/** Rejects where an answer is late. */
export function within<T>(ms: number, answer: Promise<T>): Promise<T> {
  let timer: NodeJS.Timeout
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error(`no answer within ${ms / 1000} s`)), ms)
  })
  return Promise.race([answer, late]).finally(() => clearTimeout(timer))
}
