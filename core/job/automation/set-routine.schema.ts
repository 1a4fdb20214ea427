import { z } from 'zod'
import { routineSchema } from '../../automation/model.schema'

export const setRoutineInput = z.object({ routine: routineSchema })
export type SetRoutine = z.infer<typeof setRoutineInput>

export const routineSetPayload = setRoutineInput
export type RoutineSet = z.infer<typeof routineSetPayload>
