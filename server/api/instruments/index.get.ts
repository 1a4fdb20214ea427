import { defineRoute } from '../../http/route'
import { listInstruments } from '../../services/company'

export default defineRoute({ summary: 'Testers with their calibration dates.', access: 'crew' }, async ({ viewer }) => ({
  instruments: await listInstruments(viewer),
}))
