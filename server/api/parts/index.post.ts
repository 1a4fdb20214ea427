import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { addPart } from '../../services/catalogue'

export default defineRoute(company.addPart, ({ viewer, body }) => addPart(viewer, body))
