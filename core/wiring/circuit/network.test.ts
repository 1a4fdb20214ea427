import { clampedConductance, leakOhms, solveNetwork, type Element, type Network } from './network'
import { magnitude } from './complex-lu'
import { Chance } from '../../chance'

type Spice = {
  start(): Promise<void>
  setNetList(text: string): void
  runSim(): Promise<{ variableNames: string[]; data: { name: string; values: unknown[] }[] }>
}
let spice: Spice
beforeAll(async () => {
  const { Simulation } = (await import('eecircuit-engine')) as unknown as { Simulation: new () => Spice }
  spice = new Simulation()
  await spice.start()
}, 60_000)

/** The same network in the words of a SPICE netlist, with the same explicit leak at every node. */
function netlist(network: Network, analysis: string): string {
  const node = (index: number) => (index === 0 ? '0' : `n${index}`)
  const lines = network.elements.flatMap((element, index) => {
    const ends = `${node(element.a)} ${node(element.b)}`
    if (element.kind === 'resistor') return [`R${index} ${ends} ${element.ohms}`]
    if (element.kind === 'capacitor') return [`C${index} ${ends} ${element.farads}`]
    if (element.kind === 'coil')
      return [`L${index} ${node(element.a)} m${index} ${element.henries}`, `R${index} m${index} ${node(element.b)} ${element.ohms}`]
    if (element.kind === 'source')
      return [
        `V${index} m${index} ${node(element.b)} dc 0 ac ${element.volts} ${element.degrees} sin(0 ${element.volts * Math.SQRT2} ${network.hertz} 0 0 ${element.degrees})`,
        `R${index} m${index} ${node(element.a)} ${element.ohms}`,
      ]
    const v = `v(${node(element.a)},${node(element.b)})`
    return [
      `R${index} ${ends} ${element.leakOhms}`,
      `B${index} ${ends} i=(${v} > ${element.thresholdPeakVolts} ? (${v} - ${element.thresholdPeakVolts})/${element.onOhms} : (${v} < -${element.thresholdPeakVolts} ? (${v} + ${element.thresholdPeakVolts})/${element.onOhms} : 0))`,
    ]
  })
  const leaks = Array.from({ length: network.nodes - 1 }, (_, index) => `Rleak${index + 1} n${index + 1} 0 ${leakOhms}`)
  return ['wiring', ...lines, ...leaks, analysis, '.end'].join('\n')
}
const solved = (network: Network) => {
  const answer = solveNetwork(network)
  if (!answer.ok) throw new Error(answer.sentence)
  return answer.solution
}

/** Networks such as homes have: legs of a supply, returns, loads, floating conductors, and capacitance between neighbours. */
function randomNetwork(random: () => number): Network {
  const nodes = 4 + Math.floor(random() * 30)
  const any = () => Math.floor(random() * nodes)
  const elements: Element[] = []
  const between = (): { a: number; b: number } => {
    const a = any()
    const b = any()
    return a === b ? between() : { a, b }
  }
  const legs = 1 + Math.floor(random() * 2)
  for (let leg = 0; leg < legs; leg++)
    elements.push({
      kind: 'source',
      a: 1 + leg,
      b: 0,
      volts: random() < 0.5 ? 120 : 230,
      degrees: leg * (random() < 0.5 ? 180 : 120),
      ohms: 0.1 + random(),
    })
  for (let count = 0; count < nodes; count++) {
    const what = random()
    if (what < 0.4) elements.push({ kind: 'resistor', ...between(), ohms: 10 ** (random() * 6 - 1) })
    else if (what < 0.85) elements.push({ kind: 'capacitor', ...between(), farads: (0.5 + random() * 20) * 60e-12 })
    else elements.push({ kind: 'coil', ...between(), ohms: 5 + random() * 200, henries: 0.01 + random() * 0.3 })
  }
  return { nodes, hertz: random() < 0.5 ? 60 : 50, elements }
}

test('220 linear networks agree with a circuit simulator (ngspice) at every node, within 0.5 % or 5 mV', async () => {
  const chance = new Chance(4242)
  const random = () => chance.next()
  for (let round = 0; round < 220; round++) {
    const network = randomNetwork(random)
    const ours = solved(network)
    spice.setNetList(netlist(network, `.ac lin 1 ${network.hertz} ${network.hertz}`))
    const { data } = await spice.runSim()
    for (let node = 1; node < network.nodes; node++) {
      const column = data.find((one) => one.name.toLowerCase() === `v(n${node})`)!
      const { real, img } = column.values[0] as { real: number; img: number }
      const here = ours.at(node)
      const apart = Math.hypot(here.re - real, here.im - img)
      if (apart > Math.max(0.005, 0.005 * Math.hypot(real, img)))
        throw new Error(`Network ${round}, node ${node}: ours ${here.re} ${here.im}, theirs ${real} ${img}\n${netlist(network, '')}`)
    }
  }
}, 120_000)

