import { defineRoute } from '../../http/route'
import { addModel, newModelSchema } from '../../services/company'

export default defineRoute({ summary: 'Add a model.', access: ['dispatcher', 'lead'], body: newModelSchema }, ({ viewer, body }) =>
  addModel(viewer, body),
)
