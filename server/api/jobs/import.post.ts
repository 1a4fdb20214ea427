import { jobs } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { branchFor } from '../../services/access'
import { checkIntake, knownHomes, openJob } from '../../services/intake'

export default defineRoute(jobs.importJob, async ({ viewer, body: { checkOnly, ...request } }) => {
  if (!checkOnly) return openJob(request, viewer)
  const { schemeId } = await branchFor(viewer, request.branchId)
  const file = await checkIntake(request.source, schemeId)
  return {
    knownHomes: await knownHomes(file, viewer.companyId),
    title: file.job.title,
    rooms: file.rooms.length,
    boxes: file.boxes.length,
    points: file.points.length,
    breakers: file.panels.reduce((sum, panel) => sum + panel.breakers.length, 0),
  }
})
