import type { AsFoundBox } from '../identify/found-box'
import type { RunKind, WireRole } from '../identify/roles'
import { terminalModel } from '../terminal-model'
import type { KnownCable, LightLoad } from './outside'
import { emptyPlan, homeOf, proposePlan, type PlannedDevice, type WiringPlan } from './plan'
import { namedRules } from './rules'
import { judge, verify } from './verify'

const options = { order: 'any' as const, metric: false, gauge: '14 AWG' }
type Wire = [letter: string, colour: string, role: WireRole, circuit?: string]
const cable = (run: RunKind, wires: Wire[], more: Partial<KnownCable> = {}): KnownCable => ({
  id: `${run} cable`,
  run,
  wires: wires.map(([letter, colour, role, circuit]) => ({ letter, colour, role, circuit: circuit ?? null })),
  ...more,
})
const feed = (circuit = '2', [a, b, c] = ['A', 'B', 'C']) =>
  cable('feed', [
    [a!, 'black', 'line', circuit],
    [b!, 'white', 'neutral', circuit],
    [c!, 'bare', 'ground'],
  ])
const light = ([a, b, c] = ['D', 'E', 'F']) =>
  cable('light', [
    [a!, 'black', 'load'],
    [b!, 'white', 'neutralOn'],
    [c!, 'bare', 'ground'],
  ])
const relay = terminalModel({ kind: 'switch', multiWay: 'single', terminals: ['ground', 'neutral', 'load', 'line'] })
const noNeutral = terminalModel({ kind: 'switch', multiWay: 'single', terminals: ['ground', 'load', 'line'] })
const device = (model = relay, gang = 1): PlannedDevice => ({ gang, name: 'device', model })

/** A box as it would be described, with these cables in it. */
const boxOf = (cables: KnownCable[], more: Partial<AsFoundBox> = {}): AsFoundBox => ({
  nominalVolts: 120,
  circuits: [...new Set(cables.flatMap((one) => one.wires.flatMap(({ circuit }) => circuit ?? [])))],
  farSwitches: 0,
  cables: cables.map(({ id, wires }) => ({ id, cores: wires.map(({ letter, colour }) => ({ letter, colour })) })),
  splices: [],
  oldSwitches: [],
  complete: true,
  ...more,
})
const codesOf = (
  cables: KnownCable[],
  plan: Partial<WiringPlan>,
  devices = [device()],
  more: Partial<AsFoundBox> = {},
  loads: LightLoad[] = [{ technology: 'led', watts: 9 }],
) => {
  const found = boxOf(cables, more)
  const whole = { ...emptyPlan, ...plan }
  return verify(found, cables, whole, homeOf(found, cables, whole, devices, loads), options).verdicts
}
const blocks = (...args: Parameters<typeof codesOf>) =>
  codesOf(...args).flatMap(({ severity, code }) => (severity === 'block' ? [code] : []))
const splice = (...letters: string[]) => ({ letters, holds: 8 })
const good = {
  devices: [{ gang: 1, terminals: { line: ['A'], load: ['D'], neutral: ['B'], ground: ['C'] } }],
  splices: [splice('B', 'E'), splice('C', 'F')],
}

test('the plain box, wired as everybody does: nothing against it', () => expect(blocks([feed(), light()], good)).toEqual([]))

