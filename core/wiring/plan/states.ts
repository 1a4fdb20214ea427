import { add, magnitude, subtract, type Complex } from '../circuit/complex-lu'
import { solveHome, type HomeSolution } from '../home'
import type { AsFoundBox } from '../identify/found-box'
import { isNeutral } from '../identify/roles'
import type { PlanWire } from './other-locations'
import { neutralSees } from './outside'
import type { PlannedHome, WiringPlan } from './plan'
import { everyPosition, positionWords } from './positions'
import type { Say, SolvedRow } from './verdicts'

/**
 * Solves every combination of positions, and each with every combination of breakers, and says what the currents do wrong.
 * @returns the rows with every breaker closed that settled, and how many states were solved
 */
export function solveStates(found: AsFoundBox, plan: WiringPlan, wires: PlanWire[], home: PlannedHome, say: Say) {
  const table: SolvedRow[] = []
  /** Positions in which a breaker trips, other than at once. */
  const tripped = new Map<string, string[]>()
  const everyWay = [...everyPosition(home)]
  const partlyClosed = partlyClosedOf(found.circuits)
  let states = 0
  for (const positions of everyWay) {
    states++
    const answer = solveHome(home.wiring, { closed: found.circuits, positions })
    const words = positionWords(home, positions)
    if (!answer.ok) {
      say('block', 'didNotSettle', `${words || 'As drawn'}: ${answer.sentence}`)
      continue
    }
    const solution = answer.home
    const trips = solution.trips()
    for (const trip of trips)
      if (trip.why === 'short')
        say('block', 'short', `Short when energised: {breaker} ${trip.circuitId} trips at once${words ? ` (${words})` : ''}.`)
      else {
        const key = `${trip.circuitId} ${trip.why}`
        tripped.set(key, [...(tripped.get(key) ?? []), words])
      }
    if (!trips.some((trip) => trip.why === 'short')) checkReturns(solution, found.circuits, plan, wires, say)
    // One breaker open, another closed: nothing of the open one may be live, and what the others carry still comes home.
    for (const closed of partlyClosed) {
      states++
      const partly = solveHome(home.wiring, { closed, positions })
      if (!partly.ok) continue
      checkReturns(partly.home, found.circuits, plan, wires, say)
      checkOpened(partly.home, found, say)
    }
    table.push({
      positions,
      lights: Object.fromEntries(home.outside.lights.map((light) => [light.id, solution.light(light.id)])),
      home: solution,
    })
  }
  for (const [key, positions] of tripped) {
    const [circuit, why] = key.split(' ')
    const when = `in ${positions.length} of ${everyWay.length} positions, such as ${positions[0]}`
    say(
      'block',
      'trips',
      why === 'residual'
        ? `{Breaker} ${circuit} trips ${when}: current of its line comes back another way.`
        : `{Breaker} ${circuit} is overloaded ${when}.`,
    )
  }
  return { table, states }
}

/** The combinations of breakers in which some are open and some closed. */
function partlyClosedOf(circuits: string[]): string[][] {
  return Array.from({ length: 2 ** circuits.length }, (_, closed) => circuits.filter((__, index) => (closed >> index) & 1)).filter(
    (closed) => closed.length > 0 && closed.length < circuits.length,
  )
}

/** Current that comes home another way than by its own neutral. */
function checkReturns(solution: HomeSolution, circuits: string[], plan: WiringPlan, wires: PlanWire[], say: Say) {
  for (const circuit of circuits) {
    // Circuits of a multi-wire feed have one neutral: what one sends out may come home as the other's.
    const mates = wires
      .filter(({ role }) => role === 'sharedNeutral')
      .map(neutralSees)
      .find((pair) => pair.includes(circuit)) ?? [circuit]
    const sum = (amps: (id: string) => Complex) => mates.map(amps).reduce(add)
    const out = sum((id) => solution.lineAmps(id))
    const back = sum((id) => solution.neutralAmps(id))
    const residual = magnitude(subtract(out, back))
    // Who borrows shows where this circuit alone carries a load: its own neutral brings less back than its line sends out.
    const own = magnitude(out)
    const alone = circuits.every((other) => mates.includes(other) || magnitude(solution.lineAmps(other)) < 0.1 * own)
    const borrows = alone && own > magnitude(back)
    if (residual < 0.003 || !borrows) continue
    const lender = circuits.find((other) => !mates.includes(other) && solution.residualAmps(other) > residual / 2)
    if (lender)
      say(
        'block',
        'neutralOfOther',
        `The neutral of circuit ${lender} carries the current of circuit ${circuit}. Never use a neutral of another circuit.${returnHint(plan, wires, circuit)}`,
      )
    else say('block', 'groundAsNeutral', `The {ground} carries the current of circuit ${circuit}: it is used as a neutral.`)
  }
}

/** A line that stays live with its breaker open is fed by another circuit; a ghost would not hold against a low-impedance meter. */
function checkOpened(solution: HomeSolution, found: AsFoundBox, say: Say) {
  const { closed } = solution.setting
  for (const circuit of found.circuits)
    if (!closed.includes(circuit) && solution.metered(`${circuit}.line`, 'earth', 'low') > 0.2 * found.nominalVolts)
      say(
        'block',
        'circuitsTied',
        `With {breaker} ${circuit} open its line is still live, from circuit ${closed.join(' and ')}: whoever opens {breaker} ${circuit} would take it for dead.`,
      )
}

/** Where a light's neutral belongs: with the neutral of the circuit that feeds its load. */
function returnHint(plan: WiringPlan, wires: PlanWire[], circuit: string): string {
  const wireOf = (letter: string) => wires.find((wire) => wire.letter === letter)
  for (const { terminals } of plan.devices) {
    const all = Object.values(terminals).flat()
    if (!all.some((letter) => wireOf(letter)?.role === 'line' && wireOf(letter)?.circuit === circuit)) continue
    for (const load of all.filter((letter) => wireOf(letter)?.role === 'load')) {
      const back = wireOf(load)!.cable.wires.find((wire) => wire.role === 'neutralOn')?.letter
      const splice = plan.splices.find((one) => back && one.letters.includes(back))
      const own = wires.find((wire) => isNeutral(wire.role) && neutralSees(wire).includes(circuit))?.letter
      if (back && own && splice && !splice.letters.includes(own)) return ` Splice ${back} with ${own}.`
    }
  }
  return ''
}
