import { defineRoute } from '../../http/route'
import { addInstrument, newInstrumentSchema } from '../../services/company'

export default defineRoute({ summary: 'Add a tester.', access: ['dispatcher', 'lead'], body: newInstrumentSchema }, ({ viewer, body }) =>
  addInstrument(viewer, body),
)
