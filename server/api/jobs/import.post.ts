import { z } from 'zod'
import { jobFileSchema } from '../../../core/format'
import { defineRoute } from '../../http/route'
import { checkIntake, knownHomes, openJob } from '../../services/intake'

const text = z.string().min(1).max(1_500_000)
const head = jobFileSchema.pick({ job: true, customer: true, site: true })
const body = z.object({
  branchId: z.uuid(),
  siteId: z.uuid().nullable().default(null),
  /** It is another home, although one on record looks like it. */
  newHome: z.boolean().default(false),
  /** Only say what is in it or what is wrong; store nothing. */
  checkOnly: z.boolean().default(false),
  source: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('json'), text }),
    z.object({ kind: z.literal('csv'), text, head }),
    z.object({ kind: z.literal('file'), file: jobFileSchema }),
  ]),
})

export default defineRoute(
  {
    summary: 'Open a job from a job file, a CSV of points or the form. A broken file answers 422 with every problem and imports nothing.',
    access: ['dispatcher', 'lead'],
    body,
  },
  async ({ viewer, body: { checkOnly, ...request } }) => {
    if (!checkOnly) return openJob(request, viewer)
    const file = checkIntake(request.source)
    return {
      knownHomes: await knownHomes(file, viewer.companyId),
      title: file.job.title,
      rooms: file.rooms.length,
      boxes: file.boxes.length,
      points: file.points.length,
      breakers: file.panels.reduce((sum, panel) => sum + panel.breakers.length, 0),
    }
  },
)
