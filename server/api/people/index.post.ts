import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { addPerson } from '../../services/company'

export default defineRoute(people.addPerson, ({ viewer, body }) => addPerson(viewer, body))
