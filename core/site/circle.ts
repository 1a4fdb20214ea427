/**
 * @param edges from what feeds to what is fed
 * @returns something that feeds itself, over however many others; null: nothing does
 */
export function fedByItself(edges: readonly (readonly [from: string, to: string])[]): string | null {
  const fed = new Map<string, string[]>()
  for (const [from, to] of edges) fed.set(from, [...(fed.get(from) ?? []), to])
  const done = new Set<string>()
  for (const start of fed.keys()) {
    // Depth first without recursion: a file may be long.
    const path: { at: string; next: number }[] = [{ at: start, next: 0 }]
    const onPath = new Set([start])
    while (path.length) {
      const top = path.at(-1)!
      const to = done.has(top.at) ? undefined : fed.get(top.at)?.[top.next++]
      if (to === undefined) {
        done.add(top.at)
        onPath.delete(top.at)
        path.pop()
      } else if (onPath.has(to)) return to
      else if (!done.has(to)) {
        path.push({ at: to, next: 0 })
        onPath.add(to)
      }
    }
  }
  return null
}
