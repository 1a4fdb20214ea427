import { requests } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { askFor } from '../../services/requests'

export default defineRoute(requests.askFor, ({ viewer, body }) => askFor(viewer, body))
