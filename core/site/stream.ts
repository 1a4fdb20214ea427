import { commandsThat, defineStream, refuse, type CommandsIn, type Decision, type EventDraft, type EventsIn } from '../stream'
import { inTrade } from '../units/trade-words'
import * as alarm from './alarm'
import * as box from './box'
import { waited, type SiteContext } from './context'
import * as crew from './crew'
import type { SiteCommandMarks, SiteEventMarks } from './define'
import * as home from './home'
import * as power from './power'
import * as proof from './proof'
import { underTodaysName } from './former-names'
import { emptySite, type SiteState } from './state'
import type { SiteWords } from './telling'
import * as tracing from './tracing'

type Rooms = typeof home | typeof power | typeof box | typeof proof | typeof alarm | typeof tracing | typeof crew

/** Everything a person can say about the energy of a site. */
export type SiteCommand = CommandsIn<Rooms>
export type SiteCommandType = SiteCommand['type']
/** Every kind of entry there is. */
export type SiteEvent = EventsIn<Rooms>
export type SiteEventType = SiteEvent['type']

/** The record of a home and its energy: feeds, tags, permits to close, proofs; who may touch what. */
export const siteStream = defineStream<SiteState, SiteContext, Decision<EventDraft>, SiteWords, SiteEventMarks, SiteCommandMarks>('site', {
  reducerVersion: 10,
  empty: emptySite,
  rooms: [home, power, box, proof, alarm, tracing, crew],
  around(site, event, { hands }, evolve) {
    const { personId, name, initials } = event.actor
    const leftAt = hands ? undefined : site.people[personId]?.leftAt
    site.people[personId] = { name, initials, lastAt: event.receivedAt, ...(leftAt ? { leftAt } : {}) }
    // Whoever puts a hand to something has arrived, before anything that this brings about.
    if (hands) site.onSite[personId] = { personId, name, initials }
    evolve()
  },
})

/** What a person may do on a crew mate's device with their own PIN. */
export const pinTypes = commandsThat(siteStream, ({ ownPin }) => ownPin)
/** What takes the ground from under one's own hands from the tap on. */
export const givesUpTypes = commandsThat(siteStream, ({ givesUp }) => givesUp)
/** What follows from a change elsewhere in the company: nobody gives these by hand. */
export const systemTypes = commandsThat(siteStream, ({ by }) => by === 'system')

/** Decides one command against the energy record of a site. A refusal is in the words of its supply. */
export function decideSite(site: SiteState, command: SiteCommand, context: SiteContext): Decision<SiteEvent> {
  const decision = judge(site, underTodaysName(command), context)
  return decision.ok ? decision : inTrade(decision, site.schemeId)
}
function judge(site: SiteState, { type, ...submission }: SiteCommand, context: SiteContext): Decision<SiteEvent> {
  const rules = siteStream.commands.get(type)?.rules
  // Kept on a phone by an earlier program, perhaps.
  if (!rules) return refuse('unknownCommand', `This program does not know “${type}”.`, 'Enter it again.')
  const { kind, by, decide } = rules
  if (site.unknownEvent && kind !== 'fact')
    return refuse(
      'updateNeeded',
      `This program does not understand an entry in the record of this site (${site.unknownEvent}).`,
      'Update the program, then try again.',
    )
  if (kind === 'permission' && waited(context))
    return refuse(
      'onlineOnly',
      'This was entered without network, and things may have changed.',
      'Look at the power as it is now, then ask again.',
    )
  const office = context.actor.role === 'dispatcher' || context.actor.role === 'lead'
  const mayGive = context.onCrew || kind === 'fact' || by === 'owner' || by === 'system' || (by === 'office' && office)
  if (!mayGive)
    return refuse(
      'notOnCrew',
      'You are not on a crew at this site.',
      'Ask the dispatcher to put you on the visit. Facts you saw can be reported all the same.',
    )
  return decide(site, submission as never, context) as Decision<SiteEvent>
}
