import { idParam } from '../../http/params'
import { defineRoute } from '../../http/route'
import { changePerson, personChangeSchema } from '../../services/company'

export default defineRoute(
  { summary: 'Change a person; a new password or role ends their sessions.', access: ['lead'], params: idParam, body: personChangeSchema },
  ({ viewer, params, body }) => changePerson(viewer, params.id, body),
)
