import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listPeople } from '../../services/people'

export default defineRoute(people.listPeople, async ({ viewer }) => ({
  people: await listPeople(viewer),
}))
