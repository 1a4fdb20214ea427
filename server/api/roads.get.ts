import { dispatch } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { routing } from '../stand-ins/routing'

export default defineRoute(dispatch.readRoads, () => routing.roads())
