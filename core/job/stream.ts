import { commandsThat, defineStream, refuse, type CommandsIn, type EventsIn } from '../stream'
import { inTrade } from '../units/trade-words'
import * as automation from './automation'
import * as box from './box'
import * as callback from './callback'
import type { JobContext, JobDecision } from './context'
import type { JobCommandMarks, JobEventMarks } from './define'
import * as handover from './handover'
import { emptyJob, type JobState } from './state'
import type { JobWords } from './telling'
import * as link from './link'
import * as pairing from './pairing'
import * as part from './part'
import * as point from './point'
import * as sale from './sale'
import * as shop from './shop'
import * as test from './test'
import * as unit from './unit'
import * as verification from './verification'
import * as visit from './visit'
import * as wiring from './wiring'

type Rooms =
  | typeof visit
  | typeof point
  | typeof box
  | typeof wiring
  | typeof unit
  | typeof test
  | typeof handover
  | typeof callback
  | typeof sale
  | typeof part
  | typeof shop
  | typeof automation
  | typeof pairing
  | typeof link
  | typeof verification

/** Everything a person can do to the record of a job. */
export type JobCommand = CommandsIn<Rooms>
export type JobCommandType = JobCommand['type']
/** Every kind of entry there is. */
export type JobEvent = EventsIn<Rooms>
export type JobEventType = JobEvent['type']

/** The record of a job: what was planned, done, tested, handed over and called back. */
export const jobStream = defineStream<JobState, JobContext, JobDecision, JobWords, JobEventMarks, JobCommandMarks>('job', {
  reducerVersion: 20,
  empty: emptyJob,
  rooms: [visit, point, box, wiring, unit, test, handover, callback, sale, part, shop, automation, pairing, link, verification],
  around(job, event, { material }, evolve) {
    evolve()
    if (material) job.materialSeq = event.seq
  },
})

/** What follows from something outside the record: nobody gives these by hand. */
export const jobSystemTypes = commandsThat(jobStream, ({ by }) => by === 'system')

/** Decides one command against the record of a job and the energy record of its site. A refusal is in the words of its supply. */
export function decideJob(job: JobState, command: JobCommand, context: JobContext): JobDecision {
  const decision = judge(job, command, context)
  return decision.ok ? decision : inTrade(decision, context.site.schemeId)
}
function judge(job: JobState, { type, ...submission }: JobCommand, context: JobContext): JobDecision {
  if (job.unknownEvent || context.site.unknownEvent)
    return refuse(
      'updateNeeded',
      `This program does not understand an entry in the record (${job.unknownEvent ?? context.site.unknownEvent}).`,
      'Update the program, then try again.',
    )
  if (job.seq === 0 && type !== 'openJob') return refuse('noSuchJob', 'There is no such job.')
  const rules = jobStream.commands.get(type)?.rules
  // Kept on a phone by an earlier program, perhaps.
  if (!rules) return refuse('unknownCommand', `This program does not know “${type}”.`, 'Enter it again.')
  const { by, decide } = rules
  const office = context.actor.role === 'dispatcher' || context.actor.role === 'lead'
  if (by === 'office' && !office) return refuse('officeOnly', 'Only the dispatcher or a lead can do this.', 'Ask the dispatcher.')
  if (!context.onCrew && (by === 'crew' || (by === 'crewOrOffice' && !office)))
    return refuse('notOnCrew', 'You are not on a visit of this job.', 'Ask the dispatcher to put you on it.')
  return decide(job, submission as never, context)
}
