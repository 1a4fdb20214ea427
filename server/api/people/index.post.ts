import { defineRoute } from '../../http/route'
import { addPerson, newPersonSchema } from '../../services/company'

export default defineRoute({ summary: 'Add a person.', access: ['lead'], body: newPersonSchema }, ({ viewer, body }) =>
  addPerson(viewer, body),
)
