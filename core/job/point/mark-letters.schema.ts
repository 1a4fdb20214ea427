import { z } from 'zod'
import { letterMarkSchema } from '../../site/survey.schema'
import { idSchema } from '../../stream/command-envelope'

/** Where conductor A, B, C … is on a photograph: in parts of its width and height, from the top left. */
export const markLettersInput = z.object({ photoId: idSchema, marks: z.array(letterMarkSchema).max(30) })
export type MarkLetters = z.infer<typeof markLettersInput>

export const lettersMarkedPayload = markLettersInput
export type LettersMarked = z.infer<typeof lettersMarkedPayload>
