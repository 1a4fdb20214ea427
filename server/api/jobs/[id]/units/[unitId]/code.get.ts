import { z } from 'zod'
import { defineRoute } from '../../../../../http/route'
import { setupCodeOf } from '../../../../../services/jobs'

export default defineRoute(
  { summary: 'The setup code of a device. Every reading is logged.', access: 'crew', params: z.object({ id: z.uuid(), unitId: z.uuid() }) },
  ({ viewer, params }) => setupCodeOf(viewer, params.id, params.unitId),
)
