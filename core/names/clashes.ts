import { holdsAll, wordsOf } from './spoken'

export interface NameClash {
  kind: 'same' | 'contained' | 'unspeakable'
  other: string | null
  sentence: string
}

/**
 * Names in one home of which one phrase would move both, whoever listens: the same words, or one contained in the other
 * ("landing" / "landing 2"). What sounds alike is looked at for the home as a whole: `findingsOf`.
 */
export function nameClashes(name: string, others: string[]): NameClash[] {
  const mine = wordsOf(name)
  if (mine.length === 0) return [{ kind: 'unspeakable', other: null, sentence: 'This name has no word that can be spoken.' }]
  const clashes: NameClash[] = []
  for (const other of others) {
    const theirs = wordsOf(other)
    if (theirs.length === 0) continue
    const said = name.trim()
    if (theirs.join(' ') === mine.join(' '))
      clashes.push({
        ...{ kind: 'same', other },
        sentence:
          other.toLowerCase() === said.toLowerCase()
            ? `“${other}” is already used in this home.`
            : `“${said}” and “${other}” are heard as one name.`,
      })
    else if (theirs.join('') === mine.join('') || (theirs.length === mine.length && holdsAll(theirs, mine)))
      clashes.push({ kind: 'contained', other, sentence: `“${said}” and “${other}” are the same words: one phrase would switch both.` })
    else if (holdsAll(theirs, mine) || holdsAll(mine, theirs))
      clashes.push({ kind: 'contained', other, sentence: `“${said}” and “${other}” contain each other: one phrase would switch both.` })
  }
  return clashes
}
