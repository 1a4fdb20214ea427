// How long something takes here, ms, and what the same machine takes for something it always does.
const median = (values) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]
/** @returns the median of seven runs */
export const timed = (work) =>
  median(
    Array.from({ length: 7 }, () => {
      const began = performance.now()
      work()
      return performance.now() - began
    }),
  )
/** A million logarithms. */
export const baseline = timed(() => {
  let sum = 0
  for (let at = 1; at <= 1_000_000; at++) sum += Math.log(at)
  return sum
})
