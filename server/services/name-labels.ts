import { namedIn } from '../../core/job'
import { labelSheets, papers } from '../../core/names/labels'
import { jobFor, type Viewer } from './access'
import { ApiError } from './errors'
import { drawingPdf } from './pdf'
import { readState } from './streams'

/** The names of a job’s devices as labels for the wall, each with where it is. */
export async function nameLabels(viewer: Viewer, jobId: string): Promise<{ number: number; bytes: Buffer }> {
  const job = await jobFor(viewer, jobId)
  const [jobState, siteState] = await Promise.all([readState('job', job.id), readState('site', job.siteId)])
  const labels = namedIn(jobState, siteState).flatMap(({ name, room, at }) => (name ? [{ name, where: `${room} · ${at}` }] : []))
  if (!labels.length) throw new ApiError(409, 'noNames', 'No device of this job has a name yet: there is nothing to label.')
  const paper = siteState.schemeId === 'na120' ? 'letter' : 'a4'
  const bytes = await drawingPdf(`Names of job ${job.number}`, siteState.schemeId, labelSheets(labels, paper), papers[paper][0])
  return { number: job.number, bytes }
}
