import { jobs } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { otherNames } from '../../../services/other-names'

export default defineRoute(jobs.otherNames, ({ viewer, params }) => otherNames(viewer, params.id))
