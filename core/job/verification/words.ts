/** How far the permit of a job is; `hold`: an inspector has to see it before anything is closed or used. */
export const permitStates = ['none', 'applied', 'granted', 'hold', 'released', 'failed'] as const
export type PermitState = (typeof permitStates)[number]
export const permitWords: Record<PermitState, string> = {
  none: 'needs none here',
  applied: 'applied for',
  granted: 'granted',
  hold: 'waits for the inspector',
  released: 'inspected and released',
  failed: 'inspected, and to be mended',
}
/** What the day of a permit is; none has one. */
export const permitDayWords: Record<Exclude<PermitState, 'none'>, string> = {
  applied: 'applied for on',
  granted: 'good until',
  hold: 'the inspector comes on',
  released: 'released on',
  failed: 'looked at again on',
}
/** A permit that ran out allows no work. @param today YYYY-MM-DD where the home is */
export const ranOut = ({ state, on }: { state: PermitState; on: string | null }, today: string): boolean =>
  state === 'granted' && on !== null && on < today
