import type { Actor } from '../../stream'
import type { SiteState, WorkStop } from '../state'
import { stopWords } from '../words'

/** Who asks. */
export type Asker = Pick<Actor, 'personId' | 'licensed'>

/**
 * From where a question is looked at: the server's clock, the branch's time limit for a proof, and what whoever asks cannot
 * see. Nothing is left out silently: with `acknowledged` the stricter offline rule is the one that answers.
 */
export interface Vantage {
  now: string
  proofLimitMinutes: number
  /** On a phone without network: the last state the server acknowledged, and only the offline rule counts. Null: as the server sees it. */
  acknowledged: SiteState | null
  /** This device asked the server for something that loosens and never heard what came of it. */
  outcomeUnknown: boolean
}

/** As the server looks at it: with everything that is known. */
export const atServer = (now: string, proofLimitMinutes: number): Vantage => ({
  now,
  proofLimitMinutes,
  acknowledged: null,
  outcomeUnknown: false,
})

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
