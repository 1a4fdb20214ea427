import type { DeviceModel } from './device-schema'

type Powered = Pick<DeviceModel, 'kind' | 'terminals' | 'battery'>

/** Years a battery lasts where the maker of its device says nothing. Common practice, no source. */
export const usualBatteryYears = 3

/** A companion that no conductor feeds. */
export const isCordless = ({ kind, terminals }: Pick<DeviceModel, 'kind' | 'terminals'>): boolean =>
  kind === 'companion' && !terminals.some((terminal) => terminal !== 'ground')

/** It runs on a battery: its maker names one, or no conductor feeds it. */
export const runsOnBattery = (model: Powered): boolean => model.battery !== '' || isCordless(model)

/**
 * The day by which a battery that went in on a day is changed.
 * @param on a day or a moment, ISO
 * @returns a day, ISO
 */
export const batteryDue = (on: string, { batteryYears }: Pick<DeviceModel, 'batteryYears'>): string =>
  monthsAfter(on.slice(0, 10), Math.round((batteryYears ?? usualBatteryYears) * 12))
/** The same day of a later month, or its last one. Without a library: every page of a job would load one for this. */
function monthsAfter(day: string, months: number): string {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number]
  const lastThere = new Date(Date.UTC(year, month + months, 0)).getUTCDate()
  return new Date(Date.UTC(year, month - 1 + months, Math.min(date, lastThere))).toISOString().slice(0, 10)
}

/** The month of a day, as it is said of batteries: nobody knows the day one is empty. */
export const monthSaid = (day: string): string =>
  new Intl.DateTimeFormat('en', { month: 'long', year: 'numeric', timeZone: 'UTC' }).format(new Date(day))

/** Said wherever somebody is to change one. Common caution with coin and button cells. */
export const cellCaution =
  'A button cell burns inside whoever swallows it, within two hours: keep new and old ones out of children’s reach. If one may be swallowed, call the emergency number now.'
