import type { JobState } from '../state'
import type { AutomationState } from './state'

export const mostRoutines = 200
export const mostSensors = 60

const empty = (): AutomationState => ({ routines: {}, behaviours: {}, sensors: {}, monitors: {}, habits: null })
const none = empty()
export const automationOf = (job: JobState): Readonly<AutomationState> => job.automation ?? none
/** For what changes it: there from now on. */
export const openAutomation = (job: JobState): AutomationState => (job.automation ??= empty())
