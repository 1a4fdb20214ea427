/** What is done with a part for a job: taken onto a van, put into the wall, brought back. */
export const partMoveKinds = ['pick', 'use', 'return'] as const
export type PartMoveKind = (typeof partMoveKinds)[number]
export const partMoveWords: Record<PartMoveKind, string> = { pick: 'picked', use: 'used', return: 'brought back' }
