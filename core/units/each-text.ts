/**
 * The same with every text turned, in lists and plain objects however deep. What is anything else stays as it is.
 * @param turn gets a text and the key it stands under, if it stands under one
 */
export function eachText<T>(said: T, turn: (text: string, key?: string) => string, key?: string): T {
  if (typeof said === 'string') return turn(said, key) as T
  if (Array.isArray(said)) return said.map((one: unknown) => eachText(one, turn)) as T
  if (typeof said !== 'object' || said === null || Object.getPrototypeOf(said) !== Object.prototype) return said
  return Object.fromEntries(Object.entries(said).map(([under, one]) => [under, eachText(one as unknown, turn, under)])) as T
}
