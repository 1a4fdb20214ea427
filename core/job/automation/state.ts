import type { Behaviour, Habits, Routine, Sensor } from '../../automation/model.schema'
import type { JobState } from '../state'

export const mostRoutines = 200
export const mostSensors = 60

/** What a home does by itself, as the record has it. */
export interface AutomationState {
  /** In the order in which they were made. `seq`: of its newest entry. */
  routines: Record<string, { routine: Routine; seq: number; personId: string; initials: string }>
  /** By the point that a device or a channel switches. */
  behaviours: Record<string, Behaviour>
  sensors: Record<string, Sensor>
  /** Null: nobody said how the house is lived in. */
  habits: Habits | null
}
const none: AutomationState = { routines: {}, behaviours: {}, sensors: {}, habits: null }
export const automationOf = (job: JobState): Readonly<AutomationState> => job.automation ?? none
/** For what changes it: there from now on. */
export const openAutomation = (job: JobState): AutomationState =>
  (job.automation ??= { routines: {}, behaviours: {}, sensors: {}, habits: null })
