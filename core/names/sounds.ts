import { saidNumber } from './spoken'

/**
 * How a word is said.
 * @returns its sounds in the letters of the CMU Pronouncing Dictionary without stress ("L AY T"), or null for a word it has not
 */
export type Pronounce = (word: string) => readonly string[] | null
/** By the entries of a pronouncing dictionary. Their stress is left out: it is no help across a room. */
export const pronounceBy =
  (entries: Readonly<Record<string, string>>): Pronounce =>
  (word) =>
    Object.hasOwn(entries, word) ? entries[word]!.replace(/\d/g, '').split(' ') : null

/** Place (front of the mouth to its back), manner (closed to open), voice. */
const consonants: Record<string, [place: number, manner: number, voice: number]> = {
  ...{ P: [0, 0, 0], B: [0, 0, 1], M: [0, 3, 1], F: [1, 2, 0], V: [1, 2, 1], W: [0, 5, 1] },
  ...{ TH: [2, 2, 0], DH: [2, 2, 1], T: [3, 0, 0], D: [3, 0, 1], N: [3, 3, 1], S: [3, 2, 0], Z: [3, 2, 1], L: [3, 4, 1] },
  ...{ SH: [4, 2, 0], ZH: [4, 2, 1], CH: [4, 1, 0], JH: [4, 1, 1], R: [4, 4, 1], Y: [5, 5, 1] },
  ...{ K: [6, 0, 0], G: [6, 0, 1], NG: [6, 3, 1], HH: [7, 2, 0] },
}
/** Height and depth of the tongue where a vowel begins and where it ends, each from 0 to 1. */
const vowels: Record<string, [height: number, depth: number, endHeight: number, endDepth: number]> = {
  ...{ IY: [1, 0, 1, 0], IH: [0.8, 0.15, 0.8, 0.15], EY: [0.6, 0.05, 0.9, 0], EH: [0.5, 0.1, 0.5, 0.1], AE: [0.2, 0.1, 0.2, 0.1] },
  ...{ AA: [0, 0.8, 0, 0.8], AO: [0.3, 1, 0.3, 1], OW: [0.5, 1, 0.8, 1], UH: [0.8, 0.85, 0.8, 0.85], UW: [1, 1, 1, 1] },
  ...{ AH: [0.35, 0.55, 0.35, 0.55], ER: [0.5, 0.6, 0.5, 0.6], AY: [0.05, 0.5, 0.9, 0.1], AW: [0.05, 0.5, 0.9, 1], OY: [0.4, 1, 0.9, 0.1] },
}

/** How unlike two sounds are: 0 the same, 1 and more nothing alike. The scale is ours: set by the judged pairs, no source. */
export function unlike(one: string, other: string): number {
  if (one === other) return 0
  const [a, b] = [consonants[one], consonants[other]]
  if (a && b) {
    const gaps = [Math.min(1, Math.abs(a[0] - b[0]) / 3), Math.min(1, Math.abs(a[1] - b[1]) / 3), Math.abs(a[2] - b[2])] as const
    return Math.min(1, 0.1 + 0.55 * gaps[0] + 0.6 * gaps[1] + 0.2 * gaps[2])
  }
  const [v, w] = [vowels[one], vowels[other]]
  if (!v || !w) return 1.2
  return Math.min(1, 0.15 + 0.5 * (Math.hypot(v[0] - w[0], v[1] - w[1]) + Math.hypot(v[2] - w[2], v[3] - w[3])))
}
/** Swallowed easily: what is left out of a word, or heard into it. */
const swallowed = (sound: string) => (sound in vowels ? 0.8 : ['HH', 'Y', 'W', 'R', 'T', 'D', 'P'].includes(sound) ? 0.5 : 0.7)
/** Both worked out once: names of a home are compared many thousand times. */
const known = [...Object.keys(consonants), ...Object.keys(vowels)]
const apartTable = new Map(known.map((one) => [one, new Map(known.map((other) => [other, unlike(one, other)]))]))
const swallowTable = new Map(known.map((sound) => [sound, swallowed(sound)]))

/**
 * How much has to be misheard to take one run of sounds for another: weighted edit distance.
 * @param most what is more than this is not worked out to the end
 */
