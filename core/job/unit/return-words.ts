/** How far a device is that came out, or never went in. */
export const returnStages = ['waits', 'sent', 'settled'] as const
export type ReturnStage = (typeof returnStages)[number]
/** Before it leaves: a device that was not reset takes the home’s network and its people with it. */
export const clearings = ['reset', 'dead', 'neverJoined'] as const
export const returnOutcomes = ['replaced', 'credited', 'refused', 'inStock', 'scrapped'] as const
export type ReturnOutcome = (typeof returnOutcomes)[number]

export const returnStageWords: Record<ReturnStage, string> = { waits: 'here', sent: 'sent', settled: 'settled' }
export const clearingWords: Record<(typeof clearings)[number], string> = {
  reset: 'reset, and out of the household’s app',
  dead: 'too dead to be reset; taken out of the household’s app',
  neverJoined: 'never joined a network',
}
export const returnOutcomeWords: Record<ReturnOutcome, string> = {
  replaced: 'replaced by the maker',
  credited: 'money back',
  refused: 'refused',
  inStock: 'back in stock',
  scrapped: 'scrapped',
}
