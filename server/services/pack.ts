import {
  boxesOfJob,
  checksFor,
  currentUnits,
  flagWords,
  predictedAndSeen,
  asFoundBoxOf,
  wiringOf,
  handoverChecklist,
  openDefects,
  restsOn,
  pointsInOrder,
  pointStatus,
  technologyWords,
  testResults,
  type JobState,
} from '../../core/job'
import { boxFaultWords, inPanelOrder, markOf, type SiteState } from '../../core/site'
import { boxDrawing } from '../../core/wiring/drawing'
import { loadWatts } from '../../core/fit'
import { withoutInternet } from '../../core/handover/without-internet'
import { momentOf, supplySchemes } from '../../core/units'
import { jobFor, type Viewer } from './access'
import type { Content } from 'pdfmake/interfaces'
import { photoPages } from './photo-pages'
import { paperOfHome } from './job-paper'
import { mayKnowCodes } from './need-to-know'
import { heading, makePdf, soft, table } from './pdf'
import { whereIs } from './projections'
import { logSecretRead, unseal } from './secrets'

function pointRows(job: JobState, site: SiteState): string[][] {
  const words = { passed: 'passes', failed: 'FAILS', partial: 'partly tested', untested: 'not tested' }
  return pointsInOrder(job).map((point) => {
    const controls = point.controls.map((control) => site.boxes[control.boxId]?.name ?? '?').join(', ')
    const breakers = [...new Set(point.controls.flatMap((control) => site.boxes[control.boxId]?.breakerIds ?? []))]
      .map((id) => markOf(site, id))
      .join(', ')
    return [
      site.rooms[point.roomId]?.name ?? '',
      point.name,
      `${point.load.lamps} × ${point.load.wattsEach} W ${technologyWords[point.load.technology]} = ${loadWatts(point.load)} W`,
      controls,
      breakers || 'not known',
      words[pointStatus(job, site, point)],
    ]
  })
}

function signatureSvg(strokes: [number, number][][]): string {
  const path = strokes
    .map(
      (stroke) =>
        stroke.map(([x, y], index) => `${index ? 'L' : 'M'}${(x * 300).toFixed(1)} ${(y * 100).toFixed(1)}`).join('') +
        (stroke.length === 1 ? 'l0.1 0' : ''),
    )
    .join('')
  return `<svg viewBox="0 0 300 100"><path d="${path}" fill="none" stroke="#1d2421" stroke-width="2" stroke-linecap="round" stroke-linejoin="round"/></svg>`
}

function circuitRows(job: JobState, site: SiteState): string[][] {
  const ids = new Set(boxesOfJob(job, site).flatMap((box) => box.breakerIds))
  return Object.values(site.breakers)
    .filter((breaker) => ids.has(breaker.id) || breaker.role === 'main')
    .sort(inPanelOrder)
    .map((breaker) => [
      site.panels[breaker.panelId ?? '']?.name ?? '',
      breaker.number,
      breaker.amps ? `${breaker.amps} A` : '',
      breaker.labelAsFound || '(no label)',
      boxesOfJob(job, site)
        .filter((box) => box.breakerIds.includes(breaker.id))
        .map((box) => box.name)
        .join(', '),
      breaker.offLimits ?? '',
    ])
}

function testRows(job: JobState, site: SiteState): string[][] {
  return pointsInOrder(job).flatMap((point) =>
    checksFor(job, site, point).map((check) => {
      const result = testResults(job, site, point)[check.id]
      const said = result && [result.result, result.inShop ? ` in the shop, ${result.inShop}` : '', result.note ? `: ${result.note}` : '']
      return [point.name, check.what, said ? said.join('') : 'not tested', result?.by ?? '']
    }),
  )
}

/** @param codes Whether they are for whoever asks; else their endings, by which a card is told from another. */
function deviceRows(job: JobState, site: SiteState, codes: boolean): string[][] {
  return currentUnits(job).map((unit) => {
    const signal = unit.pairing?.signal
    return [
      [
        unit.name || '(no name)',
        ...Object.entries(unit.channelNames).map(([id, name]) => `${job.points[id]?.name ?? 'channel'}: ${name}`),
      ].join('; '),
      `${site.boxes[unit.boxId]?.name ?? ''}, gang ${unit.gang}`,
      `${unit.model.maker} ${unit.model.name}`,
      unit.serial,
      !unit.code.sealed ? 'none' : codes ? unseal(unit.code.sealed) : `kept, …${unit.code.ending}`,
      unit.pairing?.result === 'joined'
        ? `${unit.pairing.network || 'paired'}${signal ? (signal.kind === 'dbm' ? `, ${signal.dbm} dBm` : `, ${signal.bars} bars`) : ''}`
        : unit.model.setupCode === 'none'
          ? 'needs none'
          : 'not paired',
    ]
  })
}