describe('what a wiring is refused for', () => {
  test('the relay in the neutral: the lamp is dark and its shell live (NEC 404.2(B))', () => {
    const plan = {
      devices: [{ gang: 1, terminals: { line: ['E'], load: ['B'], ground: ['C'] } }],
      splices: [splice('A', 'D'), splice('C', 'F')],
    }
    const said = codesOf([feed(), light()], plan, [device(noNeutral)], {}, [{ technology: 'filament', watts: 60 }])
    expect(said.find(({ code }) => code === 'shellLive')).toMatchObject({ severity: 'block', rule: 'NEC 404.2(B)' })
  })
  test('a ground missing, under a cap, on a device only, on line, on the neutral; a neutral on the ground terminal', () => {
    const at = (terminals: WiringPlan['devices'][0]['terminals'], splices = good.splices, capped: string[] = []) =>
      blocks([feed(), light()], { devices: [{ gang: 1, terminals: { ...good.devices[0]!.terminals, ...terminals } }], splices, capped })
    expect(at({ ground: [] })).toContain('groundMissing')
    expect(at({}, [splice('B', 'E')], ['F'])).toContain('groundMissing')
    expect(at({ ground: ['C', 'F'] }, [splice('B', 'E')])).toContain('groundThroughDevice')
    expect(at({ line: ['A', 'C'] })).toContain('groundOnOther')
    expect(at({ neutral: ['C'] })).toContain('groundOnOther')
    expect(at({ ground: ['B'] })).toContain('groundOnOther')
    expect(at({}, [splice('B', 'E', 'C', 'F')])).toContain('groundOnOther')
  })
  test('electronics that return by ground or by another circuit’s neutral, however little they draw: 230 V, 2.6 mA', () => {
    const cables = [feed('2'), light(), feed('4', ['G', 'H', 'I'])]
    const rest = [splice('B', 'E'), splice('C', 'F', 'I')]
    const at = (neutral: string) =>
      blocks(
        cables,
        { devices: [{ gang: 1, terminals: { ...good.devices[0]!.terminals, neutral: [neutral] } }], splices: rest, capped: ['G', 'H'] },
        [device()],
        { nominalVolts: 230 },
      )
    expect(at('B')).toEqual([])
    expect(at('H')).toContain('neutralOfOther')
    expect(at('G')).toContain('lineAsNeutral')
    expect(at('D')).toContain('noPower')
    expect(at('C')).toContain('groundAsNeutral')
  })
  test('the feed that goes on: capped, put on the load, its neutral left out', () => {
    const onward = cable('onward', [
      ['G', 'black', 'lineOn'],
      ['H', 'white', 'neutralOn'],
      ['I', 'bare', 'ground'],
    ])
    const at = (line: string[], load: string[], neutrals: string[], capped: string[] = []) =>
      blocks([feed(), light(), onward], {
        devices: [{ gang: 1, terminals: { ...good.devices[0]!.terminals, line, load } }],
        splices: [splice(...neutrals), splice('C', 'F', 'I')],
        capped,
      })
    expect(at(['A', 'G'], ['D'], ['B', 'E', 'H'])).toEqual([])
    expect(at(['A'], ['D'], ['B', 'E', 'H'], ['G'])).toContain('onwardDead')
    expect(at(['A'], ['D', 'G'], ['B', 'E', 'H'])).toContain('onwardDead')
    expect(at(['A', 'G'], ['D'], ['B', 'E'], ['H'])).toContain('onwardDead')
  })
  test('a device that moves nothing', () => {
    const plan = { ...good, devices: [...good.devices, { gang: 2, terminals: { line: ['A'], neutral: ['B'], ground: ['C'], load: [] } }] }
    expect(blocks([feed(), light()], plan, [device(), device(relay, 2)])).toContain('movesNothing')
  })
  test('a traveler that is left out while the switch over there stays', () => {
    const there = cable(
      'farReturn',
      [
        ['G', 'white', 'farCommon'],
        ['H', 'black', 'traveler'],
        ['I', 'red', 'traveler'],
        ['J', 'bare', 'ground'],
      ],
      { far: 0, firstTraveler: 'H' },
    )
    const changeover = terminalModel({
      kind: 'switch',
      multiWay: 'commonTravelers',
      terminals: ['ground', 'neutral', 'common', 'traveler1', 'traveler2'],
    })
    const at = (t2: string[], capped: string[]) =>
      blocks(
        [feed(), light(), there],
        {
          devices: [{ gang: 1, terminals: { common: ['A'], traveler1: ['H'], traveler2: t2, neutral: ['B'], ground: ['C'] } }],
          splices: [splice('B', 'E'), splice('C', 'F', 'J'), splice('D', 'G')],
          capped,
        },
        [device(changeover)],
        { farSwitches: 1 },
      )
    expect(at(['I'], [])).toEqual([])
    expect(at([], ['I'])).toContain('travelerLoose')
  })
  test('travelers only here, the lamp and its neutral elsewhere: said, since no meter here shows whose neutral it is', () => {
    const there = cable('farTravelersToLight', [
      ['D', 'black', 'traveler'],
      ['E', 'red', 'traveler'],
    ])
    const said = codesOf([feed(), { ...there, far: 0, firstTraveler: 'D' }], {}, [], { farSwitches: 1 })
    expect(said.find(({ code }) => code === 'returnElsewhere')?.severity).toBe('warn')
  })
  test('a white conductor that carries the line is marked anew (NEC 200.7(C)); at 230 V the rule has no such name', () => {
    const swapped = cable('feed', [
      ['A', 'white', 'line', '2'],
      ['B', 'black', 'neutral', '2'],
      ['C', 'bare', 'ground'],
    ])
    expect(codesOf([swapped, light()], good).find(({ code }) => code === 'remark')).toMatchObject({
      severity: 'warn',
      rule: 'NEC 200.7(C)',
    })
    const blue = { ...swapped, wires: swapped.wires.map((wire) => (wire.letter === 'A' ? { ...wire, colour: 'blue' } : wire)) }
    const said = codesOf([blue, light()], good, [device()], { nominalVolts: 230 }).find(({ code }) => code === 'remark')
    expect(said?.severity).toBe('warn')
    expect(said).not.toHaveProperty('rule')
  })
})

