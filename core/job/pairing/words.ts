export const accountOwners = ['customer', 'household', 'crew'] as const
export const accountOwnerWords: Record<(typeof accountOwners)[number], string> = {
  customer: 'the customer’s',
  household: 'somebody else’s of the household',
  crew: 'the crew’s, for now',
}

/** What is switched off for a moment to see what still works. */
export const drills = ['internet', 'router'] as const
export const drillWords: Record<(typeof drills)[number], string> = { internet: 'internet off', router: 'router off' }
export const drillAnswers = ['works', 'fails', 'none'] as const
export const drillAnswerWords: Record<(typeof drillAnswers)[number], string> = { works: 'works', fails: 'does not', none: 'there is none' }