/** The wiring of every box that was worked out: its drawing, and what it should do beside what it did. */
function wiringPages(job: JobState, site: SiteState): Content[] {
  const pages = job.boxIds.flatMap((id): Content[] => {
    const box = site.boxes[id]
    const { notes, plan } = wiringOf(job, id)
    const found = box && notes ? asFoundBoxOf(site, box, notes) : null
    if (!box || !found?.ok) return []
    const rows = predictedAndSeen(job, site, id)
    return [
      { svg: boxDrawing(box.name, found.found, flagWords(job, id), plan), width: 480, margin: [0, 4, 0, 4] },
      ...(rows.length
        ? [
            table(
              ['Position', 'Light', 'Predicted', 'Seen'],
              rows.map((row) => [row.position, row.light, row.predicted, row.seen]),
              ['*', 'auto', 'auto', 'auto'],
            ),
          ]
        : []),
    ]
  })
  return pages.length ? [heading('Wiring of the boxes'), ...pages] : []
}

/** What was found wrong at boxes, was offered, and was declined. */
function declinedAt(job: JobState, site: SiteState): string[] {
  return boxesOfJob(job, site).flatMap((box) =>
    (site.surveys[box.id]?.faults ?? [])
      .filter(({ then }) => then === 'declined')
      .map(({ is }) => `${whereIs(site, box.id)}: ${boxFaultWords[is]}. Mending it was offered and declined.`),
  )
}

/** Makes the handover pack. It holds setup codes where they are for whoever asks, and then its making is logged. */
export async function handoverPack(viewer: Viewer, jobId: string): Promise<{ number: number; bytes: Buffer }> {
  const row = await jobFor(viewer, jobId)
  const { siteRow, customer, branch, company, job, site, region } = await paperOfHome(viewer, row)
  const codes = await mayKnowCodes(viewer, row.siteId)
  if (codes) await logSecretRead(viewer, 'pack', jobId)
  const defects = openDefects(job)
  const declined = declinedAt(job, site)
  const signature = job.signature
  const bytes = await makePdf({
    title: `Handover pack, job ${row.number}`,
    footer: `${company.name} · job ${row.number}`,
    company: company.name,
    schemeId: branch.schemeId,
    region,
    content: [
      { text: job.handedOverAt ? 'Handover pack' : 'Handover pack: draft, not handed over yet', style: 'title' },
      { text: `${siteRow.name}, ${siteRow.address}`, fontSize: 13, margin: [0, 4, 0, 0] },
      {
        text: `${customer.name} · ${company.name}, ${branch.name} · ${supplySchemes[branch.schemeId].name} · made ${momentOf(new Date().toISOString(), region)}`,
        color: soft,
        margin: [0, 2, 0, 0],
      },
      {
        text: codes
          ? 'Keep this pack like a key: it holds the codes of your devices.'
          : 'Without the codes of the devices: they are printed for whoever has a visit there from yesterday to tomorrow, and for the office.',
        bold: true,
        margin: [0, 8, 0, 0],
      },
      heading('Points'),
      table(['Room', 'Point', 'Load', 'Switched from', '{Breaker}', 'Test'], pointRows(job, site), [
        'auto',
        'auto',
        '*',
        'auto',
        'auto',
        'auto',
      ]),
      heading('Circuits'),
      table(['{Panel}', '{Breaker}', 'Rating', 'Label as found', 'Boxes of this job', 'Do not open'], circuitRows(job, site), [
        'auto',
        'auto',
        'auto',
        '*',
        '*',
        'auto',
      ]),
      heading('Devices and codes'),
      table(['Name', 'Place', 'Model', 'Serial', 'Setup code', 'Network'], deviceRows(job, site, codes), [
        'auto',
        'auto',
        '*',
        'auto',
        'auto',
        'auto',
      ]),
      heading('Functional tests'),
      table(['Point', 'Check', 'Result', 'By'], testRows(job, site), ['auto', '*', '*', 'auto']),
      ...wiringPages(job, site),
      ...(await photoPages(
        job,
        site,
        'Conductors on the pictures',
        job.photos.filter(({ id }) => job.letters[id]?.length),
      )),
      heading('What to do without internet'),
      { ul: withoutInternet(job, site) },
      heading('Shown and handed over'),
      table(
        ['', 'Rests on'],
        handoverChecklist(job, site)
          .filter(({ done }) => done)
          .map(({ text, why, auto, tick }) => [text, auto || !tick ? why : restsOn(tick, (iso) => momentOf(iso, region))]),
        ['*', '*'],
      ),
      heading('Open defects'),
      defects.length + declined.length
        ? {
            ul: [...defects.map((defect) => `${defect.pointId ? `${job.points[defect.pointId]?.name}: ` : ''}${defect.text}`), ...declined],
          }
        : { text: 'None.' },
      heading('Signed'),
      signature
        ? {
            stack: [
              { svg: signatureSvg(signature.strokes), width: 180 },
              {
                text: `${signature.signer}, ${momentOf(signature.at, region)}${signature.acceptedDefectIds.length ? '. Accepts the open defects above.' : ''}`,
              },
            ],
            unbreakable: true,
          }
        : { text: 'Not signed yet.' },
      {
        text: 'Local code, the maker’s instructions and the licensed person always decide. A device that is off is not isolated.',
        color: soft,
        margin: [0, 16, 0, 0],
      },
    ],
  })
  return { number: row.number, bytes }
}
