import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { addInstrument } from '../../services/instruments'

export default defineRoute(company.addInstrument, ({ viewer, body }) => addInstrument(viewer, body))
