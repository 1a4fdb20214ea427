import type { BoxState, Conductor } from '../site'
import { isEarthMarked } from '../units'
import type { FoundNotes } from './state'

/** What is usual for such cables: which conductors are spliced, and which hang on the old switches. */
export interface FoundGuess {
  splices: string[][]
  oldSwitches: FoundNotes['oldSwitches']
  /** Every conductor has its place. */
  whole: boolean
}

const neutralColours = new Set(['white', 'grey', 'blue'])

/**
 * Guesses how a box was connected from the shapes of its cables; whoever stands there looks and says so, or says otherwise.
 * Only the plain patterns are guessed: a single-pole switch between two cables or at a loop, and two gangs of two cables each;
 * of a 3-way the splices, and never what is on its terminals. Common practice, no source.
 * @param farSwitches other places that switch the same light
 */
export function guessFound(box: Pick<BoxState, 'conductors' | 'gangs' | 'breakerIds'>, farSwitches: number): FoundGuess {
  const cables = [...new Set(box.conductors.map(({ cable }) => cable))].map((cable) => box.conductors.filter((one) => one.cable === cable))
  const earths = box.conductors.filter(({ colour }) => isEarthMarked(colour)).map(({ letter }) => letter)
  const inner = cables.map((cores) => cores.filter(({ colour }) => !isEarthMarked(colour)))
  const splices = earths.length > 1 ? [earths] : []
  const gangs = guessGangs(inner, box, farSwitches)
  const all = [...splices, ...(gangs?.splices ?? [])]
  const oldSwitches = gangs?.oldSwitches ?? []
  const placed = new Set([...all.flat(), ...oldSwitches.flatMap(({ terminals }) => Object.values(terminals).flat())])
  // One earth alone hangs on the box or the switch: nothing to say of it.
  const whole = gangs !== null && box.conductors.every(({ letter }) => placed.has(letter) || (earths.length === 1 && letter === earths[0]))
  return { splices: all, oldSwitches, whole }
}

type Guess = Pick<FoundGuess, 'splices' | 'oldSwitches'>
function guessGangs(inner: Conductor[][], box: Pick<BoxState, 'gangs' | 'breakerIds'>, farSwitches: number): Guess | null {
  if (box.gangs === 1) return farSwitches === 0 ? single(inner) : farSwitches === 1 ? threeWay(inner) : null
  // Two gangs of a feed and a light each, written down one gang after the other.
  if (box.gangs === 2 && farSwitches === 0 && box.breakerIds.length === 2 && inner.length === 4) {
    const halves = [single(inner.slice(0, 2)), single(inner.slice(2))]
    if (halves[0] && halves[1])
      return {
        splices: [...halves[0].splices, ...halves[1].splices],
        oldSwitches: [...halves[0].oldSwitches, ...halves[1].oldSwitches],
      }
  }
  return null
}

const isNeutralColour = ({ colour }: Conductor) => neutralColours.has(colour)
const letters = (conductors: Conductor[]) => conductors.map(({ letter }) => letter)

/** A loop of two conductors on the switch; or two cables, their neutrals spliced and the others on the switch. */
function single(inner: Conductor[][]): Guess | null {
  const on = (a: Conductor, b: Conductor): FoundNotes['oldSwitches'] => [
    { contacts: 'single', terminals: { a: [a.letter], b: [b.letter] } },
  ]
  const [first, second] = inner
  if (inner.length === 1 && first?.length === 2) return { splices: [], oldSwitches: on(first[0]!, first[1]!) }
  if (inner.length !== 2 || first?.length !== 2 || second?.length !== 2) return null
  const neutrals = inner.flat().filter(isNeutralColour)
  const others = inner.flat().filter((one) => !isNeutralColour(one))
  return neutrals.length === 2 && others.length === 2 ? { splices: [letters(neutrals)], oldSwitches: on(others[0]!, others[1]!) } : null
}

/**
 * The three-core cable to the other switch, and a cable of two: their neutrals. Which conductor is on the common is looked at:
 * guessed wrong, a traveler would be called line.
 */
function threeWay(inner: Conductor[][]): Guess | null {
  const three = inner.find((cores) => cores.length === 3)
  const white = inner.find((cores) => cores.length === 2)?.find(isNeutralColour)
  const whites = three?.filter(({ colour }) => colour === 'white') ?? []
  // Without a neutral of its own in the three-core cable nobody knows where that of the other one goes.
  if (inner.length !== 2 || !white || whites.length !== 1) return null
  return { splices: [[white.letter, whites[0]!.letter]], oldSwitches: [] }
}
