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
