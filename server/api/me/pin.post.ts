import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { setPin } from '../../services/pins'

export default defineRoute(people.setPin, ({ viewer, body }) => setPin(viewer, body))
