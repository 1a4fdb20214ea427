import { askable, beliefOf, type Asked, type HomeFact } from './belief'
import { carries, payers, type Carry, type Cause, type Payer } from './causes'
import type { OfThisHome } from './facts'
import type { Answered, Numbers, Said } from './numbers'
import { questions } from './questions'

/** A call ends after so many questions, and so many minutes of them. */
export const [mostQuestions, mostMinutes] = [7, 5]
/** Steps are given on the telephone where they mend it so likely; at the end of the questions where it is worth the try. Choices of ours, no source. */
const [likelyMended, worthATry] = [0.5, 0.2]
/** A visit is certain where nothing on the telephone mends it with more than this chance. */
const noHope = 0.04
/** Another question tells too little, bits. */
const tooLittle = 0.04
/** Nobody is kept trying things for longer. */
const mostTries = 2

type Here = Pick<OfThisHome, 'notHere' | 'atWork'>

export interface Suspect {
  cause: Cause
  share: number
  /** What of this home speaks for it or against it. */
  facts: { words: string; weighs: number }[]
}
export type NextStep =
  | { kind: 'ask'; asked: Asked }
  /** Give the steps of this cause; what they do says more of the cause, too. */
  | { kind: 'try'; cause: Cause; mends: number }
  /** Its steps helped: called back in two days. */
  | { kind: 'mended'; cause: Cause }
  | { kind: 'visit'; why: 'nothingByPhone' | 'enoughAsked' | 'nothingTells' | 'atWork' }

export interface Triage {
  /** Likeliest first. */
  suspects: Suspect[]
  next: NextStep
  asked: number
  minutes: number
  visit: VisitNeeds
}
/** What a visit would be about, and take. */
export interface VisitNeeds {
  carry: Carry[]
  /** On site. */
  minutes: number
  /** A licensed person, since something is likely to be opened. */
  licence: boolean
  /** Who pays, as far as it is known: proposed, and decided by people. */
  payers: { payer: Payer; share: number }[]
}
/** Where one of these is likelier than this, its parts come along; a box that is opened as likely wants a licence. Choices of ours, no source. */
const [partsAlong, licenceFrom] = [0.12, 0.15]
/** Looking, before the cause is known. Common practice, no source. */
const lookMinutes = 15

function needsOf(suspects: readonly Suspect[]): VisitNeeds {
  const shareOf = (fits: (cause: Cause) => boolean) => suspects.reduce((sum, { cause, share }) => sum + (fits(cause) ? share : 0), 0)
  return {
    carry: carries.filter((what) => shareOf(({ carry }) => carry.includes(what)) > partsAlong),
    minutes: Math.round(lookMinutes + suspects.reduce((sum, { cause, share }) => sum + share * cause.minutes, 0)),
    licence: shareOf(({ opens }) => opens) > licenceFrom,
    payers: payers.map((payer) => ({ payer, share: shareOf((cause) => cause.payer === payer) })).sort((a, b) => b.share - a.share),
  }
}

/** A breaker that tripped has a cause: nobody is told to switch it on again. */
const hasTripped = ({ symptoms, answers }: Said): boolean =>
  symptoms.includes('trips') || answers.some(({ question, answer, again }) => question === 'lever' && (answer === 2 || again === 2))

function nextOf(
  numbers: Numbers,
  belief: readonly number[],
  said: Said,
  asked: number,
  minutes: number,
  { notHere, atWork }: Here,
): NextStep {
  const mended = said.tried.find((one) => one.mended)
  const known = mended && numbers.causes.find(({ id }) => id === mended.cause)
  if (known) return { kind: 'mended', cause: known }
  const tried = new Set(said.tried.map(({ cause }) => cause))
  const never = hasTripped(said) ? 'breakerOff' : null
  const chances = belief.map((share, at) => {
    const { id } = numbers.causes[at]!
    return tried.has(id) || id === never ? 0 : share * numbers.byPhone[at]!
  })
  const hope = chances.reduce((sum, one) => sum + one, 0)
  const best = chances.indexOf(Math.max(...chances))
  const tryBest = { kind: 'try', cause: numbers.causes[best]!, mends: chances[best]! } as const
  const mayTry = tried.size < mostTries && !atWork
  if (mayTry && chances[best]! >= likelyMended) return tryBest
  if (hope < noHope || tried.size >= mostTries) return { kind: 'visit', why: 'nothingByPhone' }
  const [first] = askable(numbers, belief, said, notHere)
  const over = asked >= mostQuestions || minutes >= mostMinutes
  if (!over && first && first.tells >= tooLittle) return { kind: 'ask', asked: first }
  if (atWork) return { kind: 'visit', why: 'atWork' }
  return chances[best]! >= worthATry ? tryBest : { kind: 'visit', why: over ? 'enoughAsked' : 'nothingTells' }
}

/**
 * Where a call stands: causes by what was said and by what is known of this home, and what comes next.
 * @param here questions that make no sense in this home, and whether somebody works there: nothing is tried then
 */
export function triage(
  numbers: Numbers,
  facts: readonly HomeFact[],
  said: Said,
  here: Here = { notHere: new Set(), atWork: null },
): Triage {
  const belief = beliefOf(numbers, facts, said)
  const suspects = belief
    .map((share, at): Suspect => {
      const cause = numbers.causes[at]!
      return { cause, share, facts: facts.flatMap(({ words, weighs }) => (weighs[cause.id] ? [{ words, weighs: weighs[cause.id]! }] : [])) }
    })
    .sort((a, b) => b.share - a.share)
  const times = ({ again }: Answered) => (again === undefined ? 1 : 2)
  const asked = said.answers.reduce((sum, one) => sum + times(one), 0)
  const minutes = said.answers.reduce((sum, one) => sum + times(one) * (questions.find(({ id }) => id === one.question)?.minutes ?? 0), 0)
  return { suspects, next: nextOf(numbers, belief, said, asked, minutes, here), asked, minutes, visit: needsOf(suspects) }
}