export function misheardBy(one: readonly string[], other: readonly string[], most = Infinity): number {
  const lost = other.map((sound) => swallowTable.get(sound) ?? 0.7)
  let row = [0]
  for (const cost of lost) row.push(row.at(-1)! + cost)
  for (const sound of one) {
    const own = swallowTable.get(sound) ?? 0.7
    const unlikes = apartTable.get(sound)
    const next = [row[0]! + own]
    let least = next[0]!
    for (let at = 0; at < other.length; at++) {
      const changed = unlikes?.get(other[at]!) ?? (sound === other[at] ? 0 : 1.2)
      const cost = Math.min(row[at]! + changed, row[at + 1]! + own, next[at]! + lost[at]!)
      next.push(cost)
      if (cost < least) least = cost
    }
    if (least > most) return least
    row = next
  }
  return row.at(-1)!
}

/** What letters mostly stand for, for words that no dictionary has: the longest first. Rough, from memory. */
const spelling: [letters: string, sounds: string][] = [
  ['tion', 'SH AH N'],
  ['ough', 'OW'],
  ['igh', 'AY'],
  ['tch', 'CH'],
  ['ch', 'CH'],
  ['sh', 'SH'],
  ['th', 'TH'],
  ['ph', 'F'],
  ['wh', 'W'],
  ['ck', 'K'],
  ['ng', 'NG'],
  ['qu', 'K W'],
  ['ee', 'IY'],
  ['ea', 'IY'],
  ['ie', 'IY'],
  ['oo', 'UW'],
  ['ou', 'AW'],
  ['ow', 'OW'],
  ['oa', 'OW'],
  ['ai', 'EY'],
  ['ay', 'EY'],
  ['au', 'AO'],
  ['aw', 'AO'],
  ['oi', 'OY'],
  ['oy', 'OY'],
  ['er', 'ER'],
  ['ir', 'ER'],
  ['ur', 'ER'],
  ['ar', 'AA R'],
  ['or', 'AO R'],
  ['a', 'AE'],
  ['e', 'EH'],
  ['i', 'IH'],
  ['o', 'AA'],
  ['u', 'AH'],
  ['y', 'IY'],
  ['c', 'K'],
  ['g', 'G'],
  ['h', 'HH'],
  ['j', 'JH'],
  ['q', 'K'],
  ['x', 'K S'],
  ...[...'bdfklmnprstvwz'].map((letter): [string, string] => [letter, letter.toUpperCase()]),
]
function spelt(word: string): string[] {
  const plain = word.normalize('NFD').replace(/\p{M}/gu, '')
  const sounds: string[] = []
  for (let at = 0; at < plain.length;) {
    // A silent e at the end, and a letter that is doubled, are not said.
    if ((plain[at] === 'e' && at === plain.length - 1 && at > 1) || (plain[at] === plain[at - 1] && !'eo'.includes(plain[at]!))) {
      at++
      continue
    }
    const found = spelling.find(([letters]) => plain.startsWith(letters, at))
    if (found) sounds.push(...found[1].split(' '))
    at += found?.[0].length ?? 1
  }
  return sounds
}

/** Sounds of one word: by the dictionary, as two words of it ("boathouse"), by its number, or by its letters. */
export function soundsOfWord(word: string, pronounce: Pronounce): readonly string[] {
  if (/^\d+$/.test(word)) return saidNumber(word).flatMap((said) => pronounce(said) ?? spelt(said))
  const known = pronounce(word)
  if (known) return known
  for (let cut = word.length - 3; cut >= 3; cut--) {
    const [first, second] = [pronounce(word.slice(0, cut)), pronounce(word.slice(cut))]
    if (first && second) return [...first, ...second]
  }
  return spelt(word)
}
/** Sounds of a name. "perch" is "porch" with another vowel: its one sound is a vowel and what follows it. */
export const soundsOf = (words: readonly string[], pronounce: Pronounce): string[] =>
  words.flatMap((word) => soundsOfWord(word, pronounce).flatMap((sound) => (sound === 'ER' ? ['AH', 'R'] : [sound])))
