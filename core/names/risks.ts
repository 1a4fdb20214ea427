import { habits, heardAs, heardAsOne, movedBy, type Habit, type Heard, type Named } from './habits'
import { misheardBy, type Pronounce } from './sounds'
import { holdsAll, wordsOf } from './spoken'

/** Words that listeners take for a command wherever a name begins with them; and such that are one only by themselves. Common practice, no source. */
const commands = new Set(['all', 'everything', 'everywhere', 'off', 'on', 'stop', 'cancel', 'help'].flatMap(wordsOf))
const commandsAlone = new Set(['timer', 'alarm', 'volume', 'music', 'scene', 'mode'].map(joinedWords))
/** Names that say neither where nor what. */
const bare = new Set(['light', 'lamp', 'switch', 'wall switch', 'dimmer', 'fan', 'socket', 'plug', 'device', 'outlet'].map(joinedWords))
function joinedWords(name: string) {
  return wordsOf(name).join(' ')
}

export type NameIssue = 'nothing' | 'script' | 'reserved' | 'bare' | 'number'
/** What is wrong with a name by itself. */
export function issueOf(name: string): NameIssue | null {
  const words = wordsOf(name)
  if (!words.length) return 'nothing'
  if (/[^\p{Script=Latin}\p{N}\p{M}\p{Script=Common}]/u.test(name)) return 'script'
  if (commands.has(words[0]!) || commandsAlone.has(words.join(' '))) return 'reserved'
  if (words.every((word) => /^\d+$/.test(word))) return 'number'
  return bare.has(words.filter((word) => !/^\d+$/.test(word)).join(' ')) ? 'bare' : null
}
export const issueWords: Record<NameIssue, string> = {
  nothing: 'has no word that can be spoken',
  script: 'is in letters that a voice set to English cannot say',
  reserved: 'begins with a word that listeners keep for themselves',
  bare: 'says neither where it is nor what it moves',
  number: 'is only a number',
}

export type Nearness = 'same' | 'contained' | 'order' | 'room' | 'sound'
export interface Finding {
  /** What is said. */
  phrase: string
  /** Whose name that is; null: a room is meant. */
  id: string | null
  /** What moves without being meant, and why. */
  wrong: { id: string; name: string; room: string; near: Nearness }[]
  habits: Habit[]
}

function nearness(phrase: Heard, other: Heard): Nearness {
  if (phrase.joined === other.joined) return 'same'
  if (phrase.words.length === other.words.length && holdsAll(other.words, phrase.words)) return 'order'
  if (holdsAll(other.words, phrase.words)) return 'contained'
  return other.roomWords.join('') === phrase.joined ? 'room' : 'sound'
}

/** Would one phrase ever move both, or the wrong one? */
export function areConfused(one: Heard, other: Heard): boolean {
  return (
    one.joined === other.joined ||
    holdsAll(one.words, other.words) ||
    holdsAll(other.words, one.words) ||
    (other.roomWords.length > 0 && other.roomWords.join('') === one.joined) ||
    (one.roomWords.length > 0 && one.roomWords.join('') === other.joined) ||
    misheardBy(one.sounds, other.sounds, heardAsOne) <= heardAsOne
  )
}

/**
 * What goes wrong when people say the names of a home and its rooms, the likeliest first.
 * @param named everything with a name
 * @param pronounce a pronouncing dictionary
 */
export function findingsOf(named: readonly Named[], pronounce: Pronounce): Finding[] {
  const targets = named.map((one) => heardAs(one, pronounce)).filter(({ words }) => words.length > 0)
  const rooms = [...new Map(targets.filter(({ room }) => room.trim()).map(({ room, roomWords }) => [roomWords.join(' '), room])).values()]
  const phrases = [
    ...targets.map((target) => ({ said: target, meant: [target] })),
    ...rooms.flatMap((room) => {
      const said = heardAs({ id: '', name: room, room }, pronounce)
      // A device that is called like its room is found by its own name.
      if (targets.some(({ joined }) => joined === said.joined)) return []
      return [{ said, meant: targets.filter(({ roomWords }) => roomWords.join('') === said.joined) }]
    }),
  ]
  return phrases
    .flatMap(({ said, meant }): Finding[] => {
      const wrong = new Set<Heard>()
      const by = habits.filter((habit) => {
        const moved = movedBy(said, targets, habit).filter((one) => !meant.includes(one))
        moved.forEach((one) => wrong.add(one))
        return moved.length > 0
      })
      if (!by.length) return []
      return [
        {
          phrase: said.name,
          id: said.id || null,
          wrong: [...wrong].map((one) => ({ id: one.id, name: one.name, room: one.room, near: nearness(said, one) })),
          habits: by,
        },
      ]
    })
    .sort((a, b) => b.habits.length - a.habits.length || b.wrong.length - a.wrong.length || a.phrase.localeCompare(b.phrase, 'en'))
}
