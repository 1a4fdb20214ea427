import { requests } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { importAway } from '../../../services/requests'

export default defineRoute(requests.importAway, ({ viewer, params, body }) => importAway(viewer, params.id, body.text))
