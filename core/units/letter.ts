import { z } from 'zod'

/** The flag of a conductor in its box. */
export const letterShape = /^[A-Z]{1,2}$/
export const letter = z.string().regex(letterShape, 'A conductor is tagged with one or two capital letters.')
