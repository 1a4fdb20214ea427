import { erasures } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { eraseDuePictures } from '../../services/erasures'

export default defineRoute(erasures.eraseDuePictures, ({ viewer }) => eraseDuePictures(viewer))
