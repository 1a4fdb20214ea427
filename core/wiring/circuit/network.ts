import { add, complex, ComplexMatrix, fromPolar, magnitude, over, subtract, times, type Complex } from './complex-lu'

/**
 * One element between two nodes; node 0 is earth. Volts are RMS, angles degrees.
 * A clamped element is what LED lamps and electronics fed through the load look like: a leak, and above a threshold a
 * resistance (the threshold counts on the instantaneous voltage, so it is given as a peak).
 */
export type Element = { id?: string; a: number; b: number } & (
  | { kind: 'resistor'; ohms: number }
  | { kind: 'capacitor'; farads: number }
  | { kind: 'coil'; ohms: number; henries: number }
  | { kind: 'source'; volts: number; degrees: number; ohms: number }
  | { kind: 'clamped'; thresholdPeakVolts: number; leakOhms: number; onOhms: number }
)
export interface Network {
  /** Number of nodes, earth included. */
  nodes: number
  /** 0: direct current, as a continuity tester uses it. */
  hertz: number
  elements: Element[]
}

/** Every node leaks this much to earth: a wire that touches nothing still has insulation, and a defined voltage. */
export const leakOhms = 1e9
/** Clamped elements count as settled when none moves by more than this, volts. */
export const settledVolts = 1e-4
const mostRounds = 80

export type Solved = { ok: true; solution: Solution } | { ok: false; code: 'didNotSettle' | 'singular'; sentence: string }

/**
 * Conductance of a clamped element at a sine of this size: leak plus the describing function of a dead zone
 * (textbook control theory, from memory; checked against a transient simulation in the tests).
 */
export function clampedConductance(element: Extract<Element, { kind: 'clamped' }>, rmsVolts: number): number {
  const ratio = element.thresholdPeakVolts / (rmsVolts * Math.SQRT2)
  const leak = 1 / element.leakOhms
  if (!(ratio < 1)) return leak
  return leak + (1 - (2 / Math.PI) * (Math.asin(ratio) + ratio * Math.sqrt(1 - ratio * ratio))) / element.onOhms
}

function admittance(element: Element, hertz: number, clampedSiemens: number): Complex {
  const omega = 2 * Math.PI * hertz
  if (element.kind === 'resistor' || element.kind === 'source') return complex(1 / element.ohms)
  if (element.kind === 'capacitor') return complex(0, omega * element.farads)
  if (element.kind === 'coil') return over(complex(1), complex(element.ohms, omega * element.henries))
  return complex(clampedSiemens)
}

export class Solution {
  private readonly thevenin = new Map<string, Complex>()
  constructor(
    readonly network: Network,
    /** Null: it is made when something is asked of it. */
    private matrix: ComplexMatrix | null,
    private readonly volts: Complex[],
    private readonly siemens: number[],
    readonly rounds: number,
  ) {}
  at(node: number): Complex {
    return node === 0 ? complex(0) : this.volts[node - 1]!
  }
  between(a: number, b: number): Complex {
    return subtract(this.at(a), this.at(b))
  }
  /** Current from a to b through an element, amperes. */
  through(element: Element): Complex {
    const index = this.network.elements.indexOf(element)
    let across = this.between(element.a, element.b)
    if (element.kind === 'source') across = subtract(across, fromPolar(element.volts, element.degrees))
    return times(across, admittance(element, this.network.hertz, this.siemens[index]!))
  }
  /** What the network looks like from two nodes, ohms. */
  impedance(a: number, b: number): Complex {
    if (a === b) return complex(0)
    const key = `${Math.min(a, b)} ${Math.max(a, b)}`
    const known = this.thevenin.get(key)
    if (known) return known
    const right = this.volts.map(() => complex(0))
    if (a > 0) right[a - 1] = complex(1)
    if (b > 0) right[b - 1] = complex(-1)
    this.matrix ??= factored(this.network, this.siemens)!.matrix
    const answer = this.matrix.solve(right)
    const value = subtract(a > 0 ? answer[a - 1]! : complex(0), b > 0 ? answer[b - 1]! : complex(0))
    this.thevenin.set(key, value)
    return value
  }
  /** What a meter of this input resistance shows between two nodes, volts. */
  metered(a: number, b: number, meterOhms: number): number {
    const open = this.between(a, b)
    const inner = this.impedance(a, b)
    return magnitude(over(times(open, complex(meterOhms)), add(inner, complex(meterOhms))))
  }
}

