import { defineCommands, defineEvents, type Decision, type EventDraft } from '../stream'
import type { SiteContext } from './context'
import type { SiteState } from './state'
import type { SiteWords } from './telling'

/** What an entry of a site's record may carry. */
export interface SiteEventMarks {
  /** Done with one's own hands at the site: whoever does it has arrived. */
  hands?: true
}
/** Who may give a command, and when. */
export interface SiteCommandMarks {
  /**
   * fact: it is so, or it happened: taken from anybody who sees the site, also by a program that does not understand the record ·
   * permission: for now only, what waited without network is asked again · work: what a crew does.
   */
  kind: 'fact' | 'permission' | 'work'
  /**
   * Besides the crew (facts: besides anybody). owner: what only its owner does, for whoever left a visit must still be able to
   * take their own things back · office: the dispatcher and leads · system: what follows from a change elsewhere in the company;
   * nobody gives it by hand.
   */
  by?: 'owner' | 'office' | 'system'
  /** May wait on a phone without network and is sent later. */
  queues?: true
  /** May be done on a crew mate's device with one's own PIN: phones die, tags do not. */
  ownPin?: true
  /**
   * Takes the ground from under one's own hands. From the tap on the server may have it, and others may go by it, whatever
   * becomes of the answer: nothing is touched until that is known (`outcomeUnknown`).
   */
  givesUp?: true
}

export const siteEvent = defineEvents<SiteState, SiteWords, SiteEventMarks>()
export const siteCommand = defineCommands<SiteState, SiteContext, Decision<EventDraft>, SiteCommandMarks>()
