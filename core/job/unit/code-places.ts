/** Where a setup code stands besides where it was read first. */
export const codePlaces = ['device', 'tab', 'card'] as const
export type CodePlace = (typeof codePlaces)[number]
