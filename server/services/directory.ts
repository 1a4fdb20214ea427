import Papa from 'papaparse'
import { formula } from '../../core/format/cells'
import { directoryOf, type Directory } from '../../core/site'
import { momentOf, regionOf, supplySchemes } from '../../core/units'
import { database, type SiteRow } from '../database'
import { siteFor, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { heading, makePdf, soft, table } from './pdf'
import { readState } from './streams'

/** The panel directory of a site, from its energy record. */
export async function siteDirectory(viewer: Viewer, siteId: string): Promise<{ row: SiteRow; directory: Directory }> {
  const row = await siteFor(viewer, siteId)
  return { row, directory: directoryOf(await readState('site', row.id)) }
}

const served = (line: Directory['lines'][number]) =>
  line.serves.map((one) => `${one.room}: ${one.box} (${one.known}${one.shared ? ', shared' : ''})`).join('; ')

/** One row a breaker and box, in UTF-8 with a byte order mark, so that spreadsheets read the accents. */
export function directoryCsv({ lines, unknown }: Directory): string {
  const rows = [
    ...lines.flatMap((line) => {
      const base = {
        panel: line.panel,
        breaker: line.number,
        amps: line.amps ?? '',
        poles: line.poles,
        label_as_found: line.labelAsFound,
        do_not_open: line.offLimits ?? '',
      }
      return line.serves.length
        ? line.serves.map(({ room, box, known, shared }) => ({ ...base, room, box, known, shared: shared ? 'yes' : 'no' }))
        : [{ ...base, room: '', box: '', known: '', shared: '' }]
    }),
    ...unknown.map(({ room, box, elsewhere }) => ({
      panel: '',
      breaker: '',
      amps: '',
      poles: '',
      label_as_found: '',
      do_not_open: '',
      room,
      box,
      known: elsewhere ? 'none of these' : 'feed unknown',
      shared: '',
    })),
  ]
  // A field that a spreadsheet would run as a formula is written as text.
  return `\ufeff${Papa.unparse(rows, { escapeFormulae: formula })}\r\n`
}

export async function directoryPdf(viewer: Viewer, siteId: string): Promise<Buffer> {
  const { row, directory } = await siteDirectory(viewer, siteId)
  const { models } = database()
  const [branch, company] = await Promise.all([models.branches.findByPk(row.branchId), models.companies.findByPk(row.companyId)])
  const region = regionOf({ ...branch!.get(), settings: rulesOf(branch!) })
  const panels = [...new Set(directory.lines.map((line) => line.panel))]
  return makePdf({
    title: `{Panel} directory, ${row.name}`,
    company: company!.name,
    footer: `${company!.name} · ${row.name}`,
    schemeId: branch!.schemeId,
    region,
    content: [
      { text: '{Panel} directory', style: 'title' },
      { text: `${row.name}, ${row.address}`, fontSize: 13, margin: [0, 4, 0, 0] },
      {
        text: `${supplySchemes[branch!.schemeId].name} · as of ${momentOf(new Date().toISOString(), region)}. Confirmed: seen by opening {breakers}. As found: read off a label or told.`,
        color: soft,
        margin: [0, 2, 0, 0],
      },
      ...panels.flatMap((panel) => [
        heading(panel || '{Panel}'),
        table(
          ['{Breaker}', 'Rating', 'Label as found', 'Feeds', 'Do not open'],
          directory.lines
            .filter((line) => line.panel === panel)
            .map((line) => [
              line.number,
              line.amps ? `${line.amps} A` : '',
              line.labelAsFound || '(no label)',
              served(line),
              line.offLimits ?? '',
            ]),
          ['auto', 'auto', '*', '*', 'auto'],
        ),
      ]),
      ...(directory.unknown.length
        ? [
            heading('Feed not known'),
            { ul: directory.unknown.map((one) => `${one.room}: ${one.box}${one.elsewhere ? ', none of these {breakers}' : ''}`) },
          ]
        : []),
      {
        text: 'A directory helps to find {a breaker}. It never proves a circuit dead: open, lock, tag and test.',
        bold: true,
        margin: [0, 16, 0, 0],
      },
    ],
  })
}