describe('a neutral shared by two circuits', () => {
  const shared = (legs: KnownCable['legs']) =>
    cable(
      'sharedFeed',
      [
        ['A', 'black', 'line', '2'],
        ['B', 'red', 'line', '4'],
        ['C', 'white', 'sharedNeutral'],
        ['J', 'bare', 'ground'],
      ],
      { legs },
    )
  const plan: Partial<WiringPlan> = {
    devices: [
      { gang: 1, terminals: { line: ['A'], load: ['D'], neutral: ['C'], ground: ['J'] } },
      { gang: 2, terminals: { line: ['B'], load: ['G'], neutral: ['C'], ground: ['J'] } },
    ],
    splices: [splice('C', 'E', 'H'), splice('J', 'F', 'I')],
  }
  const at = (legs: KnownCable['legs'], change: Partial<WiringPlan> = {}) =>
    codesOf([shared(legs), light(), light(['G', 'H', 'I'])], { ...plan, ...change }, [device(), device(relay, 2)])
  test('on two legs it is good, and the lines open together (NEC 210.4(B))', () => {
    expect(at('apart').filter(({ severity }) => severity === 'block')).toEqual([])
    expect(at('apart').map(({ code }) => code)).toEqual(expect.arrayContaining(['sharedNeutral', 'openTogether']))
  })
  test('on one leg it carries the sum, and no breaker notices', () =>
    expect(at('together').find(({ code }) => code === 'sharedOneLeg')).toMatchObject({ severity: 'block', rule: 'NEC 210.4(B)' }))
  test('not read yet: said', () => expect(at(null).map(({ code }) => code)).toContain('legsUnread'))
  test('never through a device: spliced, with a pigtail (NEC 300.13(B))', () => {
    const through = [
      { gang: 1, terminals: { line: ['A'], load: ['D'], neutral: ['C', 'E', 'H'], ground: ['J'] } },
      { gang: 2, terminals: { line: ['B'], load: ['G'], neutral: [], ground: ['J'] } },
    ]
    expect(
      at('apart', { devices: through, splices: [splice('J', 'F', 'I')] }).find(({ code }) => code === 'neutralThroughDevice'),
    ).toMatchObject({
      severity: 'block',
      rule: 'NEC 300.13(B)',
    })
  })
  test('passed on: two lines of one circuit with it are refused', () => {
    const on = cable('sharedOnward', [
      ['K', 'black', 'lineOn'],
      ['L', 'red', 'lineOn'],
      ['M', 'white', 'neutralOn'],
    ])
    const passed = (a: string[], b: string[]) =>
      blocks(
        [shared('apart'), light(), light(['G', 'H', 'I']), on],
        { ...plan, splices: [splice('C', 'E', 'H', 'M'), splice('J', 'F', 'I'), splice(...a), splice(...b)] },
        [device(), device(relay, 2)],
      )
    expect(passed(['A', 'K'], ['B', 'L'])).toEqual([])
    expect(passed(['A', 'K', 'L'], ['B', 'B'])).toContain('onwardOneLine')
  })
})

