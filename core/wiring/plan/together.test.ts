import type { AsFoundBox } from '../identify/found-box'
import type { RunKind, WireRole } from '../identify/roles'
import { terminalModel } from '../terminal-model'
import type { KnownCable } from './outside'
import { emptyPlan } from './plan-words'
import { verifyTogether, type BoxOfGroup } from './together'

const cable = (id: string, run: RunKind, far: number | null, wires: [string, string, WireRole, string?][]): KnownCable => ({
  id,
  run,
  far,
  firstTraveler: null,
  legs: null,
  wires: wires.map(([letter, colour, role, circuit]) => ({ letter, colour, role, circuit: circuit ?? null })),
})
const found: AsFoundBox = {
  ...{
    nominalVolts: 120,
    circuits: ['7'],
    amps: { 7: 15 },
    cables: [],
    splices: [],
    oldSwitches: [],
    farSwitches: 1,
    complete: true,
    wiredYear: null,
  },
  guards: {},
} as AsFoundBox
const listening = terminalModel({ kind: 'switch', terminals: ['ground', 'neutral', 'load', 'line', 'sense'], multiWay: 'sensedTraveler' })
const companion = terminalModel({ kind: 'companion', terminals: ['ground', 'neutral', 'sense'], multiWay: 'companion' })
const loads = [{ technology: 'led' as const, watts: 18 }]

/** As it arrives from the door. */
const toDoor = () =>
  cable('to door', 'farFeed', 0, [
    ['A', 'black', 'traveler'],
    ['B', 'red', 'traveler'],
    ['C', 'white', 'neutral', '7'],
    ['D', 'bare', 'ground'],
  ])

/** The feed comes in at the door, the lamp hangs on the stair box, a three-conductor cable with {a ground} joins the two. */
function stairs(): [BoxOfGroup, BoxOfGroup] {
  const door: BoxOfGroup = {
    name: 'door',
    found,
    cables: [
      cable('feed', 'feed', null, [
        ['A', 'black', 'line', '7'],
        ['B', 'white', 'neutral', '7'],
        ['C', 'bare', 'ground'],
      ]),
      cable('to stair', 'farLight', 0, [
        ['D', 'black', 'traveler'],
        ['E', 'red', 'traveler'],
        ['F', 'white', 'neutralOn'],
        ['G', 'bare', 'ground'],
      ]),
    ],
    devices: [{ gang: 1, name: 'companion', model: companion }],
    plan: {
      ...emptyPlan,
      devices: [{ gang: 1, terminals: { sense: ['E'], neutral: ['B'], ground: ['C'] } }],
      splices: [
        { letters: ['A', 'D'], holds: null },
        { letters: ['B', 'F'], holds: null },
        { letters: ['C', 'G'], holds: null },
      ],
    },
    loads,
  }
  const stair: BoxOfGroup = {
    name: 'stair',
    found,
    cables: [
      toDoor(),
      cable('lamp', 'light', null, [
        ['E', 'black', 'load'],
        ['F', 'white', 'neutralOn'],
        ['G', 'bare', 'ground'],
      ]),
    ],
    devices: [{ gang: 1, name: 'switch', model: listening }],
    plan: {
      ...emptyPlan,
      devices: [{ gang: 1, terminals: { line: ['A'], load: ['E'], neutral: ['C'], sense: ['B'], ground: ['D'] } }],
      splices: [
        { letters: ['C', 'F'], holds: null },
        { letters: ['D', 'G'], holds: null },
      ],
    },
    loads,
  }
  return [door, stair]
}
const codes = (boxes: BoxOfGroup[], severity: 'block' | 'good' = 'block') => {
  const answer = verifyTogether(boxes)
  return answer.ok ? answer.verdicts.filter((one) => one.severity === severity).map(({ code }) => code) : [answer.why]
}

