import { refuse, type Decision } from '../stream'
import { boxHandlers } from './decide-box'
import { crewHandlers } from './decide-crew'
import { powerHandlers } from './decide-power'
import { proofHandlers } from './decide-proof'
import { waited, type Handlers, type SiteContext } from './decide-context'
import type { SiteCommand, SiteCommandType, SiteEvent } from './schema'
import type { SiteState } from './state'

const handlers: Handlers<SiteCommandType> = { ...boxHandlers, ...powerHandlers, ...proofHandlers, ...crewHandlers }

/** Facts are taken from anybody who sees the site; everything else needs a place on its crew. */
export const factTypes: ReadonlySet<SiteCommandType> = new Set([
  'observeBreaker',
  'observeLive',
  'recordTripCause',
  'tieNeutrals',
  'openBox',
  'confirmStopped',
  'stopWork',
  'tellStop',
  'showAlarm',
  'confirmAbsent',
  'recordSource',
  'leaveSite',
])
const officeTypes: ReadonlySet<SiteCommandType> = new Set([
  'layOut',
  'markOffLimits',
  'declareAbsent',
  'withdrawAbsent',
  'notePerson',
  'noteInstrumentFailed',
  'endStop',
])
/** What follows from a change elsewhere in the company: nobody gives these by hand. */
export const systemTypes: ReadonlySet<SiteCommandType> = new Set(['notePerson', 'noteInstrumentFailed'])
/** What only its owner does: whoever left a visit must still be able to take their own things back. */
const ownerTypes: ReadonlySet<SiteCommandType> = new Set([
  'removeTag',
  'answerGrant',
  'abandonProof',
  'confirmClear',
  'withdrawAsk',
  'endMeasuring',
  'withdrawAbsent',
  'checkIn',
  'endSolo',
  'endStop',
])
/** What a person may do on a crew mate's device with their own PIN: phones die, tags do not. */
export const pinTypes: ReadonlySet<SiteCommandType> = new Set([
  'removeTag',
  'rehangTag',
  'answerGrant',
  'confirmClear',
  'witnessProof',
  'abandonProof',
  'checkIn',
  'confirmStopped',
  'confirmAbsent',
])

/** Permissions are for now: what waited on a phone without network is asked again. No breaker is closed from a queue. */
export const onlineTypes: ReadonlySet<SiteCommandType> = new Set([
  'requestClose',
  'askEnergise',
  'askOpen',
  'confirmClear',
  'witnessProof',
  'startMeasuring',
  'observeRound',
  'rehangTag',
  'declareAbsent',
])
/**
 * What takes the ground from under one's own hands. From the tap on the server may have it, and others may go by it, whatever
 * becomes of the answer: nothing is touched until that is known (`answerLost`).
 */
export const givesUpTypes: ReadonlySet<string> = new Set<SiteCommandType>(['confirmClear', 'requestClose', 'removeTag'])
/** What may wait on a phone without network and is sent later: facts, own tests and own work. */
export const keepableSiteTypes: ReadonlySet<string> = new Set<SiteCommandType>([
  'observeBreaker',
  'observeLive',
  'recordTripCause',
  'hangTag',
  'removeTag',
  'setFeeds',
  'tieNeutrals',
  'openBox',
  'closeBox',
  'guardBox',
  'recordConductors',
  'startProof',
  'seeReference',
  'takeReading',
  'sweepReadings',
  'finishProof',
  'abandonProof',
  'answerGrant',
  'partNeutral',
  'testParted',
  'recheckTester',
  'moveReading',
  'recordSource',
  'showAlarm',
  'checkIn',
  'confirmStopped',
  'stopWork',
  'tellStop',
])
/** Decides one command against the energy record of a site. */
export function decideSite(site: SiteState, command: SiteCommand, context: SiteContext): Decision<SiteEvent> {
  if (site.unknownEvent && !factTypes.has(command.type))
    return refuse(
      'updateNeeded',
      `This program does not understand an entry in the site's record (${site.unknownEvent}).`,
      'Update the program, then try again.',
    )
  const office = context.actor.role === 'dispatcher' || context.actor.role === 'lead'
  if (onlineTypes.has(command.type) && waited(context))
    return refuse('onlineOnly', 'This waited without network: things may have changed.', 'Look at the power as it is now, and ask again.')
  if (command.type === 'layOut' && !office) return refuse('officeOnly', 'Only the dispatcher or a lead lays out a site.')
  if (
    !context.onCrew &&
    !systemTypes.has(command.type) &&
    !factTypes.has(command.type) &&
    !ownerTypes.has(command.type) &&
    !(office && officeTypes.has(command.type))
  )
    return refuse(
      'notOnCrew',
      'You are not on a crew at this site.',
      'Ask the dispatcher to put you on the visit. Facts you saw can be reported all the same.',
    )
  const handler = handlers[command.type] as (site: SiteState, command: SiteCommand, context: SiteContext) => Decision<SiteEvent>
  return handler(site, command, context)
}
