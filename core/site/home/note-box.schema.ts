import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { notedSchema } from '../survey.schema'

export const noteBoxInput = z.object({ boxId: idSchema, noted: notedSchema })
export type NoteBox = z.infer<typeof noteBoxInput>

export const boxNotedPayload = noteBoxInput
export type BoxNoted = z.infer<typeof boxNotedPayload>
