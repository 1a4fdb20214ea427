import { promises } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { readContact } from '../../../services/messages'

export default defineRoute(promises.readContact, ({ viewer, params }) => readContact(viewer, params.id))