/** The network's matrix, clamped elements at these conductances, and its right-hand side; null: it has no solution. */
function factored(network: Network, siemens: number[]): { matrix: ComplexMatrix; right: Complex[] } | null {
  const size = network.nodes - 1
  const matrix = new ComplexMatrix(size)
  const right = Array.from({ length: size }, () => complex(0))
  for (let node = 0; node < size; node++) matrix.add(node, node, complex(1 / leakOhms))
  network.elements.forEach((element, index) => {
    const y = admittance(element, network.hertz, siemens[index]!)
    const a = element.a - 1
    const b = element.b - 1
    if (element.a === element.b) return
    if (a >= 0) matrix.add(a, a, y)
    if (b >= 0) matrix.add(b, b, y)
    if (a >= 0 && b >= 0) {
      const minus = complex(-y.re, -y.im)
      matrix.add(a, b, minus)
      matrix.add(b, a, minus)
    }
    if (element.kind === 'source') {
      const push = times(fromPolar(element.volts, element.degrees), y)
      if (a >= 0) right[a] = add(right[a]!, push)
      if (b >= 0) right[b] = subtract(right[b]!, push)
    }
  })
  return matrix.factor() ? { matrix, right } : null
}

/**
 * Solves a network by nodal analysis. The clamped elements are taken out as ports: the rest is factored once, and they are
 * settled one after the other in a system of their own size.
 */
export function solveNetwork(network: Network): Solved {
  const siemens = network.elements.map((element) => (element.kind === 'clamped' ? 1 / element.leakOhms : 0))
  const rest = factored(network, siemens)
  if (!rest) return { ok: false, code: 'singular', sentence: 'This wiring has no solution: two sources are tied together.' }
  const volts = rest.matrix.solve(rest.right)
  const clamped = network.elements.flatMap((element, index) =>
    element.kind === 'clamped' && element.a !== element.b ? [{ element, index }] : [],
  )
  if (!clamped.length) return { ok: true, solution: new Solution(network, rest.matrix, volts, siemens, 0) }

  const across = (of: Complex[], { a, b }: Element) => subtract(a > 0 ? of[a - 1]! : complex(0), b > 0 ? of[b - 1]! : complex(0))
  /** Volts everywhere for one ampere into a port. */
  const perAmpere = clamped.map(({ element: { a, b } }) => {
    const right = volts.map(() => complex(0))
    if (a > 0) right[a - 1] = complex(1)
    if (b > 0) right[b - 1] = complex(-1)
    return rest.matrix.solve(right)
  })
  const open = clamped.map(({ element }) => across(volts, element))
  const impedance = clamped.map(({ element }) => perAmpere.map((of) => across(of, element)))
  /** What each port takes beyond its leak, siemens. */
  const extra = clamped.map(() => 0)
  const ports = () => {
    const matrix = new ComplexMatrix(clamped.length)
    impedance.forEach((row, one) =>
      row.forEach((value, other) => matrix.add(one, other, add(complex(one === other ? 1 : 0), times(value, complex(extra[other]!))))),
    )
    return matrix.factor() ? matrix : null
  }
  for (let round = 0; round <= mostRounds; round++) {
    const matrix = ports()
    if (!matrix) break
    const here = matrix.solve(open)
    let moved = 0
    clamped.forEach(({ element, index }, port) => {
      const size = magnitude(here[port]!)
      moved = Math.max(moved, size * Math.abs(1 - siemens[index]! / clampedConductance(element, size)))
    })
    if (moved < settledVolts) {
      const settled = volts.map((value, node) =>
        perAmpere.reduce((sum, of, port) => subtract(sum, times(of[node]!, times(here[port]!, complex(extra[port]!)))), value),
      )
      return { ok: true, solution: new Solution(network, null, settled, siemens, round) }
    }
    // One element is settled a round; with several, they take turns.
    const port = round % clamped.length
    const { element, index } = clamped[port]!
    const withIt = matrix.solve(impedance.map((row) => row[port]!))[port]!
    siemens[index] = settle(element, here[port]!, withIt, extra[port]!)
    extra[port] = siemens[index] - 1 / element.leakOhms
  }
  return { ok: false, code: 'didNotSettle', sentence: 'The lamps do not settle: expect flicker, and no reading to rely on.' }
}

/**
 * Conductance at which one clamped element agrees with the network it sees.
 * @param across volts at it, and `withIt` the impedance there, while it takes `extra` siemens beyond its leak
 */
function settle(element: Extract<Element, { kind: 'clamped' }>, across: Complex, withIt: Complex, extra: number): number {
  const leak = 1 / element.leakOhms
  // Take the element itself out of the impedance and the voltage it is seen with; its leak may stay.
  const rest = over(withIt, subtract(complex(1), times(withIt, complex(extra))))
  const open = magnitude(times(across, add(complex(1), times(rest, complex(extra)))))
  let low = 0
  let high = open
  for (let step = 0; step < 60; step++) {
    const volts = (low + high) / 2
    const load = magnitude(add(complex(1), times(rest, complex(clampedConductance(element, volts) - leak))))
    if (volts * load > open) high = volts
    else low = volts
  }
  return clampedConductance(element, (low + high) / 2)
}
