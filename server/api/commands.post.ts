import { commandEnvelopeSchema } from '../../core/stream'
import { defineRoute } from '../http/route'
import { execute } from '../services/commands'

export default defineRoute(
  {
    summary:
      'Give one command to a job or a site. Answers with the stored outcome, accepted or refused; the same id again gives the same answer.',
    access: 'crew',
    body: commandEnvelopeSchema,
  },
  ({ viewer, body }) => execute(body, viewer),
)
