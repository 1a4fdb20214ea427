/** A name as a key of a file: lower-case letters, digits and dashes. */
export const keyFor = (name: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 36) || 'x'

/** Keys for things by their names, no two alike, by id. */
export function keysFor(things: { id: string; name: string }[]): Map<string, string> {
  const taken = new Set<string>()
  /** From where on a twin of a name may be free. */
  const twins = new Map<string, number>()
  return new Map(
    things.map(({ id, name }) => {
      const plain = keyFor(name)
      let key = plain
      for (let twin = twins.get(plain) ?? 2; taken.has(key); twin++) {
        key = `${plain}-${twin}`
        twins.set(plain, twin + 1)
      }
      taken.add(key)
      return [id, key]
    }),
  )
}
