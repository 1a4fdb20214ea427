import { UniqueConstraintError } from 'sequelize'
import { pinTypes, systemTypes, type SiteCommand } from '../../core/site'
import type { CommandEnvelope, Outcome } from '../../core/stream'
import { database } from '../database'
import { jobFor, siteFor, viewerOf, type Viewer } from './access'
import { settingsOf } from './decision-context'
import { ApiError } from './errors'
import { checkPin } from './pins'
import { reconcileSites } from './reconcile'
import { publish, writeCommand, type Written } from './write-command'

/** Whoever gives this command: the sender, or a crew mate on the sender's device with their own PIN. */
async function actingPerson(envelope: CommandEnvelope, sender: Viewer, now: Date): Promise<Viewer> {
  if (!envelope.onBehalf) return sender
  const { type } = envelope.command
  if (envelope.stream !== 'site' || !pinTypes.has(type as SiteCommand['type']))
    throw new ApiError(403, 'notByPin', 'This is not done with a PIN on somebody else’s device.')
  const person = await checkPin(sender.companyId, envelope.onBehalf.personId, envelope.onBehalf.pin, now)
  return { ...(await viewerOf(person)), via: { personId: sender.personId, initials: sender.initials } }
}

/**
 * Takes one command: decides it against the locked state and stores events, outcome and rows together. The same id
 * again gives the stored outcome. Throws ApiError for what is no decision: not found, not yours, not a command.
 */
export async function execute(envelope: CommandEnvelope, sender: Viewer, now = new Date()): Promise<Outcome> {
  const viewer = await actingPerson(envelope, sender, now)
  const row = envelope.stream === 'site' ? await siteFor(viewer, envelope.streamId) : await jobFor(viewer, envelope.streamId)
  if (envelope.stream === 'site' && systemTypes.has(envelope.command.type as SiteCommand['type']))
    throw new ApiError(403, 'notByHand', 'This follows from the register, and is not given by hand.')
  const settings = await settingsOf(row.branchId)
  const write = () =>
    database().sequelize.transaction((transaction) => writeCommand(envelope.stream, row, settings, { envelope, viewer, now }, transaction))
  let written: Written
  try {
    written = await write()
  } catch (error) {
    if (!(error instanceof UniqueConstraintError)) throw error
    // Somebody else stored the same serial or the same command id a moment earlier: decide once more on what is there now.
    written = await write().catch((again: unknown) => {
      throw again instanceof UniqueConstraintError
        ? new ApiError(409, 'idTaken', 'Something else already has this id. Nothing was stored; try again.')
        : again
    })
  }
  publish(viewer.companyId, [written])
  if (written.testerFailed) await reconcileSites(viewer.companyId, viewer, now)
  return written.outcome
}
