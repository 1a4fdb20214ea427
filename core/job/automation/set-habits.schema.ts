import { z } from 'zod'
import { habitsSchema } from '../../automation/model.schema'

export const setHabitsInput = z.object({ habits: habitsSchema })
export type SetHabits = z.infer<typeof setHabitsInput>

export const habitsSetPayload = setHabitsInput
export type HabitsSet = z.infer<typeof habitsSetPayload>
