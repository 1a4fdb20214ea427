import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { addPerson } from '../../services/people'

export default defineRoute(people.addPerson, ({ viewer, body }) => addPerson(viewer, body))
