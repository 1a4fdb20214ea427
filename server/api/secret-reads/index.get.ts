import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listSecretReads } from '../../services/need-to-know'

export default defineRoute(people.listSecretReads, ({ viewer }) => listSecretReads(viewer))
