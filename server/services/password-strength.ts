import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary as common } from '@zxcvbn-ts/language-common'
import { dictionary, translations } from '@zxcvbn-ts/language-en'
import { ApiError } from './errors'

/** Of 0 to 4: from 3 on a hash that leaked is not worth guessing at (Wheeler, USENIX Security 2016). */
const enough = 3
let guesser: ZxcvbnFactory | null = null
/** Dictionaries are read once somebody sets a password. */
const guess = (password: string, known: string[]) =>
  (guesser ??= new ZxcvbnFactory({ dictionary: { ...common, ...dictionary }, graphs: adjacencyGraphs, translations })).check(
    password,
    known,
  )

/**
 * @param known what whoever guesses tries first: login, name, company
 * @throws ApiError 422 with what makes it easy to guess
 */
export function needStrongPassword(password: string, known: readonly string[]): void {
  // Longer ones are strong; guessing at them would take long here, too.
  const { score, feedback } = guess(
    password.slice(0, 72),
    known.flatMap((words) => [words, ...words.split(/[\s._-]+/)]).filter((word) => word.length > 2),
  )
  if (score >= enough) return
  const why = [feedback.warning, 'Take four words that have nothing to do with each other.'].filter(Boolean).join(' ')
  throw new ApiError(422, 'weakPassword', `This password is easy to guess. ${why}`, [{ where: 'password', problem: why }])
}
