import { heardAs, type Heard, type Named } from './habits'
import { areConfused, issueOf } from './risks'
import { misheardBy, type Pronounce } from './sounds'
import { holdsAll, wordsOf } from './spoken'

/** Something with a name, and what is known of it that a better name could be made of. */
export interface Place extends Named {
  /** What it moves: "light", "fan". */
  thing: string
  /** Where its control is: the name of the box. */
  at: string
  /** What it moves by the survey: "window light". */
  point: string
  /** Not to be renamed here: another job’s. */
  fixed?: true
}
export interface Renaming {
  renames: { id: string; from: string; to: string }[]
  /** Pairs and single names for which nothing better was found. */
  left: { ids: string[] }[]
}

const ordinals = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth']
const longestName = 40
/** No more looked at than takes a moment. */
const mostTried = 300

/** Without words that stand there already: "net loft" and "net loft light" make "net loft light". */
function together(...parts: string[]): string {
  const said: string[] = []
  for (const word of parts.join(' ').toLowerCase().split(/\s+/)) if (word && !said.includes(word)) said.push(word)
  return said.join(' ')
}
/** Names it could have, today’s first. */
export function namesFor({ name, room, thing, at, point, fixed }: Place): string[] {
  if (fixed) return [name]
  const made = [
    together(room, point),
    together(room, thing),
    together(room, at, thing),
    together(point),
    together(at, thing),
    ...ordinals.map((ordinal) => together(room, ordinal, thing)),
  ]
  const today = wordsOf(name).join('')
  const others = made.filter((one) => one.length <= longestName && wordsOf(one).length > 1 && wordsOf(one).join('') !== today)
  // As the names of this home are written.
  const capital = /^\p{Lu}/u.test(name || room)
  return [name, ...new Set(others.map((one) => (capital ? `${one[0]!.toUpperCase()}${one.slice(1)}` : one)))]
}

/** Does a name hold that of a room it is not in? Whoever says the room would move it. */
export const strays = (name: Heard, rooms: readonly (readonly string[])[]): boolean =>
  rooms.some((room) => room.length > 0 && holdsAll(name.words, room) && !holdsAll(name.roomWords, room))

/** Names further apart than this are none the better for it. */
const wellApart = 2

/**
 * Better names for a home: no phrase moves two things, today’s names stay wherever they can, and those that are changed are as far
 * from all others as what is known of the home allows.
 */
export function renameHome(places: readonly Place[], pronounce: Pronounce): Renaming {
  const rooms = [...new Set(places.map(({ room }) => room))].map(wordsOf)
  const names = places.flatMap((place, of) =>
    namesFor(place).map((name) => {
      const heard = heardAs({ ...place, name }, pronounce)
      return { ...heard, of, issue: issueOf(name) !== null || strays(heard, rooms) }
    }),
  )
  const options: number[][] = places.map(() => [])
  names.forEach(({ of }, index) => options[of]!.push(index))
  const today = options.map(([first]) => first!)
  const looked = new Int8Array(names.length ** 2)
  /** Whether two names go into one home, by their numbers: looked at once. */
  function confused(a: number, b: number): boolean {
    const at = a < b ? a * names.length + b : b * names.length + a
    if (!looked[at]) looked[at] = areConfused(names[a]!, names[b]!) ? 2 : 1
    return looked[at] === 2
  }
  /** What is wrong with a set of names: pairs, or one by itself. */
  const wrongIn = (chosen: readonly number[], enough = Infinity): number[][] => {
    const wrong: number[][] = []
    for (let i = 0; i < chosen.length; i++) {
      if (names[chosen[i]!]!.issue) wrong.push([i])
      for (let j = i + 1; j < chosen.length; j++) if (confused(chosen[i]!, chosen[j]!)) wrong.push([i, j])
      if (wrong.length >= enough) break
    }
    return wrong
  }
  const clashing = (name: number, others: readonly number[]) => others.reduce((sum, other) => sum + (confused(name, other) ? 1 : 0), 0)
  /** Names of one that go with what is settled, the best first: what harms least of the rest, is well apart, and says most. */
  const fitting = (chosen: readonly number[], index: number, settled: ReadonlySet<number>, harm: (name: number) => number) =>
    options[index]!.filter((name) => !names[name]!.issue && [...settled].every((at) => at === index || !confused(name, chosen[at]!)))
      .map((name) => ({ name, harm: harm(name) }))
      .sort((a, b) => a.harm - b.harm)
      .map(({ name, harm: done }, _, all) => {
        // How far apart is asked of those that harm least only: it takes the longest.
        const asked = done === all[0]!.harm ? [...settled] : []
        const apart = asked.map((one) => misheardBy(names[name]!.sounds, names[chosen[one]!]!.sounds, wellApart))
        return { name, harm: done, apart: Math.min(wellApart, ...apart) }
      })
      .sort((a, b) => a.harm - b.harm || b.apart - a.apart)
      .map(({ name }) => name)
  const changed = (chosen: readonly number[]) => chosen.filter((name, index) => name !== today[index]).length

  const wrongToday = wrongIn(today)
  /** As a careful person would: what clashes with nothing stays; then one after the other gets a name that goes with those. */
  function oneByOne(keeps: boolean): number[] {
    const trouble = new Set(wrongToday.flat())
    places.forEach(({ fixed }, index) => fixed && trouble.delete(index))
    const settled = new Set(places.map((_, index) => index).filter((index) => !trouble.has(index)))
    let chosen = today
    for (const index of trouble) {
      const own = today[index]!
      // Of the rest of the room as many names as can be have to stay open.
      const open = places.flatMap(({ room }, at) => (at !== index && !settled.has(at) && room === places[index]!.room ? options[at]! : []))
      const good = fitting(chosen, index, settled, (name) => clashing(name, open))
      const best = keeps && good.includes(own) ? own : (good.find((name) => name !== own) ?? good[0])
      if (best !== undefined) chosen = chosen.with(index, best)
      settled.add(index)
    }
    return chosen
  }
  let [best] = [oneByOne(true), oneByOne(false)]
    .map((chosen) => ({ chosen, wrong: wrongIn(chosen).length }))
    .sort((a, b) => a.wrong - b.wrong || changed(a.chosen) - changed(b.chosen))
    .map(({ chosen }) => chosen) as [number[]]

  // Then: could fewer changes do? Whoever is wrong must change, one of a pair at least.
  let tried = 0
  function search(chosen: number[], settled: ReadonlySet<number>, left: number): number[] | null {
    const [wrong] = wrongIn(chosen, 1)
    if (!wrong) return chosen
    if (left === 0 || ++tried > mostTried) return null
    for (const index of wrong.filter((one) => !settled.has(one)))
      for (const name of fitting(chosen, index, settled, (one) => clashing(one, chosen.toSpliced(index, 1)))) {
        const found = name === chosen[index] ? null : search(chosen.with(index, name), new Set([...settled, index]), left - 1)
        if (found) return found
      }
    return null
  }
  const most = wrongIn(best, 1).length ? places.length : changed(best) - 1
  for (let allowed = 1; allowed <= most && tried <= mostTried; allowed++) {
    const found = search(today, new Set(), allowed)
    if (!found) continue
    best = found
    break
  }
  return {
    renames: best.flatMap((name, index) =>
      name === today[index] ? [] : [{ id: places[index]!.id, from: places[index]!.name, to: names[name]!.name }],
    ),
    left: wrongIn(best).map((wrong) => ({ ids: wrong.map((index) => places[index]!.id) })),
  }
}
