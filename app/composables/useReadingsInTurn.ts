/** Readings that came while something else was on its way, and were taken for nothing: said until the next one is taken. */
export const useReadingsTooSoon = () => useState('readings-too-soon', () => 0)

/**
 * Readings of a linked meter, one after the other: one that comes while the last is being stored waits for it and is taken for
 * what is asked next, as whoever holds the probes has gone on there. Where something else is asked than the next of the row, or
 * the last was not stored, those that wait are dropped and it is said: they would be taken for another place.
 */
export function useReadingsInTurn(busy: () => boolean, take: (text: string) => Promise<unknown>, goesOn: () => boolean) {
  const waiting: { text: string; waited: boolean }[] = []
  const dropped = useReadingsTooSoon()
  let taking = false
  async function goOn() {
    if (taking || busy()) return
    taking = true
    try {
      for (let next = waiting.shift(); next; next = waiting.shift()) {
        if (next.waited && !goesOn()) {
          dropped.value += 1 + waiting.splice(0).length
          return
        }
        dropped.value = 0
        await take(next.text)
      }
    } finally {
      taking = false
    }
  }
  // What came first is taken first, whatever it had to wait for.
  watch(busy, (now) => {
    if (!now) void goOn()
  })
  function reading(text: string) {
    waiting.push({ text, waited: taking || busy() })
    void goOn()
  }
  return { reading, dropped }
}
