import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { changeInstrument } from '../../services/instruments'

export default defineRoute(company.changeInstrument, ({ viewer, params, body }) => changeInstrument(viewer, params.id, body))
