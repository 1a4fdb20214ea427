import type { Actor } from '../../stream'
import type { SiteState, WorkStop } from '../state'
import { stopWords } from '../words'

/** Who asks. */
export type Asker = Pick<Actor, 'personId' | 'licensed'>

/** What a decision needs from outside: the server's clock and the branch's time limit for a proof. */
export interface SafetyClock {
  now: string
  proofLimitMinutes: number
  /** On a phone without network: the last state the server acknowledged. Then only the offline rule counts. */
  known?: SiteState
  /** This device asked the server for something that loosens and never heard what came of it. */
  answerLost?: boolean
}

export type Answer = { yes: true; restsOn: string[] } | { yes: false; code: string; reasons: string[]; toYes: string[] }

export const no = (code: string, reasons: string[], toYes: string[]): Answer => ({ yes: false, code, reasons, toYes })
export const unknownAnswer = (site: SiteState): Answer =>
  no(
    'updateNeeded',
    [`This program does not understand an entry in the record of this site (${site.unknownEvent}).`],
    ['Update the app, then ask again.'],
  )

export const stopReason = ({ name, what }: WorkStop) => `${name} stopped the work here${what ? `: ${stopWords[what]}` : ''}.`
export const stoppedAnswer = ({ stop }: SiteState) =>
  stop ? no('workStopped', [stopReason(stop)], [`Hands off until ${stop.name} or a lead restarts work.`]) : null

export function minutesBetween(from: string, to: string): number {
  return (Date.parse(to) - Date.parse(from)) / 60_000
}
