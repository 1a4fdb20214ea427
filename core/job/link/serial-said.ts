import { currentUnits } from '../progress'
import type { JobState, Unit } from '../state'
import { linkOf } from './link-of'

/**
 * What a device says of its own serial, where it is not the one on record: cards that were swapped let the link test one lamp and
 * call it another.
 * @returns null: it says the same, or nothing; `of`: the device of this job that has that serial on record
 */
export function serialSaid(job: JobState, unit: Unit): { says: string; of: Unit | null } | null {
  const says = linkOf(job).units[unit.id]?.serial ?? ''
  const same = (one: string) => one.trim().toUpperCase() === says.trim().toUpperCase()
  if (!says || same(unit.serial)) return null
  return { says, of: currentUnits(job).find((one) => one.id !== unit.id && same(one.serial)) ?? null }
}
