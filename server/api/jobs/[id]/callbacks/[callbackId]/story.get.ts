import { jobs } from '../../../../../../core/protocol'
import { defineRoute } from '../../../../../http/route'
import { callbackStory } from '../../../../../services/returns'

export default defineRoute(jobs.callbackStory, ({ viewer, params }) => callbackStory(viewer, params.id, params.callbackId))
