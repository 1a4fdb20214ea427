import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { addModel } from '../../services/catalogue'

export default defineRoute(company.addModel, ({ viewer, body }) => addModel(viewer, body))
