import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listInstruments } from '../../services/instruments'

export default defineRoute(company.listInstruments, async ({ viewer }) => ({
  instruments: await listInstruments(viewer),
}))
