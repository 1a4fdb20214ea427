import type { Behaviour, Habits, Routine, Sensor } from '../../automation/model.schema'
import type { AlertCheck } from '../../automation/words'
import type { BaselineKept } from './keep-baseline.schema'

/** A motor as it was when all was well, its lines, and what was seen of its alert. */
export type KeptMonitor = Omit<BaselineKept, 'deviceId'> & {
  at: string
  by: string
  checks: Partial<Record<AlertCheck, { result: 'pass' | 'fail'; note: string; by: string; at: string }>>
}

/** What a home does by itself, as the record has it. */
export interface AutomationState {
  /** In the order in which they were made. `seq`: of its newest entry. */
  routines: Record<string, { routine: Routine; seq: number; personId: string; initials: string }>
  /** By the point that a device or a channel switches. */
  behaviours: Record<string, Behaviour>
  sensors: Record<string, Sensor>
  /** What watches a motor that must run, by device. */
  monitors: Record<string, KeptMonitor>
  /** Null: nobody said how the house is lived in. */
  habits: Habits | null
}
