import { jobs } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { companyTriage } from '../services/triage'

export default defineRoute(jobs.readTriage, ({ viewer }) => companyTriage(viewer))
