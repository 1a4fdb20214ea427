import type { z } from 'zod'

/**
 * What is wrong with a value, in words for whoever typed it, where the schema says nothing of its own: given to each parse.
 * @returns undefined for what has no better words than the library's
 */
export function plainProblem(issue: z.core.$ZodRawIssue): string | undefined {
  if (issue.code === 'invalid_type') {
    if (issue.input === undefined || issue.input === null) return 'This is missing.'
    if (issue.expected === 'number') return 'Enter a number here.'
    if (issue.expected === 'int') return 'Enter a whole number here.'
    if (issue.expected === 'array') return 'Enter a list here.'
    return issue.expected === 'string' ? 'Enter text here.' : undefined
  }
  if (issue.code === 'too_small' || issue.code === 'too_big') {
    const limit = issue.code === 'too_small' ? issue.minimum : issue.maximum
    const least = issue.code === 'too_small'
    if (issue.origin === 'string')
      return least && Number(limit) <= 1 ? 'This is empty.' : `${least ? 'At least' : 'At most'} ${limit} characters.`
    if (issue.origin === 'array' || issue.origin === 'set')
      return least && Number(limit) <= 1 ? 'At least one is needed.' : `${least ? 'At least' : 'At most'} ${limit} entries.`
    const sharp = issue.inclusive === false
    return least ? `${sharp ? 'More than' : 'At least'} ${limit}.` : `${sharp ? 'Less than' : 'At most'} ${limit}.`
  }
  if (issue.code === 'invalid_format') {
    if (issue.format === 'email') return 'This is no e-mail address.'
    if (issue.format === 'datetime' || issue.format === 'date') return 'This is no date.'
    return issue.format === 'uuid' ? 'This is no id.' : undefined
  }
  if (issue.code === 'invalid_value') return `One of: ${issue.values.map(String).join(', ')}.`
  if (issue.code === 'unrecognized_keys') return `Unknown here: ${issue.keys.join(', ')}.`
  if (issue.code === 'invalid_union') return 'This is not allowed here.'
  return undefined
}
