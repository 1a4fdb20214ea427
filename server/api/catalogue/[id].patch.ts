import { idParam } from '../../http/params'
import { defineRoute } from '../../http/route'
import { changeModel, modelChangeSchema } from '../../services/company'

export default defineRoute(
  { summary: 'Change a model, or take it out of use.', access: ['dispatcher', 'lead'], params: idParam, body: modelChangeSchema },
  ({ viewer, params, body }) => changeModel(viewer, params.id, body),
)
