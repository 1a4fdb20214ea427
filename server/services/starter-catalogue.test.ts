import { boxSizes, deviceModelSchema, lampWatts, metalBoxVolumesIn3, partnersOf, platesFor } from '../../core/fit'
import { partKinds, partSchema } from '../../core/fit/part-schema'
import { modelsCsv, partsCsv, readModelsCsv, readPartsCsv } from '../../core/format/catalogue-csv'
import { idCounter } from '../../core/testing/scenario'
import { starterParts } from './starter-parts'
import { starterCatalogue } from './starter-catalogue'

const catalogue = starterCatalogue(
  (() => {
    let count = 0
    return () => `01890000-0000-7000-8000-${String(++count).padStart(12, '0')}`
  })(),
)

test('forty models and more over both supplies, each as the schema wants it, no name twice', () => {
  expect(catalogue.length).toBeGreaterThanOrEqual(40)
  for (const model of catalogue) expect(deviceModelSchema.parse(model)).toEqual(model)
  expect(new Set(catalogue.map(({ name }) => name)).size).toBe(catalogue.length)
  for (const scheme of ['na120', 'iec230'] as const)
    expect(catalogue.filter(({ schemes }) => schemes.includes(scheme)).length).toBeGreaterThan(15)
})
test('every companion has something it belongs to, under each of its supplies', () => {
  for (const companion of catalogue.filter(({ kind }) => kind === 'companion'))
    for (const scheme of companion.schemes)
      expect([
        companion.name,
        scheme,
        partnersOf(
          companion,
          catalogue.filter(({ schemes }) => schemes.includes(scheme)),
        ).length > 0,
      ]).toEqual([companion.name, scheme, true])
})
test('what pairs says how it shows that it has power, and how it pairs; what has no radio does not', () => {
  for (const { name, setupCode, firstIndicator, pairingSteps, radio } of catalogue) {
    expect([name, firstIndicator !== '']).toEqual([name, true])
    expect([name, pairingSteps.length > 0]).toEqual([name, setupCode !== 'none'])
    if (radio === 'none') expect([name, setupCode]).toEqual([name, 'none'])
  }
})

const withoutId = <T extends { id: string }>({ id: _, ...rest }: T) => rest
const parts = starterParts(idCounter())
test('parts of every kind under both supplies, each as the schema wants it; volumes of metal boxes as NEC table 314.16(A) has them', () => {
  for (const part of parts) expect(partSchema.parse(part)).toEqual(part)
  expect(new Set(parts.map(({ name, schemes }) => `${name} ${schemes.join()}`)).size).toBe(parts.length)
  for (const scheme of ['na120', 'iec230'] as const)
    for (const kind of partKinds)
      expect([scheme, kind, parts.some((part) => part.kind === kind && part.schemes.includes(scheme))]).toEqual([scheme, kind, true])
  const metal = parts.flatMap((part) => (part.kind === 'box' && part.material === 'metal' ? [part.volumeIn3] : []))
  for (const volume of metal) expect(metalBoxVolumesIn3.map(({ volumeIn3 }) => volumeIn3 as number)).toContain(volume)
})
test('both lists go out as tables and come in the same', () => {
  expect(readModelsCsv(modelsCsv(catalogue))).toEqual({
    problems: [],
    rows: catalogue.map((model, index) => ({ line: index + 2, value: withoutId(model) })),
  })
  expect(readPartsCsv(partsCsv(parts))).toEqual({
    problems: [],
    rows: parts.map((part, index) => ({ line: index + 2, value: withoutId(part) })),
  })
})
test('what is wrong in a table is said by line, and the other lines are taken', () => {
  const lines = modelsCsv(catalogue).split('\n')
  lines[1] = lines[1]!.replace(',dimmer,', ',rheostat,')
  lines[3] = lines[3]!.replace('na120', 'na110')
  const read = readModelsCsv(lines.join('\n'))
  expect(read.problems.map(({ where }) => where)).toEqual(['models.csv, line 2', 'models.csv, line 4'])
  expect(read.rows).toHaveLength(catalogue.length - 2)
  const spoiled = readPartsCsv(partsCsv(parts).replace('plastic', 'wood'))
  expect(spoiled.problems).toEqual([{ where: 'parts.csv, line 2', problem: expect.stringMatching(/^material: /) }])
  expect(readPartsCsv('kind,maker\nbox,x')).toMatchObject({ rows: [], problems: [{ where: 'parts.csv, line 1' }] })
})
test('what the list offers where somebody surveys: sizes of boxes, watts of lamps, plates for a row', () => {
  const listed = parts.map((part) => ({ ...part, active: true }))
  expect(boxSizes(listed, 'na120', 1, false)).toEqual([12.5, 14, 18, 20.3, 21, 22.5, 30.3])
  expect(boxSizes(listed, 'na120', 1, true)).toEqual([12.5, 14, 18, 21, 30.3])
  expect(boxSizes(listed, 'iec230', 3, false)).toEqual([16, 25, 35, 47])
  expect(lampWatts(listed, 'na120', 'led')).toEqual([5, 7, 9, 12])
  expect(platesFor(listed, 'na120', 5, 'standard')).toEqual([])
  expect(platesFor([], 'na120', 1, 'standard')).toBe(null)
  const outOfUse = listed.map((part) => ({ ...part, active: part.kind !== 'lamp' }))
  expect(lampWatts(outOfUse, 'na120', 'led')).toEqual([])
})
