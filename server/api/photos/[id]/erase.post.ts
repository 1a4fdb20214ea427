import { erasures } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { erasePicture } from '../../../services/erasures'

export default defineRoute(erasures.erasePicture, ({ viewer, params }) => erasePicture(viewer, params.id))
