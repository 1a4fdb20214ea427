import { z } from 'zod'
import { reason } from '../../site/survey.schema'
import { idSchema } from '../../stream/command-envelope'

/** `fromId` is the same box as `intoId`: its gangs stand behind that one's. */
export const mergeBoxesInput = z.object({ intoId: idSchema, fromId: idSchema, reason })
export type MergeBoxes = z.infer<typeof mergeBoxesInput>

/** What the job has at the one is at the other, so many gangs further. */
export const boxesJoinedPayload = z.object({ intoId: idSchema, fromId: idSchema, shift: z.int().min(1).max(6) })
export type BoxesJoined = z.infer<typeof boxesJoinedPayload>
