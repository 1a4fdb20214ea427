/** How the contacts of an old switch are made. */
export const oldContacts = ['single', 'threeWay', 'fourWay', 'other'] as const
/** What a meter is asked at the bench. */
export const readingKinds = ['continuity', 'voltage', 'voltageHigh', 'contactless'] as const
