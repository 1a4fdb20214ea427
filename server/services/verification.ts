import type { Content } from 'pdfmake/interfaces'
import { boxesOfJob, permitDayWords, permitWords } from '../../core/job'
import { breakerName, inPanelOrder } from '../../core/site'
import { dateIn, momentOf, supplySchemes } from '../../core/units'
import { judgeCircuit } from '../../core/verification'
import { jobFor, type Viewer } from './access'
import { ApiError } from './errors'
import { paperOfHome } from './job-paper'
import { heading, makePdf, soft, table } from './pdf'

const words = { pass: 'passes', fail: 'DOES NOT PASS', missing: 'not measured' }

/**
 * The paper of what was measured on the circuits that were worked on. A circuit without readings stands on it as that.
 * @throws ApiError 409 where nothing was measured
 */
export async function verificationPaper(viewer: Viewer, jobId: string): Promise<{ number: number; bytes: Buffer }> {
  const row = await jobFor(viewer, jobId)
  const { siteRow, customer, branch, company, job, site, region } = await paperOfHome(viewer, row)
  const verified = job.verified ?? {}
  if (!Object.keys(verified).length) throw new ApiError(409, 'nothingMeasured', 'No circuit was measured yet: there is nothing to print.')
  const worked = boxesOfJob(job, site).flatMap(({ breakerIds }) => breakerIds)
  const breakers = [...new Set([...worked, ...Object.keys(verified)])].flatMap((id) => site.breakers[id] ?? []).sort(inPanelOrder)
  const circuits = breakers.flatMap((breaker): Content[] => {
    const found = verified[breaker.id]
    const title = heading(`${breakerName(site, breaker)}${breaker.amps ? `, ${breaker.amps} A` : ''}`)
    if (!found) return [title, { text: 'Not measured.', bold: true }]
    const lines = judgeCircuit(found.readings, found)
    return [
      title,
      table(
        ['Check', 'Read', 'Limit', 'Result'],
        lines.map(({ text, read, limit, result }) => [text, read || '-', limit, words[result]]),
        ['*', 90, 110, 90],
      ),
      {
        text: `${found.name}, ${momentOf(found.at, region)}, with ${found.instrument}. Loop limit: ${found.volts} V over the current at which the {breaker} trips at once, times ${Number(found.share.toFixed(2))} for a cold circuit.${found.note ? ` ${found.note}` : ''}`,
        color: soft,
        margin: [0, 3, 0, 0],
      },
    ]
  })
  const bytes = await makePdf({
    title: `Verification, job ${row.number}`,
    footer: `${company.name} · job ${row.number}`,
    company: company.name,
    schemeId: branch.schemeId,
    region,
    content: [
      { text: 'Verification of the circuits that were worked on', style: 'title' },
      { text: `${siteRow.name}, ${siteRow.address}`, fontSize: 13, margin: [0, 4, 0, 0] },
      {
        text: `${customer.name} · ${company.name}, ${branch.name} · ${supplySchemes[site.schemeId].name} · made ${momentOf(new Date().toISOString(), region)}`,
        color: soft,
        margin: [0, 2, 0, 0],
      },
      ...(job.permit && job.permit.state !== 'none'
        ? [
            {
              text: `Permit ${job.permit.number}: ${permitWords[job.permit.state]}${job.permit.on ? `, ${permitDayWords[job.permit.state]} ${dateIn(job.permit.on, region.locale)}` : ''}.`,
              margin: [0, 6, 0, 0],
            } as Content,
          ]
        : []),
      ...circuits,
      {
        text: 'Measured after IEC 60364-6; limits of IEC 60364-4-41, IEC 60898-1 and IEC 61008-1. Only the circuits named here were measured. Where local rules ask for a form of their own, this paper does not replace it. The licensed person decides.',
        color: soft,
        margin: [0, 16, 0, 0],
      },
    ],
  })
  return { number: row.number, bytes }
}
