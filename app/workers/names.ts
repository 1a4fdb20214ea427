import dictionaryUrl from 'cmu-pronouncing-dictionary/index.js?url'
import {
  findingsOf,
  habits,
  heardAs,
  issueOf,
  movedBy,
  pronounceBy,
  renameHome,
  type Finding,
  type Habit,
  type NameIssue,
  type Place,
  type Pronounce,
  type Renaming,
} from '../../core/names'
import { answers } from './answers'

/** The names of a home, looked at as a whole: with the dictionary, which is too large for the page. */
export interface NamesTalk {
  question: { places: Place[]; phrase: string }
  answer: {
    findings: Finding[]
    issues: { id: string; issue: NameIssue }[]
    renaming: Renaming
    /** What the phrase moves, by each way of listening. */
    tried: { habit: Habit; ids: string[] }[]
    /** The dictionary could not be had: sounds were taken from the letters. */
    spelt: boolean
  }
}

/**
 * Larger than all the rest of the program, and so a file by itself: it comes with the first question, and is kept then.
 */
const dictionary: Promise<Pronounce | null> = (import(/* @vite-ignore */ dictionaryUrl) as Promise<{ dictionary: Record<string, string> }>)
  .then(({ dictionary: entries }) => pronounceBy(entries))
  .catch(() => null)

answers<NamesTalk>(async ({ places, phrase }) => {
  const known = await dictionary
  const pronounce: Pronounce = known ?? (() => null)
  const named = places.filter(({ name }) => name)
  const said = phrase.trim() ? heardAs({ id: '', name: phrase, room: '' }, pronounce) : null
  const heard = said?.words.length ? named.map((one) => heardAs(one, pronounce)) : []
  return {
    spelt: !known,
    findings: findingsOf(named, pronounce),
    issues: named.flatMap(({ id, name }) => {
      const issue = issueOf(name)
      return issue ? [{ id, issue }] : []
    }),
    renaming: renameHome(places, pronounce),
    tried: heard.length ? habits.map((habit) => ({ habit, ids: movedBy(said!, heard, habit).map(({ id }) => id) })) : [],
  }
})
