import type { Content } from 'pdfmake/interfaces'
import { bagsOf, leftInShop, type Bag } from '../../core/job'
import { regionOf } from '../../core/units'
import { database } from '../database'
import { jobFor, siteFor, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { ApiError } from './errors'
import { makePdf, soft } from './pdf'
import { readState } from './streams'

const columns = 2

/** One label: where the bag goes, what is in it, and a square code that opens the box on a phone. */
function label({ box, room, devices, plate, splices }: Bag, home: string, link: string): Content {
  const bins = splices.map(({ conductors, count }) => `${count} × for ${conductors}`).join(', ')
  return {
    unbreakable: true,
    columns: [
      {
        width: '*',
        stack: [
          { text: `${room} · ${box.name}`, bold: true, fontSize: 13 },
          { text: home, color: soft, fontSize: 8.5 },
          ...devices.map(({ gang, model, points, unit }): Content => ({
            margin: [0, 4, 0, 0],
            text: [
              { text: `${box.gangs > 1 ? `Gang ${gang}: ` : ''}${model.maker} ${model.name}`, bold: true },
              `\n${points.join(', ') || 'companion'}`,
              unit ? `\nserial ${unit.serial}${leftInShop(unit).length ? ', not ready' : ''}` : '\nno device in it yet',
            ],
          })),
          { margin: [0, 4, 0, 0], text: `Plate: ${plate ?? 'see on site'}${bins ? `\nConnectors: ${bins}` : ''}` },
        ],
      },
      { width: 76, qr: link, fit: 74, alignment: 'right' },
    ],
    columnGap: 8,
    margin: [0, 4, 0, 8],
  }
}

/** @param origin where this program is reached, for the square codes */
export async function bagLabels(viewer: Viewer, jobId: string, origin: string): Promise<{ number: number; bytes: Buffer }> {
  const job = await jobFor(viewer, jobId)
  const [site, branch, company, jobState, siteState] = await Promise.all([
    siteFor(viewer, job.siteId),
    database().models.branches.findByPk(job.branchId),
    database().models.companies.findByPk(job.companyId),
    readState('job', job.id),
    readState('site', job.siteId),
  ])
  const labels = bagsOf(jobState, siteState).map((bag) =>
    label(bag, `${site.name} · job ${job.number}`, `${origin}/jobs/${job.id}/box/${bag.box.id}`),
  )
  if (!labels.length) throw new ApiError(409, 'noBags', 'No box of this job waits for a device: there is nothing to label.')
  const rows = Array.from({ length: Math.ceil(labels.length / columns) }, (_, row) =>
    Array.from({ length: columns }, (_, column) => labels[row * columns + column] ?? ''),
  )
  const bytes = await makePdf({
    title: `Labels of job ${job.number}`,
    company: company!.name,
    footer: `${company!.name}, ${branch!.name} · job ${job.number}`,
    schemeId: siteState.schemeId,
    region: regionOf({ ...branch!, settings: rulesOf(branch!) }),
    content: [
      {
        table: { widths: ['*', '*'], dontBreakRows: true, body: rows },
        layout: 'grid',
      },
    ],
  })
  return { number: job.number, bytes }
}
