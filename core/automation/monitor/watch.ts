import type { Monitor } from './thresholds'

/** One reading, and what the device is told to be. */
export interface Reading {
  at: number
  watts: number
  /** Whether its relay says on; off: somebody, or something, meant it. */
  on: boolean
}
export interface Alert {
  at: number
  is: 'low' | 'high' | 'over'
  /** Told before, and told again. */
  again: boolean
}

/**
 * What a monitor says as readings come in: the first word after its readings in a row, again as long as it lasts, and once that it
 * is over. It is silent while the relay is off: somebody meant that. Readings that stop coming say nothing here: a meter that is
 * silent is another alert.
 */
export function watch(readings: Iterable<Reading>, { low, high, readings: needed, repeat }: Monitor): Alert[] {
  const alerts: Alert[] = []
  let [below, above] = [0, 0]
  let raised = null as { is: 'low' | 'high'; told: number } | null
  for (const { at, watts, on } of readings) {
    if (!on) {
      below = above = 0
      raised = null
      continue
    }
    below = watts < low ? below + 1 : 0
    above = watts > high ? above + 1 : 0
    const is = below >= needed ? 'low' : above >= needed ? 'high' : null
    if (is && raised?.is !== is) {
      raised = { is, told: at }
      alerts.push({ at, is, again: false })
    } else if (raised && !below && !above) {
      alerts.push({ at, is: 'over', again: false })
      raised = null
    } else if (raised && at - raised.told >= repeat) {
      raised.told = at
      alerts.push({ at, is: raised.is, again: true })
    }
  }
  return alerts
}
