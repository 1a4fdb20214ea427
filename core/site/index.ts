/** Site energy record: feeds, tags, grants and proofs; who may touch what, now. */
export * from './words'
export * from './survey-words'
export * from './reading'
export type {
  Conductor,
  Consequence,
  FarPosition,
  InstrumentKind,
  InstrumentSnapshot,
  ReferenceSeen,
  SignCause,
  SignConsequence,
  SiteBox,
  SiteBreaker,
} from './parts.schema'
export type { HomeNetwork, Noted, RoomPlace, SignalReading, SurveyCable, SurveyedDevice } from './survey.schema'
export * from './state'
export * from './feeds'
export * from './power-since'
export * from './proofs'
export * from './names'
export * from './former-names'
export * from './permissions'
export type { SiteContext } from './context'
export * from './telling'
export * from './why-ended'
export * from './stream'
export { grantMinutes } from './power/request-close'
export { noCurrentBelowAmps } from './box/open-neutral'
export { undoSeconds } from './box/undo-close'
export { decideLeave } from './crew/leave-site'
export { leftBehind } from './crew/leaving'
export * from './rail'
export * from './tracing'
export * from './signature'
