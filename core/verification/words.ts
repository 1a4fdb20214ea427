export const curves = ['B', 'C', 'D'] as const
export const residualKinds = ['general', 'delayed'] as const
/** Schools of what a cold circuit may show of the limit. */
export const loopShares = ['annex', 'fourFifths'] as const
export type LoopShare = (typeof loopShares)[number]
/** Rated residual currents, mA. */
export const residualCurrents = [10, 30, 100, 300, 500] as const
