import { decideJob, installedGangs, jobStream, type JobCommand, type JobDecision, type JobState } from '../../core/job'
import type { DeviceModel } from '../../core/fit'
import type { Viewer } from '../../core/protocol'
import {
  atServer,
  decideSite,
  siteStream,
  underTodaysName,
  type InstrumentSnapshot,
  type SiteCommand,
  type SiteState,
} from '../../core/site'
import type { Actor, CommandEnvelope, Refusal } from '../../core/stream'
import { gtinIn } from '../../core/stock/scan'
import { forbiddenHere, showUnsent } from '../../core/stream/client'
import type { BranchSettings } from '../../core/units'
import { dateHere } from '../utils/time'

interface States {
  job: JobState
  site: SiteState
}
/** Of the session: who is signed in, and what the company has. */
interface Session {
  viewer: Viewer | null
  instruments: (InstrumentSnapshot & { id: string })[]
  catalogue: DeviceModel[]
  people: { id: string }[]
}
interface Here {
  session: Session
  settings: BranchSettings
  /** When it was done, by the server's time. */
  madeAt: string
}
const actorOf = ({ viewer }: Session): Actor => {
  const { personId, name, initials, role, licensed } = viewer!
  return { personId, name, initials, role, licensed }
}

/** Decides a command on the record as it is on this device. What only the server can know is taken to be in its favour. */
function decideHere({ job, site }: States, { stream, command }: CommandEnvelope, { session, settings, madeAt }: Here): JobDecision {
  const common = { actor: actorOf(session), onCrew: true, ...atServer(madeAt, settings.proofLimitMinutes) }
  if (stream === 'site') {
    const decision = decideSite(site, command as unknown as SiteCommand, {
      ...common,
      // Whether somebody may witness is the server's to say.
      onVisit: true,
      everyPair: settings.proofEveryPair,
      // The phone is where the site is.
      today: dateHere(madeAt),
      basedOnSeq: site.understoodSeq,
      heldMs: 0,
      instrument: (id) => session.instruments.find((one) => one.id === id) ?? null,
      installedGangs: (boxId) => installedGangs(job, boxId),
    })
    return decision.ok ? { ok: true, events: [], siteEvents: decision.events } : decision
  }
  return decideJob(job, command as unknown as JobCommand, {
    ...common,
    jobSeq: job.seq,
    heldMs: 0,
    site,
    method: settings,
    model: (id) => session.catalogue.find((one) => one.id === id) ?? null,
    hasPhoto: () => true,
    isPerson: (id) => session.people.some((one) => one.id === id),
    bookedElsewhere: [],
    otherNames: [],
    serialInUse: () => false,
    failedAnywhere: () => null,
    elsewhereAt: (boxId) => ({ installed: installedGangs(job, boxId).length > 0, otherJobs: 0 }),
    findings: null,
    judgePlan: null,
    // What lies where, and what the list says, the server knows: the screen has compared what was scanned.
    stock: {
      place: () => 'store or van',
      article: () => {
        const { name = '', scanned = '' } = command as { name?: string; scanned?: string }
        return { name, gtin: gtinIn(scanned) ?? '', bin: true, refId: null }
      },
      level: () => null,
    },
    unseal: null,
    // Not sealed yet: only the server can. It is not shown either.
    seal: () => '',
  })
}

/** Why this may not be kept for later: see `forbiddenHere` of core. */
export function forbiddenOn(states: States, envelope: CommandEnvelope, here: Here): Refusal | null {
  const isFact = envelope.stream === 'site' && siteStream.commands.get(underTodaysName(envelope.command).type)?.rules.kind === 'fact'
  return forbiddenHere(decideHere(states, envelope, here), isFact)
}

/** Shows on top of a record what an unsent command would make of it. The server decides again when it is sent. */
export function foldUnsent(states: States, envelope: CommandEnvelope, here: Here): void {
  const decision = decideHere(states, envelope, here)
  if (!decision.ok) return
  const { id: commandId, streamId, at } = envelope
  const frame = { streamId, commandId, at, receivedAt: here.madeAt, actor: actorOf(here.session) }
  showUnsent(siteStream, states.site, { ok: true, events: decision.siteEvents }, frame)
  showUnsent(jobStream, states.job, decision, frame)
}
