import { symptoms } from './causes'
import { entropy, normal, secondAnswer, type Numbers, type Said } from './numbers'
import { questions, type Question } from './questions'

/** Something this home’s record says, and how much likelier or rarer it makes causes: 3 is three times. */
export interface HomeFact {
  id: string
  words: string
  weighs: Readonly<Record<string, number>>
}
/** Where steps did not mend what they are for: misfortune of a try at another cause. Common practice, no source. */
const mendedByChance = 0.02

/** Belief in each cause, in the order of the numbers; adds up to one. Naive Bayes: answers are taken as independent under a cause. */
export function beliefOf(numbers: Numbers, facts: readonly HomeFact[], said: Said): number[] {
  const logs = numbers.share.map((share, at) => {
    const { id } = numbers.causes[at]!
    let log = Math.log(share)
    for (const { weighs } of facts) log += Math.log(weighs[id] ?? 1)
    for (const symptom of said.symptoms) log += Math.log(numbers.symptom[at]![symptoms.indexOf(symptom)] ?? 1)
    for (const { question, answer, again } of said.answers) {
      const row = numbers.answer[question]?.[at]
      if (answer === null || !row) continue
      const likely = again === null || again === undefined ? row[answer] : secondAnswer(row, answer)[again]
      if (likely) log += Math.log(likely)
    }
    for (const { cause, mended } of said.tried) {
      const chance = cause === id ? Math.max(mendedByChance, numbers.byPhone[at]!) : mendedByChance
      log += Math.log(mended ? chance : 1 - chance)
    }
    return log
  })
  const most = Math.max(...logs)
  return normal(logs.map((log) => Math.exp(log - most)))
}

/** What an answer is expected to tell of the cause, in bits: mutual information. */
export function bitsOf(numbers: Numbers, belief: readonly number[], { id, answers }: Question): number {
  const [likely, varies] = [numbers.answer[id]!, numbers.varies[id]!]
  const shares = answers.map(() => 0)
  let within = 0
  for (const [at, share] of belief.entries()) {
    within += share * varies[at]!
    for (let answer = 0; answer < shares.length; answer++) shares[answer]! += share * likely[at]![answer]!
  }
  return Math.max(0, entropy(shares) - within)
}

/** What asking the same once more is expected to tell, bits. */
export function bitsAgain(numbers: Numbers, belief: readonly number[], { id }: Question, first: number): number {
  const rows = numbers.answer[id]!.map((row) => normal(secondAnswer(row, first)))
  const shares = rows[0]!.map((_, second) => belief.reduce((sum, share, at) => sum + share * rows[at]![second]!, 0))
  return Math.max(0, entropy(shares) - belief.reduce((sum, share, at) => sum + share * entropy(rows[at]!), 0))
}

export interface Asked {
  question: Question
  /** It was answered, and is asked once more: the answer matters, and may be a mistake. */
  again: boolean
  /** Bits. */
  tells: number
}
/** Questions that were not asked yet, or may be asked once more, the one that tells most per minute and per annoyance first. */
export function askable(numbers: Numbers, belief: readonly number[], said: Said, notHere: ReadonlySet<string> = new Set()): Asked[] {
  const done = new Map(said.answers.map((one) => [one.question, one]))
  return questions
    .flatMap((question): Asked[] => {
      const before = done.get(question.id)
      if (!before) return notHere.has(question.id) ? [] : [{ question, again: false, tells: bitsOf(numbers, belief, question) }]
      if (before.answer === null || before.again !== undefined) return []
      return [{ question, again: true, tells: bitsAgain(numbers, belief, question, before.answer) }]
    })
    .sort((a, b) => worth(b) - worth(a))
}
const worth = ({ question, tells }: Asked) => tells / (question.minutes + question.annoyance + aSentence)
/** To ask at all takes as long, minutes. A choice of ours, no source. */
const aSentence = 0.25
