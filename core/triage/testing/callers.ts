import type { Chance } from '../../chance'
import { causes, symptoms, type Symptom } from '../causes'
import { normal, symptomShares, variesIn, withMistakes, wrongShare, type Lesson, type Numbers, type Said } from '../numbers'
import { questions } from '../questions'
import { triage, type Triage } from '../triage'

/** How callbacks really come about in a made-up company: its own shares of causes, and what its customers say under each. */
export interface Truth {
  /** As the triage would have to know it to do as well as can be done. */
  numbers: Numbers
  /** The answers as meant, before a mistake is made. */
  meant: Record<string, number[][]>
  /** So many answers are wrong, and so many are *doesn’t know*. */
  wrong: number
  unknown: number
}

/** Made another: each weight by a factor of its own, and none is nothing. */
const other = (chance: Chance, shares: readonly number[], by: number) =>
  normal(shares.map((share) => Math.max(0.004, share) * Math.exp(by * chance.normal())))

/** @param by how far its numbers are from the trade’s: the standard deviation of the logarithm of each */
export function truthOf(chance: Chance, by = 0.5, wrong = wrongShare): Truth {
  const meant = Object.fromEntries(
    questions.map(({ id, usual, says }) => {
      // What is usual is usual: one distribution for all causes that say nothing special.
      const ordinary = other(chance, usual, by / 2)
      return [id, causes.map((cause) => (says[cause.id] ? other(chance, says[cause.id]!, by) : ordinary))]
    }),
  )
  const answer = Object.fromEntries(Object.entries(meant).map(([id, rows]) => [id, rows.map((row) => withMistakes(row, wrong))]))
  return {
    meant,
    wrong,
    unknown: 0.08,
    numbers: {
      causes,
      share: other(
        chance,
        causes.map(({ usual }) => usual),
        by,
      ),
      symptom: causes.map((cause) => other(chance, symptomShares(cause), by / 2)),
      answer,
      varies: variesIn(answer),
      byPhone: causes.map(({ byPhone }) => (byPhone ? Math.min(0.98, byPhone * Math.exp(0.2 * chance.normal())) : 0)),
    },
  }
}
const drawn = (chance: Chance, shares: readonly number[]): number => {
  let left = chance.next()
  for (const [at, share] of shares.entries()) if ((left -= share) < 0) return at
  return shares.length - 1
}

/** Somebody on the telephone: what they will say, whatever they are asked, so that two ways of asking meet the same people. */
export interface Caller {
  at: number
  symptom: Symptom
  /** By question: the place of the answer; null: *doesn’t know*. */
  answers: Record<string, { first: number | null; again: number | null }>
  /** Whether the steps of their cause mend it. */
  mends: boolean
}
export function callerOf(chance: Chance, truth: Truth, at = drawn(chance, truth.numbers.share)): Caller {
  const symptom = symptoms[drawn(chance, truth.numbers.symptom[at]!)]!
  const mends = chance.is(truth.numbers.byPhone[at]!)
  const answers = Object.fromEntries(
    questions.map(({ id, answers: { length } }) => {
      const meant = drawn(chance, truth.meant[id]![at]!)
      const heard = () => {
        const [mistaken, other] = [chance.next(), chance.int(length - 1)]
        return mistaken < truth.wrong ? (meant + 1 + other) % length : meant
      }
      const [first, again, unknown] = [heard(), heard(), chance.is(truth.unknown)]
      return [id, { first: unknown ? null : first, again }]
    }),
  )
  return { at, symptom, answers, mends }
}

export interface Call {
  cause: string
  said: Said
  /** When the questions had ended, and before anything was tried. */
  told: Triage
  end: Triage
}
/** One call: somebody with a cause, asked by these numbers. */
export function callOf(caller: Caller, numbers: Numbers): Call {
  const cause = causes[caller.at]!.id
  let said: Said = { symptoms: [caller.symptom], answers: [], tried: [] }
  let told: Triage | null = null
  for (;;) {
    const now = triage(numbers, [], said)
    const { next } = now
    if (next.kind === 'ask') {
      const { id } = next.asked.question
      const { first, again } = caller.answers[id]!
      const others = said.answers.filter(({ question }) => question !== id)
      said = { ...said, answers: [...others, { question: id, answer: first, ...(next.asked.again && { again }) }] }
      continue
    }
    told ??= now
    if (next.kind !== 'try') return { cause, said, told, end: now }
    said = { ...said, tried: [...said.tried, { cause: next.cause.id, mended: next.cause.id === cause && caller.mends }] }
  }
}
export const lessonOf = ({ cause, said }: Call): Lesson => ({ ...said, cause, own: null, model: 'any' })

/** Sum of squares of belief against what was the case. Source: Brier, Verification of forecasts expressed in terms of probability, Monthly Weather Review 78 (1950). */
export const brier = ({ cause, told }: Call): number =>
  told.suspects.reduce((sum, suspect) => sum + (suspect.share - (suspect.cause.id === cause ? 1 : 0)) ** 2, 0)
export const firstRight = ({ cause, told }: Call): boolean => told.suspects[0]!.cause.id === cause
