import type { PowerSince } from '../../site/power-since'

export type PairingWindow =
  /** No power, or only by its gesture: nothing burns down. */
  | { is: 'off' | 'byGesture' }
  /** Nobody recorded when the power came. */
  | { is: 'unknown'; minutes: number }
  /** `from`: when it opened; `until`: sure so long; `atMost`: it may be open so long. */
  | { is: 'open'; from: number; until: number; atMost: number }
  | { is: 'perhaps'; from: number; atMost: number }
  | { is: 'over'; since: number }

const minuteMs = 60_000
/**
 * The window of a device, from the recorded closing of its breaker or from when it was started anew by itself.
 * @param minutes how long its model keeps it open; null: no limit known
 * @param reopenedAt when it was started anew or reset, ms; null: never
 * @param now ms
 */
export function pairingWindow(minutes: number | null, power: PowerSince, reopenedAt: number | null, now: number): PairingWindow {
  if (power.is === 'off') return { is: 'off' }
  if (minutes === null) return { is: 'byGesture' }
  const own = reopenedAt !== null && (power.to === null || reopenedAt >= power.to) ? reopenedAt : null
  const [from, to] = own === null ? [power.from, power.to] : [own, own]
  if (to === null) return { is: 'unknown', minutes }
  const open = minutes * minuteMs
  const atMost = to + open
  if (from !== null && now < from + open) return { is: 'open', from, until: from + open, atMost }
  return now < atMost ? { is: 'perhaps', from: from ?? to, atMost } : { is: 'over', since: atMost }
}
