import type { DeviceModel } from '../../fit/device-schema'
import { failedInShop, serialKey } from '../shop/prepared'
import type { DeviceReturn, JobState } from '../state'
import type { oldUnitFates } from '../words'

/** A device is sent within so many days, and an answer is asked for after so many. Common practice, no source. */
export const sendWithinDays = 14
export const answerWithinDays = 30
export const daysAfter = (day: string, days: number): string =>
  new Date(Date.parse(`${day.slice(0, 10)}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10)

/** A device that came out of the wall, or failed in the shop, and what becomes of it. */
export interface OutDevice extends Omit<DeviceReturn, 'at' | 'by'> {
  serial: string
  model: DeviceModel
  /** Null: it never went into the wall. */
  unitId: string | null
  /** Why it came out. */
  callbackId: string | null
  outAt: string
  /** What was seen in the shop. */
  shopNote: string
}

/** As it stands before anybody said anything. */
export const waiting = (goes: (typeof oldUnitFates)[number], outAt: string): Omit<DeviceReturn, 'at' | 'by'> => ({
  goes,
  stage: goes === 'scrap' ? 'settled' : 'waits',
  dueOn: goes === 'scrap' ? null : daysAfter(outAt, sendWithinDays),
  reference: '',
  cleared: null,
  outcome: goes === 'scrap' ? 'scrapped' : null,
  creditCents: null,
  note: '',
})

/** Every device of a job that is out, as far as it is known what became of it; nobody has to say anything first. */
export function devicesOut(job: Pick<JobState, 'units' | 'prepared' | 'callbacks' | 'returns'>): OutDevice[] {
  const callbacks = Object.values(job.callbacks)
  const removed = Object.values(job.units).flatMap((unit): OutDevice[] => {
    if (!unit.removedAt) return []
    return [
      {
        ...{ serial: unit.serial, model: unit.model, unitId: unit.id, outAt: unit.removedAt, shopNote: '' },
        callbackId: callbacks.findLast(({ unitId, replacedBy }) => unitId === unit.id && replacedBy !== null)?.id ?? null,
        ...(job.returns?.[serialKey(unit.serial)] ?? waiting(unit.removedTo ?? 'return', unit.removedAt)),
      },
    ]
  })
  const known = new Set(Object.values(job.units).map(({ serial }) => serialKey(serial)))
  const shop = Object.values(job.prepared).flatMap((unit): OutDevice[] => {
    if (!failedInShop(unit) || known.has(serialKey(unit.serial))) return []
    return [
      {
        ...{ serial: unit.serial, model: unit.model, unitId: null, callbackId: null, outAt: unit.madeAt, shopNote: unit.note },
        ...(job.returns?.[serialKey(unit.serial)] ?? waiting('return', unit.madeAt)),
      },
    ]
  })
  // One that is in a wall of this job again is not out; of one that came out twice the last time counts.
  const inWall = new Set(Object.values(job.units).flatMap(({ serial, removedAt }) => (removedAt ? [] : [serialKey(serial)])))
  const bySerial = new Map([...removed, ...shop].map((one) => [serialKey(one.serial), one]))
  return [...bySerial].flatMap(([key, one]) => (inWall.has(key) ? [] : [one]))
}
