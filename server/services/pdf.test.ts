import { heading, makePdf, printable, table } from './pdf'

test.each([
  ['Net loft, 5 Ω, 1.5 mm² – “as found”', 'Net loft, 5 ohm, 1.5 mm² – “as found”'],
  ['Jürgen Müßig', 'Jürgen Müßig'],
  [
    'Łódź',
    [
      { text: 'Ł', font: 'AtkinsonMore' },
      { text: 'ód', font: 'Atkinson' },
      { text: 'ź', font: 'AtkinsonMore' },
    ],
  ],
  // A sign that no font has is said, once, with what belongs to it.
  ['Kitchen 🍳🧑🏽‍🍳 light', 'Kitchen [sign] light'],
  ['灯', '[sign]'],
  ['', ''],
])('%p is printed', (text, printed) => expect(printable(text)).toEqual(printed))

test('a paper with such names is a whole file, in running text, headings and tables', async () => {
  const paper = await makePdf({
    title: 'Łódź 🍳',
    company: 'Reed',
    footer: 'Reed · Łódź',
    schemeId: 'na120',
    region: { zone: 'UTC', locale: 'en-US' },
    content: [
      heading('Łódź 🍳'),
      { text: ['plain ', { text: 'Ćma 灯', bold: true }] },
      table(['Name'], [['Łuk 🍳'], [{ text: 'ok' }]], ['*']),
    ],
  })
  expect(paper.subarray(0, 5).toString()).toBe('%PDF-')
  expect(paper.subarray(-6).toString()).toContain('%%EOF')
})
