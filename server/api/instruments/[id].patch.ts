import { idParam } from '../../http/params'
import { defineRoute } from '../../http/route'
import { changeInstrument, instrumentChangeSchema } from '../../services/company'

export default defineRoute(
  { summary: 'Change a tester, or take it out of use.', access: ['dispatcher', 'lead'], params: idParam, body: instrumentChangeSchema },
  ({ viewer, params, body }) => changeInstrument(viewer, params.id, body),
)
