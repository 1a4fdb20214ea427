import { causes, causeKinds, symptoms, type Cause, type CauseKind, type Symptom } from './causes'
import { questions, type Question } from './questions'

/** `again`: the same was asked once more, to be sure. */
export interface Answered {
  question: string
  answer: number | null
  again?: number | null
}
/** What was said on the telephone: taps, and answers by their place in the question; null: *doesn’t know*. */
export interface Said {
  symptoms: readonly Symptom[]
  answers: readonly Answered[]
  /** Causes whose steps the customer took, and whether that mended it. */
  tried: readonly { cause: string; mended: boolean }[]
}
/** A callback whose cause was confirmed. */
export interface Lesson extends Said {
  cause: string
  /** Kind and words of a cause that nobody had listed. */
  own: { kind: CauseKind; words: string } | null
  model: string
}
/** What closed callbacks have taught: counts only, so that anybody can look which jobs they are. */
export interface Taught {
  closed: number
  causes: Record<string, number>
  byModel: Record<string, Record<string, number>>
  symptoms: Record<string, Partial<Record<Symptom, number>>>
  /** By question, then cause: how often each answer was given. */
  answers: Record<string, Record<string, number[]>>
  /** By cause: how often its steps were taken, and how often that mended it. */
  tried: Record<string, { times: number; mended: number }>
  own: { id: string; kind: CauseKind; words: string }[]
}
export const nothingTaught = (): Taught => ({ closed: 0, causes: {}, byModel: {}, symptoms: {}, answers: {}, tried: {}, own: [] })

const add = (counts: Record<string, number>, key: string) => (counts[key] = (counts[key] ?? 0) + 1)
/** Counts what was confirmed. What nobody knows of a question or a cause any more is counted all the same: it comes back with its name. */
export function teach(lessons: readonly Lesson[]): Taught {
  const taught = nothingTaught()
  for (const { cause, own, model, symptoms: tapped, answers, tried } of lessons) {
    taught.closed++
    add(taught.causes, cause)
    add((taught.byModel[model] ??= {}), cause)
    if (own && !taught.own.some(({ id }) => id === cause)) taught.own.push({ id: cause, ...own })
    for (const symptom of tapped) add((taught.symptoms[cause] ??= {}) as Record<string, number>, symptom)
    for (const { question, answer: first, again } of answers) {
      // What was said twice, the other way, is the second.
      const answer = again ?? first
      const asked = questions.find(({ id }) => id === question)
      if (answer === null || !asked || answer >= asked.answers.length) continue
      const counts = ((taught.answers[question] ??= {})[cause] ??= asked.answers.map(() => 0))
      counts[answer]!++
    }
    for (const one of tried) {
      // A try at another cause says nothing of how well the steps of that cause work.
      if (one.cause !== cause) continue
      const count = (taught.tried[cause] ??= { times: 0, mended: 0 })
      count.times++
      if (one.mended) count.mended++
    }
  }
  return taught
}

/**
 * So many callbacks the trade’s own numbers weigh against the company’s: of all causes, of a model against the company, of what a
 * customer says under a cause, of what is usual to answer, of an answer under a cause, of a try. Three callbacks move little; four
 * hundred count as much as the trade. Chosen by made-up companies a quarter off the trade (`triage.test.ts`), no source.
 */
const weighs = { causes: 400, model: 20, symptoms: 400, usual: 60, answers: 120, tried: 8 }
/** Of a cause that nobody had listed nothing is known: what is met is soon believed. */
const weighsOwn = 5
/** One answer in twenty is wrong: given in the excitement, or misunderstood. Common practice, no source. */
export const wrongShare = 0.05
/** A symptom that a cause does not show is told all the same now and then. Common practice, no source. */
const straySymptom = 0.15

/** What the triage computes with: shares of causes, and what is said under each. */
export interface Numbers {
  causes: readonly Cause[]
  share: readonly number[]
  /** By cause, then symptom. */
  symptom: readonly (readonly number[])[]
  /** By question, then cause, then answer; wrong answers are in it. */
  answer: Readonly<Record<string, readonly (readonly number[])[]>>
  byPhone: readonly number[]
  /** By question, then cause: how much the answer varies although the cause is known, bits. */
  varies: Readonly<Record<string, readonly number[]>>
}

/** Shares of weights: they add up to one. */
export const normal = (weights: readonly number[]): number[] => {
  const sum = weights.reduce((all, one) => all + one, 0)
  return weights.map((one) => one / sum)
}
/** Dirichlet’s mean: what is expected, worth so many observations, and what was observed. */
const shrunk = (expected: readonly number[], worth: number, counts: readonly number[]): number[] =>
  normal(expected.map((share, at) => share * worth + (counts[at] ?? 0)))

