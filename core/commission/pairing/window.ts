/** When the power came to a device, as the record has it, ms. */
export interface PowerSeen {
  /** Off: a breaker ahead of it is open. */
  is: 'off' | 'on'
  /** The first and the last moment at which it may have come; null: nobody recorded it. */
  from: number | null
  to: number | null
}
export type PairingWindow =
  /** No power, or only by its gesture: nothing burns down. */
  | { is: 'off' | 'byGesture' }
  /** Nobody recorded when the power came. */
  | { is: 'unknown'; minutes: number }
  /** `until`: sure so long; `atMost`: it may be open so long. `from`: when it opened. */
  | { is: 'open' | 'perhaps'; from: number; until: number; atMost: number }
  | { is: 'over'; since: number }

const minuteMs = 60_000
/**
 * The window of a device, from the recorded closing of its breaker or from when it was started anew by itself.
 * @param minutes how long its model keeps it open; null: no limit known
 * @param reopenedAt when it was started anew or reset, ms; null: never
 * @param now ms
 */
export function pairingWindow(minutes: number | null, power: PowerSeen, reopenedAt: number | null, now: number): PairingWindow {
  if (power.is === 'off') return { is: 'off' }
  if (minutes === null) return { is: 'byGesture' }
  const own = reopenedAt !== null && (power.to === null || reopenedAt >= power.to) ? reopenedAt : null
  const [from, to] = own === null ? [power.from, power.to] : [own, own]
  if (to === null) return { is: 'unknown', minutes }
  const until = (from ?? to) + minutes * minuteMs
  const atMost = to + minutes * minuteMs
  if (now < until && from !== null) return { is: 'open', from, until, atMost }
  if (now < atMost) return { is: 'perhaps', from: from ?? to, until: Math.min(until, now), atMost }
  return { is: 'over', since: atMost }
}
