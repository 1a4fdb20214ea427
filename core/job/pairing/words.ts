export const accountOwners = ['customer', 'household', 'crew'] as const
export const accountOwnerWords: Record<(typeof accountOwners)[number], string> = {
  customer: 'the customer’s',
  household: 'somebody else’s of the household',
  crew: 'the crew’s, for now',
}