describe('lamps that are not linear: on, glowing or dark as in a transient simulation (ngspice)', () => {
  const led = (watts: number, volts: number): Extract<Element, { kind: 'clamped' }> => ({
    kind: 'clamped',
    a: 2,
    b: 0,
    thresholdPeakVolts: 0.5 * Math.SQRT2 * volts,
    leakOhms: 1e6,
    onOhms: (0.391 * volts * volts) / watts,
  })
  // Series element before the lamp, ohms: a wire, a lamp in series, electronics fed through the load, a floating conductor.
  test.each([
    [120, 9, 0.3],
    [120, 9, 500],
    [120, 60, 200],
    [120, 9, 60_000],
    [230, 5, 0.3],
    [230, 5, 115_000],
    [230, 60, 115_000],
    [230, 5, 10_000],
    [230, 9, 2e6],
    [120, 4.5, 4000],
  ])('%d V, %d W, %d Ω before it', async (volts, watts, ohms) => {
    const lamp = led(watts, volts)
    const network: Network = {
      nodes: 3,
      hertz: 60,
      elements: [{ kind: 'source', a: 1, b: 0, volts, degrees: 0, ohms: 0.2 }, { kind: 'resistor', a: 1, b: 2, ohms }, lamp],
    }
    const solution = solved(network)
    const oursVolts = magnitude(solution.at(2))
    const oursWatts = oursVolts ** 2 * clampedConductance(lamp, oursVolts)
    spice.setNetList(netlist(network, '.tran 20u 66.6667m 33.3333m 20u'))
    const { data } = await spice.runSim()
    const time = data.find((one) => one.name.toLowerCase() === 'time')!.values as number[]
    const across = data.find((one) => one.name.toLowerCase() === 'v(n2)')!.values as number[]
    let power = 0
    for (let index = 1; index < time.length; index++) {
      const v = across[index]!
      const beyond = Math.max(0, Math.abs(v) - lamp.thresholdPeakVolts)
      power += (time[index]! - time[index - 1]!) * ((v * v) / lamp.leakOhms + (Math.abs(v) * beyond) / lamp.onOhms)
    }
    power /= time.at(-1)! - time[0]!
    const seen = (share: number) => (share >= 0.5 ? 'on' : share >= 0.02 ? 'dim' : share >= 0.0005 ? 'glow' : 'off')
    expect(seen(oursWatts / watts)).toBe(seen(power / watts))
  })
})

test('a meter’s reading is what the network gives with the meter in it', () => {
  const chance = new Chance(7)
  const random = () => chance.next()
  for (let round = 0; round < 40; round++) {
    const network = randomNetwork(random)
    const a = 1 + Math.floor(random() * (network.nodes - 1))
    const b = (a + 1) % network.nodes
    const read = solved(network).metered(a, b, 4000)
    const loaded = solved({ ...network, elements: [...network.elements, { kind: 'resistor', a, b, ohms: 4000 }] })
    expect(read).toBeCloseTo(magnitude(loaded.between(a, b)), 4)
  }
})

test('two legs of one supply make twice the voltage; a conductor that touches nothing carries next to none', () => {
  const solution = solved({
    nodes: 4,
    hertz: 60,
    elements: [
      { kind: 'source', a: 1, b: 0, volts: 120, degrees: 0, ohms: 0.2 },
      { kind: 'source', a: 2, b: 0, volts: 120, degrees: 180, ohms: 0.2 },
      { kind: 'capacitor', a: 1, b: 3, farads: 600e-12 },
      { kind: 'capacitor', a: 3, b: 0, farads: 600e-12 },
    ],
  })
  expect(magnitude(solution.between(1, 2))).toBeCloseTo(240, 1)
  // Ghost voltage: tens of volts on a high-impedance meter, nothing on a low-impedance one (common practice, no source).
  expect(solution.metered(3, 0, 10e6)).toBeGreaterThan(20)
  expect(solution.metered(3, 0, 4000)).toBeLessThan(1)
})
