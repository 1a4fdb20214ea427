import { defineRoute } from '../../http/route'
import { listPeople } from '../../services/company'

export default defineRoute({ summary: 'People of the company; technicians see their branch.', access: 'crew' }, async ({ viewer }) => ({
  people: await listPeople(viewer),
}))