describe('two boxes that switch one lamp', () => {
  test('laid for each other they are proven as one, from either end', () => {
    const [door, stair] = stairs()
    for (const boxes of [
      [door, stair],
      [stair, door],
    ]) {
      expect(codes(boxes)).toEqual([])
      expect(codes(boxes, 'good')).toEqual(['works'])
    }
    const answer = verifyTogether([door, stair])
    expect(answer).toMatchObject({
      ok: true,
      verdicts: [{ text: expect.stringMatching(/^The light on E in stair works in \d+ of \d+ positions/) }],
    })
  })
  test('each right by itself and wrong together: the line goes out on the conductor that the other box listens on', () => {
    const [door, stair] = stairs()
    door.plan.devices[0]!.terminals.sense = ['D']
    door.plan.splices[0]!.letters = ['A', 'E']
    expect(codes([door, stair])).toEqual(expect.arrayContaining(['noPower', 'notHeard']))
    const answer = verifyTogether([door, stair])
    expect(answer.ok && answer.verdicts.map(({ text }) => text)).toContainEqual(expect.stringMatching(/^Gang 1 in stair has no power/))
  })
  test('both take themselves for the companion: nothing switches the lamp', () => {
    const [door, stair] = stairs()
    stair.devices = [{ gang: 1, name: 'companion', model: companion }]
    stair.plan.devices = [{ gang: 1, terminals: { sense: ['B'], neutral: ['C'], ground: ['D'] } }]
    stair.plan.splices.push({ letters: ['A', 'E'], holds: null })
    expect(codes([door, stair])).toEqual(expect.arrayContaining(['notHeard', 'alwaysOn']))
  })
  test('both carry the load: it follows neither', () => {
    const [door, stair] = stairs()
    door.devices = [{ gang: 1, name: 'switch', model: listening }]
    door.plan.devices = [{ gang: 1, terminals: { line: ['A'], load: ['D'], neutral: ['B'], ground: ['C'] } }]
    door.plan.splices.shift()
    door.plan.capped = ['E']
    expect(codes([door, stair])).toEqual(expect.arrayContaining(['noPower']))
  })
  test('a neutral that is spliced in the one box and left out in the other', () => {
    const [door, stair] = stairs()
    door.plan.splices[1]!.letters = ['B']
    expect(codes([door, stair])).toContain('noPower')
  })
  test('conductors of one colour: right only one way round is not right', () => {
    const [door, stair] = stairs()
    for (const [box, letter] of [
      [door, 'E'],
      [stair, 'B'],
    ] as const)
      for (const one of box.cables) for (const wire of one.wires) if (wire.letter === letter && one.far === 0) wire.colour = 'black'
    expect(codes([door, stair])).toEqual(expect.arrayContaining(['noPower']))
    const answer = verifyTogether([door, stair])
    expect(answer.ok && answer.verdicts.some(({ text }) => /the other way round: ring them out/.test(text))).toBe(true)
  })
  test('where something waits for the answer, what takes too long is said to be unproven, not right or wrong', () => {
    expect(verifyTogether(stairs(), 2)).toEqual({ ok: false, why: 'tooMany' })
  })
  test('what cannot be joined is said: another number of conductors, power that comes from in between', () => {
    const [door, stair] = stairs()
    expect(
      codes([door, { ...stair, cables: stair.cables.map((one) => (one.far === 0 ? { ...one, wires: one.wires.slice(1) } : one)) }]),
    ).toEqual(['notLinked'])
    expect(codes([{ ...door, cables: door.cables.slice(1) }, stair])).toEqual(['suppliedBetween'])
  })
})

test('three boxes, a 4-way between two 3-ways that stay: every position of all is gone through', () => {
  const [door, stair] = stairs()
  const both = (splices: string[][]) => splices.map((letters) => ({ letters, holds: null }))
  // Travelers through: 3-way at the door, 4-way on the landing, 3-way at the stair, all of them old switches that stay.
  const old = (contacts: 'threeWay' | 'fourWay') => ({ contacts, terminals: {} })
  const first: BoxOfGroup = {
    ...door,
    found: { ...found, oldSwitches: [old('threeWay')] } as AsFoundBox,
    devices: [],
    plan: {
      ...emptyPlan,
      kept: [{ old: 1, terminals: { common: ['A'], t1: ['D'], t2: ['E'] } }],
      splices: both([
        ['B', 'F'],
        ['C', 'G'],
      ]),
    },
  }
  const landing: BoxOfGroup = {
    name: 'landing',
    found: { ...found, oldSwitches: [old('fourWay')] } as AsFoundBox,
    cables: [
      toDoor(),
      cable('to stair', 'farLight', 1, [
        ['E', 'black', 'traveler'],
        ['F', 'red', 'traveler'],
        ['G', 'white', 'neutralOn'],
        ['H', 'bare', 'ground'],
      ]),
    ],
    devices: [],
    plan: {
      ...emptyPlan,
      kept: [{ old: 1, terminals: { a1: ['A'], a2: ['B'], b1: ['E'], b2: ['F'] } }],
      splices: both([
        ['C', 'G'],
        ['D', 'H'],
      ]),
    },
    loads,
  }
  const last: BoxOfGroup = {
    ...stair,
    found: { ...found, oldSwitches: [old('threeWay')] } as AsFoundBox,
    devices: [],
    plan: {
      ...emptyPlan,
      kept: [{ old: 1, terminals: { common: ['E'], t1: ['A'], t2: ['B'] } }],
      splices: both([
        ['C', 'F'],
        ['D', 'G'],
      ]),
    },
  }
  const answer = verifyTogether([first, landing, last])
  expect(answer.ok && answer.verdicts.filter(({ severity }) => severity === 'block')).toEqual([])
  // The landing's switch wired like a 3-way: not every place switches from every position any more.
  const broken = structuredClone(landing)
  broken.plan.kept[0]!.terminals = { a1: ['A'], a2: ['B'], b1: ['E'] }
  expect(codes([first, broken, last])).toContain('deadInState')
  // A cable joined to the wrong end of the landing's switch: still two positions each, and a lamp that follows none of them.
  const crossed = structuredClone(landing)
  crossed.plan.kept[0]!.terminals = { a1: ['A'], a2: ['E'], b1: ['B'], b2: ['F'] }
  expect(codes([first, crossed, last]).length).toBeGreaterThan(0)
})
