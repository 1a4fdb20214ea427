import { deviceModelSchema, partnersOf } from '../../core/fit'
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
