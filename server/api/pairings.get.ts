import { jobs } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { companyPairing } from '../services/pairings'

export default defineRoute(jobs.readPairings, ({ viewer }) => companyPairing(viewer))
