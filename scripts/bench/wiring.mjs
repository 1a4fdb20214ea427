// npm run bench:wiring: how long the wiring's computation takes, beside a baseline of the same run, because machines differ.
import { needPackages, say } from '../lib/host.mjs'

needPackages()
const { loadCore } = await import('../testing/wiring/bundle.mjs')
const core = await loadCore('core/wiring/index.ts')
const { practiceBoxes, practiceMeter } = await loadCore('core/wiring/practice/index.ts')
const { solveNetwork } = await loadCore('core/wiring/circuit/network.ts')

const middle = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]
function time(rounds, work) {
  for (let warm = 0; warm < 5; warm++) work()
  const taken = []
  for (let round = 0; round < rounds; round++) {
    const started = performance.now()
    work()
    taken.push(performance.now() - started)
  }
  return middle(taken)
}
const square = new Float64Array(60 * 60).map((_, index) => Math.sin(index))
const baseline = time(50, () => {
  const out = new Float64Array(3600)
  for (let i = 0; i < 60; i++)
    for (let j = 0; j < 60; j++) for (let k = 0; k < 60; k++) out[i * 60 + j] += square[i * 60 + k] * square[k * 60 + j]
  return out
})
say(`baseline, product of two 60 × 60 matrices: ${baseline.toFixed(2)} ms`)
function row(what, milliseconds, limit) {
  say(
    `${milliseconds < limit ? 'met   ' : 'MISSED'} ${what}: ${milliseconds.toFixed(1)} ms, ${(milliseconds / baseline).toFixed(1)} × baseline (wanted: under ${limit} ms)`,
  )
  if (milliseconds >= limit) process.exitCode = 1
}

// A box of 60 nodes: two legs, loads, and conductors that couple to their neighbours.
const elements = [
  { kind: 'source', a: 1, b: 0, volts: 120, degrees: 0, ohms: 0.25 },
  { kind: 'source', a: 2, b: 0, volts: 120, degrees: 180, ohms: 0.25 },
]
for (let node = 3; node < 60; node++) {
  elements.push({ kind: node % 3 ? 'capacitor' : 'resistor', a: node, b: node - 2, farads: 600e-12, ohms: 240 })
  elements.push({ kind: 'capacitor', a: node, b: node - 1, farads: 600e-12 })
}
const network = { nodes: 60, hertz: 60, elements }
row(
  'solve a box of 60 nodes',
  time(100, () => solveNetwork(network)),
  2,
)

// Three gangs, two of them multi-way.
const core4 = (id, ...cores) => ({ id, cores: cores.map(([letter, colour]) => ({ letter, colour })) })
const wire = (letter, colour, role, circuit = null) => ({ letter, colour, role, circuit })
const cables = [
  { id: 'feed', run: 'feed', wires: [wire('A', 'black', 'line', '2'), wire('B', 'white', 'neutral', '2'), wire('C', 'bare', 'ground')] },
  { id: 'light', run: 'light', wires: [wire('D', 'black', 'load'), wire('E', 'white', 'neutralOn'), wire('F', 'bare', 'ground')] },
  {
    id: 'first',
    run: 'farLight',
    far: 0,
    wires: [wire('G', 'black', 'traveler'), wire('H', 'red', 'traveler'), wire('I', 'white', 'neutralOn'), wire('J', 'bare', 'ground')],
  },
  {
    id: 'second',
    run: 'farLight',
    far: 1,
    wires: [wire('K', 'black', 'traveler'), wire('L', 'red', 'traveler'), wire('M', 'white', 'neutralOn'), wire('N', 'bare', 'ground')],
  },
]
const found = {
  nominalVolts: 120,
  circuits: ['2'],
  farSwitches: 2,
  cables: cables.map((cable) => core4(cable.id, ...cable.wires.map(({ letter, colour }) => [letter, colour]))),
  splices: [
    ['B', 'E', 'I', 'M'],
    ['C', 'F', 'J', 'N'],
  ],
  oldSwitches: [
    { contacts: 'single', terminals: { a: ['A'], b: ['D'] } },
    { contacts: 'threeWay', terminals: { common: ['A'], t1: ['G'], t2: ['H'] } },
    { contacts: 'threeWay', terminals: { common: ['A'], t1: ['K'], t2: ['L'] } },
  ],
  complete: true,
}
const single = core.terminalModel({ kind: 'switch', terminals: ['ground', 'neutral', 'load', 'line'], multiWay: 'single' })
const multi = core.terminalModel({
  kind: 'dimmer',
  terminals: ['ground', 'neutral', 'common', 'traveler1', 'traveler2'],
  multiWay: 'commonTravelers',
})
const devices = [
  { gang: 1, name: 'one', model: single },
  { gang: 2, name: 'two', model: multi },
  { gang: 3, name: 'three', model: multi },
]
const plan = core.proposePlan(found, cables, devices, { loads: [{ technology: 'led', watts: 12 }] })
const home = core.homeOf(found, cables, plan, devices, [{ technology: 'led', watts: 12 }])
const options = { order: 'groundNeutralLoadLine', metric: false, gauge: '14 AWG' }
const verified = core.verify(found, cables, plan, home, options)
say(`three gangs: ${verified.states} states, ${verified.verdicts.filter((verdict) => verdict.severity === 'good').length} lights work`)
row(
  'verify three gangs with two multi-way groups, LED lamps',
  time(10, () => core.verify(found, cables, plan, home, options)),
  150,
)

// The next best test, at every step of the box with twelve conductors.
const box = practiceBoxes.find((one) => one.id === 'sail-room')
const meter = practiceMeter(box, 1)
const readings = []
let energised = false
const steps = []
for (;;) {
  const started = performance.now()
  const advice = core.nextTest(box.found, readings, energised)
  steps.push(performance.now() - started)
  if (advice.done) break
  energised = advice.next.energised
  for (const test of advice.next.tests) readings.push(meter.read(test))
}
row(`next best test, 12 conductors, the slowest of ${steps.length} steps`, Math.max(...steps), 300)

const rows = [...core.everyPosition(home)]
const seen = core.predictSeen(home, [{ kind: 'swapped', a: 'gang2:common', b: 'gang2:traveler1' }], rows)
row(
  'diagnose three gangs from a whole table',
  time(3, () => core.diagnose(home, seen)),
  1000,
)

const { Simulation } = await import('eecircuit-engine')
const spice = new Simulation()
await spice.start()
const node = (index) => (index ? `n${index}` : '0')
spice.setNetList(
  [
    'wiring',
    ...elements.flatMap((element, index) =>
      element.kind === 'source'
        ? [
            `V${index} m${index} ${node(element.b)} dc 0 ac ${element.volts} ${element.degrees}`,
            `R${index} m${index} ${node(element.a)} ${element.ohms}`,
          ]
        : element.kind === 'resistor'
          ? [`R${index} ${node(element.a)} ${node(element.b)} ${element.ohms}`]
          : [`C${index} ${node(element.a)} ${node(element.b)} ${element.farads}`],
    ),
    ...Array.from({ length: 59 }, (_, index) => `Rleak${index + 1} n${index + 1} 0 1e9`),
    '.ac lin 1 60 60',
    '.end',
  ].join('\n'),
)
const theirs = []
for (let round = 0; round < 12; round++) {
  const started = performance.now()
  await spice.runSim()
  theirs.push(performance.now() - started)
}
const ours = time(100, () => solveNetwork(network))
say(
  `the same 60 nodes in a general circuit simulator (ngspice): ${middle(theirs).toFixed(1)} ms, ${(middle(theirs) / ours).toFixed(0)} times as long`,
)
