import type { BranchSettings } from '../../units/branch-settings'

export const accountOwners = ['customer', 'household', 'crew'] as const
export const accountOwnerWords: Record<(typeof accountOwners)[number], string> = {
  customer: 'the customer’s',
  household: 'somebody else’s of the household',
  crew: 'the crew’s, for now',
}

/** The school of a branch: whose app is opened first. */
export const pairingSchoolWords: Record<BranchSettings['pairingSchool'], string> = {
  makerFirst: 'The maker’s app first, then the home platform.',
  platformFirst: 'The home platform first, then the maker’s app.',
  platformOnly: 'The home platform only: no account with the maker.',
}

/** What is switched off for a moment to see what still works. */
export const drills = ['internet', 'router'] as const
export const drillWords: Record<(typeof drills)[number], string> = { internet: 'internet off', router: 'router off' }
export const drillAnswers = ['works', 'fails', 'none'] as const
export const drillAnswerWords: Record<(typeof drillAnswers)[number], string> = { works: 'works', fails: 'does not', none: 'there is none' }
