import { conductorColours } from '../site'
import { boxDrawing } from '../wiring/drawing'
import { insulation } from './insulation'

test('every colour is told from every other, with and without colour in print', () => {
  const dashes = conductorColours.map((colour) => insulation[colour].dash ?? 'plain')
  const striped = dashes.filter((dash) => dash !== 'plain')
  expect(new Set(striped).size).toBe(striped.length)
  expect(new Set(conductorColours.map((colour) => `${insulation[colour].fill} ${insulation[colour].stripe ?? ''}`)).size).toBe(
    conductorColours.length,
  )
})
test('paper draws each colour as the screen does', () => {
  for (const colour of conductorColours) {
    const found = {
      nominalVolts: 120,
      circuits: ['2'],
      farSwitches: 0,
      cables: [{ id: 'cable 1', cores: [{ letter: 'A', colour }] }],
      splices: [],
      oldSwitches: [],
    }
    const { fill, stripe, dash } = insulation[colour]
    const drawing = boxDrawing('door', found as unknown as Parameters<typeof boxDrawing>[1], {}, null)
    expect(drawing).toContain(`stroke="${fill}"`)
    if (dash) expect(drawing).toContain(`stroke="${stripe}" stroke-width="2" stroke-dasharray="${dash}"`)
  }
})
