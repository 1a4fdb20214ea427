import { wholeChain } from '../identify/roles'

type Letter = string
/** One thing a plan wants done at another location, or at a fixture. Letters are those of the plan's own box. */
export interface OtherLocationStep {
  /** Which other location; null: a fixture. */
  far: number | null
  work:
    | {
        /**
         * `spliceChain`: the 4-way in between goes, its conductors are spliced through. `spliceStraps`: a strap leads to the
         * commons, so line with line and switched line with switched line. `licensedOnly`: line and neutral met at one switch.
         */
        does: 'spliceChain' | 'spliceStraps' | 'licensedOnly' | 'noSwitch'
      }
    | { does: 'spliceCommon'; through: Letter }
    /** A plain switch stays, fed from `line`, or from the common (with `through`), and heard over `sense`. */
    | { does: 'plainSwitch'; line: Letter | null; through: Letter | null; common: Letter | null; sense: Letter | null }
    | { does: 'companion'; sense: Letter | null; neutral: Letter | null }
    | { does: 'partner'; sense: Letter | null }
    | { does: 'cap'; letters: Letter[] }
    | { does: 'fixtureRelay'; letter: Letter }
}

/** A step without its place. `name` says which conductor is meant: at the other end nobody knows its letter. */
export function otherLocationWord({ work }: OtherLocationStep, name: (letter: string) => string): string {
  const all = (letters: string[]) => letters.map(name).join(', ')
  switch (work.does) {
    case 'spliceChain':
      return 'Take the {4-way} out and splice its conductors through, colour to colour.'
    case 'spliceStraps':
      return 'Take the conductors off; splice line with line, and switched line with switched line.'
    case 'licensedOnly':
      return 'Line and neutral met at one switch. Rewiring it is for the licensed lead; prove at the lamp holder that its shell is on the neutral.'
    case 'spliceCommon':
      return `Take the common off and splice it with ${name(work.through)}.`
    case 'plainSwitch': {
      const from = work.line
        ? `the line (${name(work.line)})`
        : work.through
          ? `the common and ${name(work.through)}`
          : work.common
            ? name(work.common)
            : 'the common'
      return `The switch stays as a plain one: ${from} on one screw, ${work.sense ? name(work.sense) : 'the signal conductor'} on the other.`
    }
    case 'companion':
      return `The companion takes ${work.sense ? name(work.sense) : 'no conductor yet'} and ${work.neutral ? `the neutral ${name(work.neutral)}` : 'a neutral, which is not there'}.`
    case 'noSwitch':
      return 'No switch in the wiring; a companion without wires may cover it.'
    case 'partner':
      return `The device that carries the load takes the signal on ${work.sense ? name(work.sense) : 'no conductor yet'}.`
    case 'cap':
      return `Cap ${all(work.letters)} at both ends.`
    case 'fixtureRelay':
      return `Relay between ${name(work.letter)} and the lamp, with its neutral; pair it with the sender. {Breaker} open and proven dead there too.`
  }
}
/** Where a step is done, seen from the plan's own box. `several`: there is more than one other location. */
export function otherLocationPlace({ far, work }: OtherLocationStep, several: boolean): string {
  if (work.does === 'fixtureRelay') return `Fixture on ${work.letter}`
  if (work.does === 'spliceChain') return '{4-Way} in between'
  if (far === wholeChain) return 'Last location of the chain'
  return several ? `Other location ${far! + 1}` : 'Other location'
}

/** A sentence behind a place and a colon. */
/** Without its capital, also where a word of the trade comes first. */
export const lowerFirst = (text: string): string =>
  text.replace(/^(\{?)(.)/, (_, brace: string, first: string) => brace + first.toLowerCase())
