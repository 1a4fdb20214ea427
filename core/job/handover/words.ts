/** What a line of the handover rests on, where nothing was measured. */
export const evidenceKinds = ['seen', 'word', 'picture'] as const
export type EvidenceKind = (typeof evidenceKinds)[number]
export const evidenceWords: Record<EvidenceKind, string> = {
  seen: 'seen by us',
  word: 'by the customer’s word',
  picture: 'by a picture',
}
/** How far somebody of the household is with the home. */
export const memberStates = ['invited', 'accepted', 'gone'] as const
export type MemberState = (typeof memberStates)[number]
export const memberStateWords: Record<MemberState, string> = {
  invited: 'invited',
  accepted: 'accepted',
  gone: 'taken off the list',
}
