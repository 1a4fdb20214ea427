import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { changePerson } from '../../services/people'

export default defineRoute(people.changePerson, ({ viewer, params, body }) => changePerson(viewer, params.id, body))
