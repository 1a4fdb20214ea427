import type { Content } from 'pdfmake/interfaces'
import type { Invoice } from '../../core/quote/invoice'
import { allTicked, optionAdds } from '../../core/quote'
import { moneyIn } from '../../core/money'
import { lightColourWords, offlineWords } from '../../core/plan'
import { sentence } from '../../core/site'
import { dateIn, regionOf } from '../../core/units'
import { counted } from '../../core/units/counted'
import { writeRows } from '../../core/format/cells'
import { database } from '../database'
import type { Viewer } from './access'
import { rulesOf } from './branch-rules'
import { ApiError } from './errors'
import { heading, makePdf, soft, table } from './pdf'
import { around, contentOf, pricedRow, quoteFor, ticksOf } from './quotes'

const labourWords = (minutes: number) => `Labour, ${counted(Math.abs(minutes), 'minute')}${minutes < 0 ? ' less' : ''}`

export async function quotePaper(id: string): Promise<{ number: string; bytes: Buffer }> {
  const row = (await database().models.quotes.findByPk(id))!
  const { company, branch, site, customer } = await around(row)
  const content = contentOf(row)
  const ticks = ticksOf(row) ?? allTicked(content)
  const price = await pricedRow(row)
  const region = regionOf({ ...branch, settings: rulesOf(branch) })
  const money = (cents: number) => moneyIn(cents, content.currency, region.locale)
  const status =
    row.status === 'accepted'
      ? `Signed by ${row.signer}, ${dateIn(row.decidedAt!.toISOString().slice(0, 10), region.locale)}.`
      : row.status === 'open'
        ? `Valid until ${dateIn(String(row.validUntil), region.locale)}.`
        : `This offer is ${row.status}.`
  const rooms = content.stages
    .filter(({ id: stageId }) => price.taken.some((line) => line.stageId === stageId))
    .flatMap((stage): Content[] => [
      heading(stage.name),
      table(
        ['What', 'How', 'What changes'],
        price.taken
          .filter(({ stageId }) => stageId === stage.id)
          .map((line) => [
            { text: line.points.join(', '), bold: true },
            line.what,
            [
              ...(line.loses.length ? [`Given up: ${line.loses.join('; ')}.`] : []),
              ...line.leaves,
              ...(line.colour ? [`Light: ${lightColourWords[line.colour]}, fixed by the lamps.`] : []),
              line.kind === 'leave' ? 'Nothing.' : `${sentence(offlineWords[line.offline])}.`,
            ].join(' '),
          ]),
        [110, '*', 180],
      ),
    ])
  const open = content.options.filter(({ id: optionId }) => !ticks.options.includes(optionId))
  const body: Content[] = [
    { text: row.kind === 'quote' ? `Offer ${row.number}` : `Change ${row.number}`, style: 'title' },
    { text: `${site.name}, ${site.address}\n${customer.name}`, margin: [0, 4, 0, 2] },
    { text: status, color: soft },
    ...(row.kind === 'change' && row.reason ? [{ text: row.reason, margin: [0, 6, 0, 0] } as Content] : []),
    ...rooms,
    heading('What it comes to'),
    table(
      ['', 'Quantity', { text: 'Net', alignment: 'right' }],
      price.lines.map((line) => [
        line.kind === 'labour' ? labourWords(Math.round(line.minutes ?? 0)) : line.text,
        line.kind === 'parts' || line.kind === 'travel' ? String(line.quantity) : '',
        { text: money(line.cents), alignment: 'right' },
      ]),
      ['*', 60, 90],
    ),
    // The total stands on one page with what it is made of.
    {
      unbreakable: true,
      margin: [0, 10, 0, 0],
      stack: [
        table(
          ['', ''],
          [
            ['Net', { text: money(price.sum.netCents), alignment: 'right' }],
            ...price.sum.taxes.map((tax) => [
              `${tax.name}, ${tax.basisPoints / 100} % of ${money(tax.onCents)}`,
              { text: money(tax.cents), alignment: 'right' as const },
            ]),
            ...(price.sum.roundingCents ? [['Rounding', { text: money(price.sum.roundingCents), alignment: 'right' as const }]] : []),
            [
              { text: row.kind === 'quote' ? 'Total' : price.sum.totalCents < 0 ? 'The change takes off' : 'The change adds', bold: true },
              { text: money(row.kind === 'quote' ? price.sum.totalCents : Math.abs(price.sum.totalCents)), alignment: 'right', bold: true },
            ],
            ...(row.kind === 'quote' ? [['Deposit with the order', { text: money(price.depositCents), alignment: 'right' as const }]] : []),
          ],
          ['*', 90],
        ),
      ],
    },
    ...(row.kind === 'quote' && row.status === 'open' && open.length
      ? [
          heading('Options'),
          table(
            ['Option', 'Adds'],
            open.map((option) => [
              `${option.title}: ${option.lines.map(({ what }) => what).join('; ')}`,
              { text: money(optionAdds(content, ticks, option.id)), alignment: 'right' },
            ]),
            ['*', 90],
          ),
        ]
      : []),
    {
      text: 'Work in boxes and {panels} is done with the power off and proven off, by the people local code allows. What is found behind a plate may change what can be done there: you are asked before anything costs more.',
      color: soft,
      margin: [0, 14, 0, 0],
    },
  ]
  const bytes = await makePdf({
    title: `${row.kind === 'quote' ? 'Offer' : 'Change'} ${row.number}`,
    company: company.name,
    footer: `${company.name}, ${branch.name} · ${row.number}`,
    schemeId: branch.schemeId,
    region,
    content: body,
  })
  return { number: row.number, bytes }
}

export async function invoiceOf(viewer: Viewer, id: string): Promise<Invoice> {
  const row = await quoteFor(viewer, id)
  if (row.status !== 'accepted') throw new ApiError(409, 'notSigned', 'Only what was signed is invoiced.')
  const { site, customer } = await around(row)
  const { lines, sum, depositCents: deposit } = await pricedRow(row)
  return {
    format: 'circuitry.invoice',
    version: 1,
    number: row.number,
    kind: row.kind,
    signedAt: row.decidedAt!.toISOString(),
    signer: row.signer!,
    customer: { name: customer.name, phone: customer.phone, email: customer.email },
    home: { name: site.name, address: site.address },
    currency: contentOf(row).currency,
    lines: lines.map(({ text, quantity, cents, taxId, kind }) => ({ text, quantity, netCents: cents, taxId, kind })),
    ...sum,
    depositCents: deposit,
    restCents: sum.totalCents - deposit,
  }
}

/** The same as a table: a line each, then taxes and sums. */
export function invoiceCsv({ number, lines, taxes, roundingCents, totalCents, depositCents }: Invoice): string {
  const rows: [kind: string, text: string, quantity: number, cents: number, tax: string][] = [
    ...lines.map(({ kind, text, quantity, netCents, taxId }): [string, string, number, number, string] => [
      kind,
      text,
      quantity,
      netCents,
      taxId,
    ]),
    ...taxes.map(({ id, name, cents }): [string, string, number, number, string] => ['tax', name, 1, cents, id]),
    ['rounding', '', 1, roundingCents, ''],
    ['total', '', 1, totalCents, ''],
    ['deposit', '', 1, depositCents, ''],
  ]
  // Numbers as numbers: a guard before a minus sign would make a text of it.
  const cells = rows.map(([kind, text, quantity, cents, tax]) => ({ number, kind, text, quantity, amount: cents / 100, tax }))
  return `\ufeff${writeRows(['number', 'kind', 'text', 'quantity', 'amount', 'tax'], cells)}`
}
