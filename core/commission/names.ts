export interface NameClash {
  kind: 'same' | 'contained' | 'unspeakable'
  other: string | null
  sentence: string
}

/** Spoken alike: "landing 2" and "landing two". */
const numberWords = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve']
const asSpoken = (word: string) => {
  const at = numberWords.indexOf(word)
  return at >= 0 ? String(at) : word.replace(/^0+(?=\d)/, '')
}

const words = (name: string) =>
  name
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}\s]/gu, ' ')
    .split(/\s+/)
    .filter(Boolean)
    .map(asSpoken)

function contains(outer: string[], inner: string[]): boolean {
  return outer.some((_, start) => inner.every((word, offset) => outer[start + offset] === word))
}

/**
 * Names in one home that a voice assistant cannot tell apart: the same, or one contained in the other
 * ("landing" / "landing 2" makes one phrase switch two devices).
 */
export function nameClashes(name: string, others: string[]): NameClash[] {
  const mine = words(name)
  if (mine.length === 0) return [{ kind: 'unspeakable', other: null, sentence: 'This name has no word that can be spoken.' }]
  const clashes: NameClash[] = []
  for (const other of others) {
    const theirs = words(other)
    if (theirs.length === 0) continue
    if (theirs.join(' ') === mine.join(' ')) clashes.push({ kind: 'same', other, sentence: `“${other}” is already used in this home.` })
    else if (contains(theirs, mine) || contains(mine, theirs))
      clashes.push({
        kind: 'contained',
        other,
        sentence: `“${name.trim()}” and “${other}” contain each other: one phrase would switch both.`,
      })
  }
  return clashes
}
