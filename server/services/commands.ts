import { jobSystemTypes } from '../../core/job'
import { pinTypes, systemTypes, underTodaysName } from '../../core/site'
import { commandEnvelopeSchema, plainProblem, type CommandEnvelope, type Outcome } from '../../core/stream'
import { jobFor, siteFor, viewerOf, type Viewer } from './access'
import type { Asked } from './asked'
import { submit } from './company-writer'
import { settingsOf } from './branch-rules'
import { ApiError } from './errors'
import type { SeveralAnswer } from '../../core/protocol/record'
import { checkPin } from './pins'
import { reconcileSites } from './reconcile'
import { parseCommand } from './write-command'

/** Whoever gives this command: the sender, or a crew mate on the sender's device with their own PIN. */
async function actingPerson(envelope: CommandEnvelope, sender: Viewer): Promise<Viewer> {
  if (!envelope.onBehalf) return sender
  const { type } = underTodaysName(envelope.command)
  if (envelope.stream !== 'site' || !pinTypes.has(type))
    throw new ApiError(403, 'notByPin', 'This is not done with a PIN on somebody else’s device.')
  const person = await checkPin(sender.companyId, envelope.onBehalf.personId, envelope.onBehalf.pin)
  return { ...(await viewerOf(person)), via: { personId: sender.personId, initials: sender.initials } }
}

/** Reads what is asked and what it is asked of. Throws ApiError for what is no decision: not found, not yours, not a command. */
export async function readAsked(envelope: CommandEnvelope, sender: Viewer, now = new Date()): Promise<Asked> {
  const viewer = await actingPerson(envelope, sender)
  const [row, own] = await Promise.all([
    envelope.stream === 'site' ? siteFor(viewer, envelope.streamId) : jobFor(viewer, envelope.streamId),
    settingsOf(viewer.branchId),
  ])
  if ((envelope.stream === 'site' ? systemTypes : jobSystemTypes).has(envelope.command.type))
    throw new ApiError(403, 'notByHand', 'This follows from something else, and is not given by hand.')
  const command = parseCommand(envelope)
  // A guest works by the rules of the branch they help.
  const settings = row.branchId === viewer.branchId ? own : await settingsOf(row.branchId)
  return { envelope, command, viewer, now, row, settings }
}

/**
 * Takes one command: decides it against the locked state and stores events, outcome and rows together. The same id
 * again gives the stored outcome. Throws ApiError as `readAsked` does.
 */
export async function execute(envelope: CommandEnvelope, sender: Viewer, now?: Date): Promise<Outcome> {
  const asked = await readAsked(envelope, sender, now)
  const { outcome, testerFailed } = await submit(asked)
  if (testerFailed) await reconcileSites(asked.viewer.companyId, asked.viewer, asked.now)
  return outcome
}

/** Takes several commands in their order. Ends at the first that the server cannot do just now: nothing overtakes it. */
export async function executeSeveral(given: unknown[], sender: Viewer): Promise<SeveralAnswer[]> {
  const answers: SeveralAnswer[] = []
  for (const one of given) {
    const read = commandEnvelopeSchema.safeParse(one, { error: plainProblem })
    if (!read.success) {
      const said = read.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`).join(' ')
      answers.push({ problem: { status: 400, code: 'badRequest', message: `Something in the request is missing or wrong. ${said}` } })
      continue
    }
    try {
      answers.push({ outcome: await execute(read.data, sender) })
    } catch (error) {
      if (!(error instanceof ApiError)) {
        if (answers.length === 0) throw error
        return answers
      }
      answers.push({ problem: { status: error.status, code: error.code, message: error.message } })
    }
  }
  return answers
}
