import { plainModel } from './plain-model'
import { depthFit } from './depth'
import { judgeDevice, judgeTogether, type PointLoad } from './device-model'
import type { DeviceModel } from './device-schema'

const dimmer: DeviceModel = {
  id: '01890000-0000-7000-8000-000000000001',
  maker: 'Test',
  name: 'dimmer',
  kind: 'dimmer',
  schemes: ['na120'],
  terminals: ['ground', 'neutral', 'load', 'line'],
  gangsWide: 1,
  bodyIn3: 6,
  depthMm: 36,
  ...plainModel,
  maxWatts: { led: 150, filament: 600, fan: 0, motor: 0, socket: 0 },
  minWatts: 10,
  setupCode: 'openHome',
}
const lamps = (over: Partial<PointLoad> = {}): PointLoad => ({ technology: 'led', lamps: 4, wattsEach: 9, dimmable: true, ...over })
const context = { schemeId: 'na120', controlLocations: 1, neutralEstablished: true }
const severities = (load: PointLoad, over = {}) => judgeDevice(dimmer, load, { ...context, ...over }).map((remark) => remark.severity)

describe('a device against a point', () => {
  test('fits: nothing to remark', () => expect(judgeDevice(dimmer, lamps(), context)).toEqual([]))
  test('NEC 404.14(E): a lamp dimmer never feeds a motor, a fan or a socket', () => {
    for (const technology of ['motor', 'fan', 'socket'] as const) expect(severities(lamps({ technology }))).toContain('block')
  })
  test('rated load', () => {
    expect(severities(lamps({ wattsEach: 38 }))).toContain('block')
    expect(severities(lamps({ technology: 'filament', wattsEach: 60 }))).toEqual([])
  })
  test('below the minimum load: a warning', () => expect(severities(lamps({ lamps: 1, wattsEach: 7 }))).toEqual(['warn']))
  test('another supply, more places, no neutral', () => {
    expect(severities(lamps(), { schemeId: 'iec230' })).toContain('block')
    expect(severities(lamps(), { controlLocations: 2 })).toContain('block')
    expect(severities(lamps(), { neutralEstablished: false })).toEqual(['warn'])
    expect(severities(lamps(), { neutralEstablished: null })).toEqual([])
  })
})

test('230 V: depth against the back box', () => {
  expect(depthFit(47, [38]).fits).toBe(true)
  expect(depthFit(35, [33])).toMatchObject({ fits: false, leftMm: 2 })
  expect(depthFit(25, [33]).sentence).toMatch(/8 mm deeper/)
})

test('two 100 W points on one 150 W device are above what it carries; shares of each technology add up', () => {
  const model = { ...dimmer, maxWatts: { ...dimmer.maxWatts, led: 150, filament: 600 } }
  const load = (technology: 'led' | 'filament', watts: number) => ({ technology, lamps: 1, wattsEach: watts, dimmable: true })
  const texts = (...loads: ReturnType<typeof load>[]) => judgeTogether(model, loads).map((remark) => remark.text)
  expect(texts(load('led', 100), load('led', 100))).toEqual(['2 points on one device: 200 W together is above what it carries.'])
  expect(texts(load('led', 100), load('filament', 180))).toEqual([])
  expect(texts(load('led', 100), load('filament', 240))).toHaveLength(1)
  expect(judgeTogether({ ...model, kind: 'companion' }, [load('led', 100), load('led', 100)])).toEqual([])
})
