import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { changeModel } from '../../services/catalogue'

export default defineRoute(company.changeModel, ({ viewer, params, body }) => changeModel(viewer, params.id, body))
