import type { WhyEnded } from '../site/words'

/** Refusals that may have saved somebody, in words: what was about to be done. Others are slips and questions of order. */
export const refusedWords = {
  notIsolated: 'work in a box that a feed still reached',
  proofExpired: 'work on a proof past its time',
  notWitnessed: 'work on a proof that nobody had witnessed',
  offlineOwnProof: 'work on somebody else’s proof, without network',
  workStopped: 'work went on although it was stopped',
  mayNotClose: '{a breaker} was to be closed onto somebody’s work',
  notClear: 'power was to come back before everybody was clear',
  tagsLeft: 'somebody was to leave with a tag still hanging',
  testerSilent: 'a tester showed nothing on a live source',
  testerFailed: 'a tester failed after the readings',
  sweepNotDead: 'a box was taken for dead, and a reading was too high',
  stillLive: 'a voltage was explained away, and was still there',
  nobodyWarned: 'live parts were to be measured, and nobody was warned',
  notAnnounced: 'live parts were to be measured, and the crew did not know',
  checkInDue: 'live work, or power, was to go on with a check-in overdue',
} as const
type RefusedCode = keyof typeof refusedWords
export const isNearMiss = (code: string): code is RefusedCode => Object.hasOwn(refusedWords, code)

/** Ends of a proof that took it from under somebody’s hands, in words; closing up, capping, a new proof and a clearance end one as they should. */
export const endedWords = {
  lightOn: 'a light was on in a round of openings',
  voltageSeen: 'a sign of voltage was reported',
  partedLive: 'an open neutral carried voltage',
  causeRecorded: 'the cause of a voltage was recorded',
  doubtClearedLate: 'a doubt was cleared too late',
  proverLeft: 'whoever proved or witnessed it left',
  nobodyLicensed: 'nobody licensed stood behind it any more',
  feedsChanged: 'the feeds of the box changed',
  neutralShared: 'a shared neutral was found',
  otherConductors: 'other conductors were found in the box',
  laidOut: 'another feed, source or switch was recorded',
  tagTakenOff: 'a tag was taken off',
  tagHungAgain: 'a tag had come off and was hung again',
  feedRemoved: 'a feed was taken off the record',
  breakerFound: '{a breaker} was not as it had been left',
  breakerHadBeenClosed: '{a breaker} had been closed meanwhile',
  voltageRead: 'a reading showed voltage',
  workStopped: 'work was stopped',
  absent: 'somebody was not there any more',
  tagOverridden: 'a tag was overridden',
  sourceFound: 'another source was found',
  instrumentFailed: 'the tester failed',
  sourceFailed: 'the source of the tester’s check failed',
} as const satisfies Partial<Record<WhyEnded['code'], string>>
type EndedCode = keyof typeof endedWords
export const endedEarly = (code: string): code is EndedCode => Object.hasOwn(endedWords, code)

export const nearMissKinds = ['refused', 'ended'] as const
export type NearMissKind = (typeof nearMissKinds)[number]
export const nearMissSaid = (kind: NearMissKind, code: string): string =>
  kind === 'refused' && isNearMiss(code) ? refusedWords[code] : endedEarly(code) ? endedWords[code] : code
