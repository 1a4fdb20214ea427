import { misheardBy, soundsOf, type Pronounce } from './sounds'
import { holdsAll, wordsOf } from './spoken'

/** Something in a home that a phrase can move. */
export interface Named {
  id: string
  name: string
  room: string
}
/** One as it is compared: worked out once. */
export interface Heard extends Named {
  words: string[]
  /** Its words without the gaps: "sun room" is "sunroom". */
  joined: string
  sounds: string[]
  roomWords: string[]
}
export const heardAs = (named: Named, pronounce: Pronounce): Heard => {
  const words = wordsOf(named.name)
  return { ...named, words, joined: words.join(''), sounds: soundsOf(words, pronounce), roomWords: wordsOf(named.room) }
}

/** So much may be misheard before two names are two: in sounds, see `unlike`. */
export const heardAsOne = 0.9

/**
 * Ways in which listeners match what was said with what there is. Which one a home has nobody can rely on: they differ, and change
 * over night. Common practice, no source.
 */
export const habits = ['exactly', 'the same, else what holds it', 'whatever holds it', 'a room first', 'the nearest sound'] as const
export type Habit = (typeof habits)[number]

/** What a phrase moves, for a listener of one habit. */
export function movedBy(phrase: Heard, targets: readonly Heard[], habit: Habit): Heard[] {
  const same = targets.filter(({ joined }) => joined === phrase.joined)
  const holding = () => targets.filter(({ words, joined }) => joined === phrase.joined || holdsAll(words, phrase.words))
  switch (habit) {
    case 'exactly':
      return same
    case 'the same, else what holds it':
      return same.length ? same : holding()
    case 'whatever holds it':
      return holding()
    case 'a room first': {
      const inRoom = targets.filter(({ roomWords }) => roomWords.length > 0 && roomWords.join('') === phrase.joined)
      return inRoom.length ? inRoom : same.length ? same : holding()
    }
    case 'the nearest sound':
      return targets.filter(
        (target) => target.joined === phrase.joined || misheardBy(phrase.sounds, target.sounds, heardAsOne) <= heardAsOne,
      )
  }
}
