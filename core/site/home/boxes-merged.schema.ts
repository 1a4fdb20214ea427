import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence } from '../parts.schema'
import { reason } from '../survey.schema'

/** Two boxes of the record are one box in the wall: the gangs of the one stand behind those of the other. */
export const boxesMergedPayload = z.object({ intoId: idSchema, fromId: idSchema, reason, ...consequence })
export type BoxesMerged = z.infer<typeof boxesMergedPayload>
