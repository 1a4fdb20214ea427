import { jobs } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { findUnits } from '../services/job-lists'

export default defineRoute(jobs.findUnits, async ({ viewer, query }) => ({ units: await findUnits(viewer, query.search) }))
