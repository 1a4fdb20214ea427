import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { changeModel } from '../../services/company'

export default defineRoute(company.changeModel, ({ viewer, params, body }) => changeModel(viewer, params.id, body))
