import type { DeviceModel } from '../fit'
import { colourHint } from './colour'
import { connectionOrders, connectionSteps, missingRoles, type ConductorRole, type ConnectionMethod } from './steps'

const model = (terminals: DeviceModel['terminals']) => ({ terminals }) as DeviceModel
const method = (over: Partial<ConnectionMethod> = {}): ConnectionMethod => ({
  connectionOrder: 'groundNeutralLoadLine',
  twistFirst: false,
  tapeConnectors: false,
  keepPlateOff: false,
  ...over,
})
const roles: Record<string, ConductorRole> = { A: 'line', B: 'neutral', C: 'load', D: 'ground' }
const terminalOrder = (over: Partial<ConnectionMethod>) =>
  connectionSteps(model(['line', 'load', 'neutral', 'ground']), roles, method(over), false)
    .filter((step) => step.phase === 'connect')
    .map((step) => step.terminal)

describe('connection steps in the company’s order (schools of the trade: common practice, no source)', () => {
  test.each([
    ['groundNeutralLoadLine', ['ground', 'neutral', 'load', 'line']],
    ['groundLoadLineNeutral', ['ground', 'load', 'line', 'neutral']],
    ['loadLineNeutralGround', ['load', 'line', 'neutral', 'ground']],
  ] as const)('%s', (connectionOrder, order) => expect(terminalOrder({ connectionOrder })).toEqual(order))
  test('every order connects every terminal once', () => {
    for (const connectionOrder of connectionOrders)
      expect([...terminalOrder({ connectionOrder })].sort()).toEqual(['ground', 'line', 'load', 'neutral'])
  })
  test('two conductors of one role get a splice and a pigtail', () => {
    const [step] = connectionSteps(model(['line']), { A: 'line', E: 'line' }, method({ twistFirst: true }), false).filter(
      (candidate) => candidate.terminal === 'line',
    )
    expect(step!.letters).toEqual(['A', 'E'])
    expect(step!.text).toMatch(/Splice A \+ E with a pigtail, twisted first/)
  })
  test('an unused traveler keeps its tape; a missing ground is never skipped', () => {
    const steps = connectionSteps(model(['traveler1', 'ground']), {}, method(), false)
    expect(steps.find((step) => step.terminal === 'traveler1')!.text).toMatch(/insulating tape/)
    expect(steps.find((step) => step.terminal === 'ground')!.text).toMatch(/stop and ask the licensed person/i)
  })
  test('roles still missing', () =>
    expect(missingRoles(model(['line', 'load', 'neutral', 'traveler1']), { A: 'line' })).toEqual(['load', 'neutral']))
})

describe('colour hints', () => {
  test.each([
    ['na120', 'white', 'neutral', 'NEC 200.6'],
    ['na120', 'grey', 'neutral', 'NEC 200.6'],
    ['na120', 'bare', 'ground', 'NEC 250.119'],
    ['na120', 'green', 'ground', 'NEC 250.119'],
    ['na120', 'black', 'hot', 'NEC 200.6 (by exclusion)'],
    ['iec230', 'brown', 'line', 'IEC 60445'],
    ['iec230', 'black', 'line', 'IEC 60445'],
    ['iec230', 'grey', 'line', 'IEC 60445'],
    ['iec230', 'blue', 'neutral', 'IEC 60445'],
    ['iec230', 'green-yellow', 'earth', 'IEC 60445'],
  ] as const)('%s %s suggests %s (%s)', (scheme, colour, suggests, source) =>
    expect(colourHint(scheme, colour)).toMatchObject({ suggests, source }),
  )
  test('blue and black swap meaning between the systems: a warning in each', () => {
    expect(colourHint('na120', 'blue').warning).toMatch(/230 V/)
    expect(colourHint('iec230', 'black').warning).toMatch(/neutral/)
    expect(colourHint('na120', 'white').warning).toMatch(/200\.7\(C\)/)
  })
})
