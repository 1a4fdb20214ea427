import { mayBench } from './may-bench'
import type { JobState, PreparedUnit, TestResult, Unit } from '../state'
import { cartonPartsOf } from './words'

/** A serial as it is looked up: upper and lower case are one, and no name that every object has. */
export const serialKey = (serial: string): string => `#${serial.trim().toLowerCase()}`
/** What the shop knows of a device of this job; null: nothing. */
export const preparedOf = ({ prepared }: Pick<JobState, 'prepared'>, serial: string): PreparedUnit | null =>
  prepared[serialKey(serial)] ?? null

/** What was found in the shop to be wrong with a device; null: nothing. */
export const failedInShop = (unit: Pick<PreparedUnit, 'lamp' | 'power' | 'meter'>): 'lamp' | 'power' | 'meter' | null =>
  (['lamp', 'power', 'meter'] as const).find((test) => unit[test] === 'failed') ?? null

/** The device that lies ready for a gang: the newest that was prepared for it. */
export function unitInBag(job: Pick<JobState, 'prepared'>, boxId: string, gang: number): PreparedUnit | null {
  return Object.values(job.prepared).findLast((unit) => unit.boxId === boxId && unit.gang === gang) ?? null
}

/** What is still to be done in the shop before this device may go out; empty: it is ready. */
export function leftInShop(unit: PreparedUnit): string[] {
  const may = mayBench(unit.model)
  const failed = failedInShop(unit)
  if (failed) return [`it failed: ${unit.note}`]
  const left: string[] = []
  if (cartonPartsOf(unit.model).some((part) => !unit.carton[part])) left.push('the carton')
  if (may.code && !unit.code) left.push('its code')
  if (may.update && !unit.version) left.push('the update')
  if (may.update && !unit.settings) left.push('its settings')
  if (may.lamp && unit.lamp === 'none') left.push('the lamp')
  if (may.meter && unit.meter === 'none') left.push('its meter')
  return left
}

/**
 * Functional checks that say the same wherever they are made, by what the shop has seen of this very device: what its meter reads,
 * and that it comes back as it was set. The second only where it sits in the place it was set for and joined at once: whoever
 * starts a device anew takes its settings from it. Of a device that a callback was about, nothing.
 */
export function shopEvidence(job: Pick<JobState, 'prepared' | 'callbacks'>, unit: Unit): Record<string, TestResult> {
  const prepared = preparedOf(job, unit.serial)
  if (!prepared || prepared.model.id !== unit.model.id || failedInShop(prepared) || wasCalledAbout(job, unit)) return {}
  const inItsPlace = prepared.boxId === unit.boxId && prepared.gang === unit.gang
  const asItWas = !unit.pairing || (unit.pairing.result === 'joined' && unit.pairing.attempts <= 1)
  const said = (what: string): TestResult => ({
    result: 'pass',
    note: '',
    at: prepared.at,
    by: prepared.by,
    madeAt: prepared.madeAt,
    inShop: `${what}, with serial ${unit.serial}`,
  })
  return {
    ...(prepared.meter === 'passed' ? { meter: said('with a test lamp') } : {}),
    ...(prepared.power === 'passed' && prepared.settings && inItsPlace && asItWas ? { power: said('as it was set') } : {}),
  }
}
const wasCalledAbout = (job: Pick<JobState, 'callbacks'>, unit: Unit): boolean =>
  Object.values(job.callbacks).some(({ unitId }) => unitId === unit.id)
