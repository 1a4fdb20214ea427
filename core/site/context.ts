import type { Actor } from '../stream/envelope'
import type { InstrumentSnapshot } from './parts.schema'
import type { Vantage } from './permissions'

/** What the record of a site cannot know by itself. */
export interface SiteContext extends Vantage {
  actor: Actor
  /** The date at the site, for calibrations that end with a day. */
  today: string
  /** Works on a job at this site today or leads the branch. */
  onCrew: boolean
  /** On a visit of this site that is due today: only such a person witnesses. */
  onVisit: boolean
  /** The company reads every pair of conductors in a dead test. */
  everyPair: boolean
  /** The newest seq the client had seen when the person acted. */
  basedOnSeq: number
  /** How long the command waited on a phone without network, ms. */
  heldMs: number
  /** Register entry of an instrument, or null when the company has no such instrument. */
  instrument(id: string): InstrumentSnapshot | null
  /** Gangs of a box in which a device of any job is installed now. What a phone knows of is its own job’s. */
  installedGangs(boxId: string): number[]
}

/** Waited on a phone without network: it says how things were, not how they are. */
export const waited = ({ heldMs }: Pick<SiteContext, 'heldMs'>) => heldMs > longestHoldMs

/** A question goes out at once or not at all, ms. Common practice, no source. */
const longestHoldMs = 60_000
