import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { changePart } from '../../services/catalogue'

export default defineRoute(company.changePart, ({ viewer, params, body }) => changePart(viewer, params.id, body))
