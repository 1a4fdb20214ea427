import { DateTime } from 'luxon'
import { decideJob, jobStream, type JobCommand, type JobState } from '../../core/job'
import { decideSite, siteStream, type SiteCommand, type SiteState } from '../../core/site'
import type { CommandEnvelope } from '../../core/stream'
import { showUnsent } from '../../core/stream/client'
import type { BranchSettings } from '../../core/units'

/**
 * Shows on top of a record what an unsent command would make of it. The server decides again when it is sent; what it
 * would refuse already here is simply not shown.
 */
export function foldUnsent(
  states: { job: JobState; site: SiteState },
  envelope: CommandEnvelope,
  session: ReturnType<typeof useSession>,
  settings: BranchSettings,
  madeAt: string,
): void {
  const { personId, name, initials, role, licensed } = session.viewer!
  const actor = { personId, name, initials, role, licensed }
  const common = { actor, onCrew: true, now: madeAt, proofLimitMinutes: settings.proofLimitMinutes }
  const frame = { streamId: envelope.streamId, commandId: envelope.id, at: envelope.at, receivedAt: madeAt, actor }
  if (envelope.stream === 'site') {
    const decision = decideSite(states.site, envelope.command as unknown as SiteCommand, {
      ...common,
      // Whether somebody may witness is the server's to say.
      onVisit: true,
      everyPair: settings.proofEveryPair,
      // The phone is where the site is.
      today: DateTime.fromISO(madeAt).toISODate()!,
      basedOnSeq: states.site.understoodSeq,
      heldMs: 0,
      instrument: (id) => session.instruments.find((one) => one.id === id) ?? null,
    })
    showUnsent(siteStream, states.site, decision, frame)
    return
  }
  const decision = decideJob(states.job, envelope.command as unknown as JobCommand, {
    ...common,
    jobSeq: states.job.seq,
    heldMs: 0,
    site: states.site,
    method: settings,
    model: (id) => session.catalogue.find((one) => one.id === id) ?? null,
    hasPhoto: () => true,
    isPerson: (id) => session.people.some((one) => one.id === id),
    bookedElsewhere: [],
    otherNames: [],
    serialInUse: () => false,
    findings: null,
    judgePlan: null,
    unseal: null,
    // Not sealed yet: only the server can. It is not shown either.
    seal: () => '',
  })
  if (decision.ok) showUnsent(siteStream, states.site, { ok: true, events: decision.siteEvents }, frame)
  showUnsent(jobStream, states.job, decision, frame)
}