/** With wrong answers: each of the others as likely. */
export const withMistakes = (shares: readonly number[], wrong = wrongShare): number[] =>
  shares.map((share) => share * (1 - wrong) + ((1 - share) * wrong) / (shares.length - 1))

const isOwn = ({ id }: { id: string }) => id.startsWith('own:')
/** A cause that somebody met and nobody had listed: rare until it is met again; what is said under it is learnt. */
const ownCause = ({ id, kind, words }: Taught['own'][number]): Cause => ({
  id,
  kind,
  words,
  usual: 0.3,
  shows: {},
  steps: [],
  byPhone: 0,
  check: 'As it was found the last time.',
  carry: [],
  minutes: 30,
  opens: kind === 'wiring' || kind === 'device',
  payer: kind === 'device' ? 'maker' : kind === 'use' || kind === 'supply' ? 'customer' : 'us',
})
export const symptomShares = ({ shows }: Cause): number[] =>
  normal(symptoms.map((symptom) => (shows[symptom] ?? 0) + (straySymptom * 10) / symptoms.length))

/**
 * What is answered under each cause; what was counted has its mistakes in it already. Causes that say nothing special teach each
 * other what is usual, before each goes its own way.
 */
function answersUnder({ usual, says }: Question, all: readonly Cause[], counted: Record<string, number[]>): number[][] {
  const pooled = usual.map((_, answer) => all.reduce((sum, { id }) => sum + (says[id] ? 0 : (counted[id]?.[answer] ?? 0)), 0))
  const ordinary = shrunk(withMistakes(usual), weighs.usual, pooled)
  return all.map(({ id }) =>
    shrunk(says[id] ? withMistakes(says[id]) : ordinary, isOwn({ id }) ? weighsOwn : weighs.answers, counted[id] ?? []),
  )
}
/** How likely it is that one thing is heard where another is meant. */
const heardAs = (meant: number, heard: number, of: number): number => (meant === heard ? 1 - wrongShare : wrongShare / (of - 1))
/** What is meant, where what is heard has its mistakes in it: asked of the same rows with each step of a call. */
const meantBy = new WeakMap<readonly number[], number[]>()
function meantIn(row: readonly number[]): number[] {
  const known = meantBy.get(row)
  if (known) return known
  const other = wrongShare / (row.length - 1)
  const meant = normal(row.map((share) => Math.max(0.001, (share - other) / (1 - wrongShare - other))))
  meantBy.set(row, meant)
  return meant
}
/** What a second asking gives under a cause, the first answer being known; each has mistakes of its own. Not normalised: jointly with the first. */
export const secondAnswer = (row: readonly number[], first: number): number[] => {
  const meant = meantIn(row)
  return row.map((_, second) =>
    meant.reduce((sum, share, at) => sum + share * heardAs(at, first, row.length) * heardAs(at, second, row.length), 0),
  )
}

/** Bits. Source: Shannon, A mathematical theory of communication (1948). */
export const entropy = (shares: readonly number[]): number =>
  shares.reduce((sum, share) => (share > 0 ? sum - share * Math.log2(share) : sum), 0)
export const variesIn = (answer: Numbers['answer']): Numbers['varies'] =>
  Object.fromEntries(Object.entries(answer).map(([id, rows]) => [id, rows.map(entropy)]))

/**
 * The trade’s numbers, moved by the company’s own callbacks, and those of a model by its own.
 * @param model of the device; none: of any
 */
export function numbersOf(taught: Taught, model: string | null = null): Numbers {
  const all = [...causes, ...taught.own.filter(({ kind }) => causeKinds.includes(kind)).map(ownCause)]
  const counted = (counts: Record<string, number> | undefined) => all.map(({ id }) => counts?.[id] ?? 0)
  const company = shrunk(normal(all.map(({ usual }) => usual)), weighs.causes, counted(taught.causes))
  const answer = Object.fromEntries(
    questions.map((question) => [question.id, answersUnder(question, all, taught.answers[question.id] ?? {})]),
  )
  return {
    causes: all,
    share: shrunk(company, weighs.model, counted(model ? taught.byModel[model] : undefined)),
    symptom: all.map((one) =>
      shrunk(
        symptomShares(one),
        isOwn(one) ? weighsOwn : weighs.symptoms,
        symptoms.map((symptom) => taught.symptoms[one.id]?.[symptom] ?? 0),
      ),
    ),
    answer,
    varies: variesIn(answer),
    byPhone: all.map(({ id, byPhone }) => {
      const { times, mended } = taught.tried[id] ?? { times: 0, mended: 0 }
      return byPhone === 0 ? 0 : (byPhone * weighs.tried + mended) / (weighs.tried + times)
    }),
  }
}