test('both legs through a two-pole control: a single-pole device would leave one live', () => {
  const cables = [
    cable('twoPoleFeed', [
      ['A', 'black', 'line', '2'],
      ['B', 'white', 'line', '4'],
      ['C', 'bare', 'ground'],
    ]),
    cable('twoPoleLoad', [
      ['D', 'black', 'load'],
      ['E', 'white', 'load'],
      ['F', 'bare', 'ground'],
    ]),
  ]
  const plan = {
    devices: [{ gang: 1, terminals: { line: ['A'], load: ['D'], ground: ['C'] } }],
    splices: [splice('B', 'E'), splice('C', 'F')],
  }
  expect(blocks(cables, plan, [device(noNeutral)])).toContain('twoPole')
})

test('the two-way with tied commons: line and load stay here, the strap is heard', () => {
  const cables = [
    feed(),
    light(),
    cable(
      'farStraps',
      [
        ['G', 'white', 'traveler'],
        ['H', 'black', 'lineOn'],
        ['I', 'red', 'loadOn'],
      ],
      { far: 0, firstTraveler: 'H' },
    ),
  ]
  const found = boxOf(cables, {
    farSwitches: 1,
    splices: [
      ['B', 'E'],
      ['C', 'F'],
    ],
    oldSwitches: [{ contacts: 'threeWay', terminals: { common: ['G'], t1: ['A', 'H'], t2: ['D', 'I'] } }],
  })
  const listens = terminalModel({ kind: 'switch', multiWay: 'sensedTraveler', terminals: ['ground', 'neutral', 'load', 'line', 'sense'] })
  const devices = [device(listens)]
  const plan = proposePlan(found, cables, devices, { loads: [] })
  expect(plan.devices[0]!.terminals).toMatchObject({ line: ['A', 'H'], load: ['D'], sense: ['G'] })
  const { verification } = judge(found, [cables], plan, devices, [], options)
  expect(verification.verdicts.filter(({ severity }) => severity === 'block')).toEqual([])
  expect(verification.verdicts.map(({ code }) => code)).toContain('heard')
})

test('a plan holds only if it holds by every arrangement that fits', () => {
  // Two spliced feeds of one circuit: the plan leaves one of them out.
  const first = [
    feed(),
    light(),
    cable('onward', [
      ['G', 'black', 'lineOn'],
      ['H', 'white', 'neutralOn'],
      ['I', 'bare', 'ground'],
    ]),
  ]
  const second = [
    cable('onward', [
      ['A', 'black', 'lineOn'],
      ['B', 'white', 'neutralOn'],
      ['C', 'bare', 'ground'],
    ]),
    light(),
    feed('2', ['G', 'H', 'I']),
  ]
  const found = boxOf(first)
  const plan = { ...emptyPlan, ...good, splices: [splice('B', 'E', 'H'), splice('C', 'F', 'I')], capped: ['G'] }
  const whole = {
    ...plan,
    capped: [],
    devices: [{ gang: 1, terminals: { ...good.devices[0]!.terminals, line: ['A', 'G'] } }],
  }
  const said = (ways: KnownCable[][], of: WiringPlan) =>
    judge(found, ways, of, [device()], [], options).verification.verdicts.flatMap(({ severity, code }) =>
      severity === 'block' ? [code] : [],
    )
  expect(said([first, second], whole)).toEqual([])
  expect(said([first, second], plan)).toEqual(expect.arrayContaining(['onwardDead', 'noPower']))
})

test('every named rule is told in our own words', () => {
  for (const words of Object.values(namedRules)) expect(words.length).toBeGreaterThan(40)
})
