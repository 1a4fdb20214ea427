import { jobs } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { findUnits } from '../services/jobs'

export default defineRoute(jobs.findUnits, async ({ viewer, query }) => ({ units: await findUnits(viewer, query.search) }))
