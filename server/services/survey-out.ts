import { strToU8, zipSync } from 'fflate'
import { boxesOfJob, loadOnBreaker, pointsOfBox, plateOf, rowIsKnown, technologyWords, type JobState } from '../../core/job'
import { jobFileOf, surveyTables, type JobFile } from '../../core/format'
import { meshChannelPlan, radioOfHome, radioVerdictWords } from '../../core/radio'
import {
  boxFaultWords,
  boxKindWords,
  housingWords,
  inPanelOrder,
  markOf,
  networkKindWords,
  oldDeviceWords,
  protectionWords,
  type BoxState,
  type SiteState,
} from '../../core/site'
import { unknownsOf, unknownWords, verdictOn, worthOpening, type HomeKnown } from '../../core/survey'
import { momentOf, regionOf, supplySchemes, type BranchSettings } from '../../core/units'
import { counted } from '../../core/units/counted'
import type { Content } from 'pdfmake/interfaces'
import { database } from '../database'
import { jobFor, siteFor, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { homesAlike } from './homes-alike'
import { heading, makePdf, soft, table } from './pdf'
import { photoPages } from './photo-pages'
import { whereIs } from './projections'
import { readState } from './streams'

async function surveyOf(viewer: Viewer, jobId: string) {
  const row = await jobFor(viewer, jobId)
  const [siteRow, customer, job, site] = await Promise.all([
    siteFor(viewer, row.siteId),
    database().models.customers.findByPk(row.customerId),
    readState('job', row.id),
    readState('site', row.siteId),
  ])
  return { row, siteRow, customer: customer!, job, site }
}

/** The survey as a job file, which the import reads again. */
export async function surveyFile(viewer: Viewer, jobId: string): Promise<{ number: number; file: JobFile }> {
  const { row, siteRow, customer, job, site } = await surveyOf(viewer, jobId)
  const { name, address, yearBuilt } = siteRow
  const who = { name: customer.name, phone: customer.phone, email: customer.email }
  return { number: row.number, file: jobFileOf(job, site, { customer: who, site: { name, address, yearBuilt } }) }
}
/** Its tables, one CSV each, in one archive. A byte order mark, so that spreadsheets read the accents. */
export async function surveyArchive(viewer: Viewer, jobId: string): Promise<{ number: number; bytes: Uint8Array }> {
  const { number, file } = await surveyFile(viewer, jobId)
  const files = Object.entries(surveyTables(file)).map(([name, text]) => [`${name}.csv`, strToU8(`\ufeff${text}`)] as const)
  return { number, bytes: zipSync(Object.fromEntries(files)) }
}

const escaped = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`)
const worstFirst = ['fails', 'measure', 'likely', 'good'] as const
const fills = { fails: '#f3c9bd', measure: '#f4e3b8', likely: '#dfe8dc', good: '#c8ddd6' }
/** The rough plan of a floor: its rooms with the worst signal of their boxes, and what sends. */
function planOf(site: SiteState, floor: number, radio: ReturnType<typeof radioOfHome>): Content {
  const rooms = site.roomOrder.flatMap((id) => {
    const place = site.places[id]
    return place?.kind === 'plan' && place.floor === floor ? [{ id, name: site.rooms[id]!.name, ...place }] : []
  })
  const [right, low] = [Math.max(...rooms.map(({ x, width }) => x + width)), Math.max(...rooms.map(({ y, depth }) => y + depth))]
  const shapes = rooms.map(({ id, name, x, y, width, depth }) => {
    const inRoom = radio.boxes.filter(({ boxId }) => site.boxes[boxId]?.roomId === id)
    const worst = worstFirst.find((verdict) => inRoom.some((one) => one.verdict === verdict))
    const senders = Object.values(site.networks).filter((network) => network.roomId === id)
    const lines = [
      name,
      worst ? radioVerdictWords[worst] : '',
      ...senders.map((one) => `${networkKindWords[one.kind]} ${one.name}`),
    ].filter(Boolean)
    const size = Math.min(0.36, (1.7 * width) / Math.max(10, ...lines.map(({ length }) => length)), depth / (lines.length + 2))
    const text = lines.map(
      (line, index) =>
        `<text x="${x + width / 2}" y="${y + depth / 2 + (index - (lines.length - 1) / 2) * size * 1.25 + size / 3}" font-size="${size}" text-anchor="middle" fill="#1d2421">${escaped(line)}</text>`,
    )
    return `<rect x="${x}" y="${y}" width="${width}" height="${depth}" fill="${worst ? fills[worst] : '#fffdf8'}" stroke="#1d2421" stroke-width="0.05"/>${text.join('')}`
  })
  return { svg: `<svg viewBox="-0.1 -0.1 ${right + 0.2} ${low + 0.2}">${shapes.join('')}</svg>`, fit: [500, 320], margin: [0, 2, 0, 6] }
}
const floorWord = (floor: number) => `Floor ${floor}`

function boxRow(job: JobState, site: SiteState, box: BoxState, settings: BranchSettings, known: HomeKnown): string[] {
  const survey = site.surveys[box.id] ?? {}
  const size =
    site.schemeId === 'iec230' ? (box.depthMm === null ? '' : `${box.depthMm} mm`) : box.volumeIn3 === null ? '' : `${box.volumeIn3} in³`
  const kind = survey.kind && survey.kind !== 'wall' ? boxKindWords[survey.kind] : counted(box.gangs, 'gang')
  const holds = (survey.old ?? []).map(({ gang, is }) => `${gang}: ${oldDeviceWords[is]}`).join(', ')
  const points = pointsOfBox(job, box.id).map(({ name }) => name)
  const verdict = verdictOn(job, site, box, { edition: settings.necEdition, known })
  const plate = survey.kind && survey.kind !== 'wall' ? null : plateOf(job, site, box)
  const plateText =
    plate && rowIsKnown(job, site, box)
      ? [plate.plate ? `Plate: ${plate.plate}.` : '', ...plate.breaks.map(({ gang, why }) => `Gang ${gang}: ${why}`)]
      : []
  return [
    whereIs(site, box.id),
    [kind, size, holds].filter(Boolean).join('; '),
    points.join(', '),
    box.unknownFeed || !box.breakerIds.length ? 'not known' : box.breakerIds.map((id) => markOf(site, id)).join(', '),
    [verdict.sentence, verdict.changes, ...plateText].filter(Boolean).join(' '),
  ]
}

/** The survey as a paper: what was found, what follows from it, what nobody has looked at. */
export async function surveyPaper(viewer: Viewer, jobId: string): Promise<{ number: number; bytes: Buffer }> {
  const { row, siteRow, customer, job, site } = await surveyOf(viewer, jobId)
  const { models } = database()
  const [branch, company] = await Promise.all([models.branches.findByPk(row.branchId), models.companies.findByPk(row.companyId)])
  const settings = rulesOf(branch!)
  const region = regionOf({ ...branch!.get(), settings })
  const known: HomeKnown = { yearBuilt: siteRow.yearBuilt, alike: await homesAlike(siteRow, site.home.builder) }
  const boxes = boxesOfJob(job, site)
  const radio = radioOfHome(site, boxes)
  const floors = [...new Set(site.roomOrder.flatMap((id) => (site.places[id]?.kind === 'plan' ? [site.places[id].floor] : [])))].sort(
    (a, b) => a - b,
  )
  const unknown = site.roomOrder.flatMap((id) => {
    const lines = boxes.flatMap((box) => {
      const left = box.roomId === id ? unknownsOf(job, site, box) : []
      return left.length ? [`${box.name}: ${left.map((kind) => unknownWords[kind]).join(', ')}`] : []
    })
    return lines.length ? [`${site.rooms[id]!.name}: ${lines.join('; ')}`] : []
  })
  const worth = worthOpening(job, site, known).map(
    ({ box, points }) => `${whereIs(site, box.id)}${points ? `: decides ${counted(points, 'point')}` : ''}`,
  )
  const faults = boxes.flatMap((box) =>
    (site.surveys[box.id]?.faults ?? []).map(({ is, then }) => [
      whereIs(site, box.id),
      boxFaultWords[is],
      { open: 'not offered yet', offered: 'to mend, offered', declined: 'offered, declined' }[then],
    ]),
  )
  const breakers = Object.values(site.breakers).sort(inPanelOrder)
  const wifi = Object.values(site.networks).flatMap(({ kind, bands, channel }) =>
    kind !== 'hub' && bands.includes('2.4') && channel ? [channel] : [],
  )
  const bound = Object.values(site.networks).flatMap((one) => one.bound.map((what) => `${what} (${one.name})`))
  const { housing, builder, neutralEarthed } = site.home
  const home = [
    housing ? housingWords[housing] : '',
    siteRow.yearBuilt ? `of ${siteRow.yearBuilt}` : '',
    builder ? `built by ${builder}` : '',
  ].filter(Boolean)
  const notSaid = (rows: Content[]): Content[] => (rows.length ? rows : [{ text: 'Nothing on record.' }])
  const bytes = await makePdf({
    title: `Survey, job ${row.number}`,
    footer: `${company!.name} · job ${row.number} · survey`,
    company: company!.name,
    schemeId: branch!.schemeId,
    region,
    content: [
      { text: 'Survey', style: 'title' },
      { text: `${siteRow.name}, ${siteRow.address}`, fontSize: 13, margin: [0, 4, 0, 0] },
      {
        text: [customer.name, home.join(' '), supplySchemes[branch!.schemeId].name, `as of ${momentOf(new Date().toISOString(), region)}`]
          .filter(Boolean)
          .join(' · '),
        color: soft,
        margin: [0, 2, 0, 0],
      },
      ...(neutralEarthed === false
        ? [
            {
              text: 'Neither conductor of this supply is tied to {ground}: both are live. Only a device that breaks both isolates anything.',
              bold: true,
            } as Content,
          ]
        : []),
      heading('What nobody has looked at'),
      ...(unknown.length ? [{ ul: unknown } as Content] : [{ text: 'Everything on the list was looked at.' } as Content]),
      ...(worth.length
        ? [{ text: `Worth opening before anything is ordered: ${worth.join('; ')}.`, margin: [0, 4, 0, 0] } as Content]
        : []),
      heading('Boxes'),
      ...notSaid(
        boxes.length
          ? [
              table(
                ['Box', 'What it is', 'Switches', '{Breaker}', 'Verdict'],
                boxes.map((box) => boxRow(job, site, box, settings, known)),
                ['auto', 'auto', 'auto', 'auto', '*'],
              ),
            ]
          : [],
      ),
      ...(faults.length ? [heading('Found wrong'), table(['Box', 'What', 'Then'], faults, ['auto', '*', 'auto'])] : []),
      heading('Points'),
      ...notSaid(
        job.pointOrder.length
          ? [
              table(
                ['Room', 'Point', 'Load', 'Switched from'],
                job.pointOrder.flatMap((id) => {
                  const point = job.points[id]
                  if (!point) return []
                  const { lamps, wattsEach, technology } = point.load
                  const from = point.controls.map(({ boxId, gang }) => `${site.boxes[boxId]?.name ?? '?'} gang ${gang}`).join(', ')
                  return [
                    [site.rooms[point.roomId]?.name ?? '', point.name, `${lamps} × ${wattsEach} W ${technologyWords[technology]}`, from],
                  ]
                }),
                ['auto', 'auto', 'auto', '*'],
              ),
            ]
          : [],
      ),
      heading('{Panels} and {breakers}'),
      table(
        ['{Panel}', '{Breaker}', 'Rating', 'Label as found', 'Watches', 'Points of this job'],
        breakers.map((breaker) => {
          const load = loadOnBreaker(job, site, breaker.id)
          return [
            site.panels[breaker.panelId ?? '']?.name ?? '',
            breaker.number,
            breaker.amps ? `${breaker.amps} A${breaker.poles > 1 ? `, ${breaker.poles} poles` : ''}` : '',
            breaker.labelAsFound || '(no label)',
            protectionWords[breaker.protection],
            load && load.amps > 0 ? `${load.amps.toFixed(1)} A${load.fits ? '' : ': too much'}` : '',
          ]
        }),
        ['auto', 'auto', 'auto', '*', 'auto', 'auto'],
      ),
      heading('Networks and signal'),
      ...notSaid(
        Object.values(site.networks).map((one): Content => {
          const parts = [
            networkKindWords[one.kind],
            one.bands.length ? `${one.bands.join(' and ')} GHz` : '',
            one.channel ? `channel ${one.channel}` : '',
            one.isolated ? 'isolated' : '',
            one.holdsMost ? `${one.holds ?? '?'} of ${one.holdsMost} devices` : '',
            one.note,
          ]
          return { text: [{ text: one.name, bold: true }, ` ${parts.filter(Boolean).join(' · ')}`] }
        }),
      ),
      ...(bound.length
        ? [{ text: `Still bound to a previous owner, reset before they join anything: ${bound.join('; ')}.` } as Content]
        : []),
      ...(wifi.length
        ? [
            {
              text: `Mesh channel clear of this Wi-Fi: ${meshChannelPlan(wifi)
                .slice(0, 3)
                .map(({ channel }) => channel)
                .join(', ')}.`,
            } as Content,
          ]
        : []),
      ...floors.flatMap((floor): Content[] => [
        { stack: [{ text: floorWord(floor), bold: true, margin: [0, 6, 0, 2] }, planOf(site, floor, radio)], unbreakable: true },
      ]),
      ...(radio.boxes.some(({ verdict }) => verdict)
        ? [
            table(
              ['Box', 'Level, 2.4 GHz', 'Verdict'],
              radio.boxes.map(({ boxId, read, prediction, verdict }) => [
                whereIs(site, boxId),
                read !== null
                  ? `${read} dBm read`
                  : prediction
                    ? `${Math.round(prediction.dbm)} ± ${Math.round(prediction.spreadDb)} dBm predicted`
                    : '',
                verdict ? radioVerdictWords[verdict] : 'not judged',
              ]),
              ['*', 'auto', 'auto'],
            ),
          ]
        : []),
      ...(await photoPages(
        job,
        site,
        'Pictures',
        job.photos.filter(({ boxId }) => boxId !== null),
      )),
      {
        text: 'A survey looks; it proves nothing dead and no conductor to be what it seems. Local code and the licensed person decide.',
        color: soft,
        margin: [0, 16, 0, 0],
      },
    ],
  })
  return { number: row.number, bytes }
}
