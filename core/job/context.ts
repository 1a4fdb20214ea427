import type { ConnectionMethod } from '../connect/steps'
import type { DeviceModel } from '../fit/device-schema'
import type { Vantage } from '../site/permissions'
import type { SiteState } from '../site/state'
import type { Actor, EventDraft, Refusal } from '../stream/envelope'
import type { BranchSettings } from '../units/branch-settings'
import type { Findings } from '../wiring/identify/identify'
import type { WiringPlan } from '../wiring/plan/plan-schema'
import type { PlanJudgement } from './box-bench'
import type { JobState } from './state'

/** What the record of a job cannot know by itself. */
export interface JobContext extends Vantage {
  actor: Actor
  /** On the crew of a visit of this job, or leads the branch. */
  onCrew: boolean
  /** The newest seq of this record the client had seen, or null when it holds none. */
  jobSeq: number | null
  /** How long it waited on a phone without network, ms. */
  heldMs: number
  site: SiteState
  method: ConnectionMethod & Pick<BranchSettings, 'testsWiresOut' | 'loopShare'>
  /** Catalogue entry of the company, or null. */
  model(id: string): DeviceModel | null
  /** Does this uploaded photo belong to the job? */
  hasPhoto(id: string): boolean
  /** People of the branch, by id. */
  isPerson(id: string): boolean
  /** People of the visit who are on another one at its time, or away (`what`: why); the times in words of the branch. */
  bookedElsewhere: { name: string; what: string; from: string; to: string; away?: true }[]
  /** Names of units that other jobs installed in the same home. */
  otherNames: string[]
  /** What others have at a box: a device of any job installed there now, and how many other open jobs work at it. */
  elsewhereAt(boxId: string): { installed: boolean; otherJobs: number }
  /** Serials already in use at the company. */
  serialInUse(serial: string): boolean
  /** What the shop saw wrong with this device last, for whichever job; null: nothing, or nobody here knows. */
  failedAnywhere(serial: string): string | null
  /**
   * What the readings at a box establish. Null on a device: its bench has just worked it out, the device keeps the entry, and
   * the server looks again when it arrives. (The identification is too large to load for every page of the field.)
   */
  findings: ((job: JobState, site: SiteState, boxId: string) => Findings | null) | null
  /** What stands against a plan, by every state of the home; null on a device, as for `findings`. */
  judgePlan: ((job: JobState, site: SiteState, boxId: string, plan: WiringPlan) => PlanJudgement) | null
  /** Places and articles of the branch; how many a place has by the record, null where nobody here knows. */
  stock: {
    place(id: string): string | null
    article(id: string): { name: string; gtin: string; bin: boolean; refId: string | null } | null
    level(placeId: string, articleId: string): number | null
  }
  /** Encrypts a secret for the record. */
  seal(secret: string): string
  /** Opens one again; null on a device, which has no key. */
  unseal: ((sealed: string) => string) | null
}

/** A job decision may carry events for the site's energy record too; both are stored together or not at all. */
export type JobDecision = { ok: true; events: EventDraft[]; siteEvents: EventDraft[] } | { ok: false; refusal: Refusal }

export const done = (...events: EventDraft[]): JobDecision => ({ ok: true, events, siteEvents: [] })
