import { contracts } from '../../core/protocol'

/** Addresses with their methods: `:id` stands for one part of an address. Of what is no file, the head can be asked for. */
const known = (() => {
  const byPath = new Map<string, string[]>()
  for (const [route, { answer }] of contracts) {
    const [method, path] = route.split(' ') as [string, string]
    byPath.set(path, [...(byPath.get(path) ?? []), method, ...(method === 'GET' && answer ? ['HEAD'] : [])])
  }
  return [...byPath].map(([path, methods]) => ({ path, pattern: new RegExp(`^${path.replace(/:\w+/g, '[^/]+')}/?$`), methods }))
})()

/** An address as contracts name it: without ids, and without the keys that links carry. */
export const patternAt = (path: string): string | null => known.find(({ pattern }) => pattern.test(path))?.path ?? null
/** What may be done at an address of the API; null: there is no such address. */
export function methodsAt(path: string): string[] | null {
  const found = known.filter(({ pattern }) => pattern.test(path))
  return found.length ? [...new Set(found.flatMap(({ methods }) => methods))] : null
}
