import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const dropRoutineInput = z.object({ routineId: idSchema })
export type DropRoutine = z.infer<typeof dropRoutineInput>

export const routineDroppedPayload = dropRoutineInput.extend({ name: z.string().trim().min(1).max(60) })
export type RoutineDropped = z.infer<typeof routineDroppedPayload>
