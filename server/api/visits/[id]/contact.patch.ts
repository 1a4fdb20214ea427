import { promises } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { changeContact } from '../../../services/messages'

export default defineRoute(promises.changeContact, ({ viewer, params, body }) => changeContact(viewer, params.id, body))
