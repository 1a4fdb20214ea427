import type { HomeSolution } from '../home'
import { fixtureRelay, wiredCompanion } from '../terminal-model'
import { deviceId } from './plan'
import { nameOfDevice, type Judged, type VerdictCode } from './verdicts'

/**
 * Where currents go, told by the path and not by their size: what electronics draw is less than a meter shows, and no less
 * wrong on a ground.
 */
export function checkPaths(judged: Judged) {
  checkShells(judged)
  checkElectronics(judged)
  checkReturnPaths(judged)
  checkOnward(judged)
}

const circuitsAt = (home: HomeSolution, point: string, side: 'line' | 'neutral') =>
  home.wiring.circuits.map(({ id }) => id).filter((id) => home.touching(point, `${id}.${side}`))

/** A lamp that is off has no live shell: whatever switches it is in the line. */
function checkShells({ home, found, rows, say }: Judged) {
  for (const light of home.outside.lights) {
    const live = rows.all.filter(
      (row) => row.lights[light.id] !== 'on' && row.home.metered(`${light.id}:cold`, 'earth', 'low') > 0.4 * found.nominalVolts,
    )
    if (live.length)
      say(
        'block',
        'shellLive',
        `The ${light.motor ? 'motor' : 'light'} on ${light.letter} is off in ${live.length} of ${rows.all.length} positions while its return is live: it is switched in the neutral, and whoever changes the lamp touches a live shell.`,
        'NEC 404.2(B)',
      )
  }
}

/** What a return that should be the neutral of one of these circuits is instead. */
function wrongReturn(home: HomeSolution, point: string, circuits: string[]): { code: VerdictCode; is: string } | null {
  const returns = circuitsAt(home, point, 'neutral')
  if (!circuits.length || circuits.some((id) => returns.includes(id))) return null
  const lines = circuitsAt(home, point, 'line')
  if (lines.length) return { code: 'lineAsNeutral', is: `the line of circuit ${lines.join(' and ')}` }
  if (home.touching(point, 'earth')) return { code: 'groundAsNeutral', is: 'the {ground}' }
  if (returns.length) return { code: 'neutralOfOther', is: `the neutral of circuit ${returns.join(' and ')}` }
  return { code: 'noPower', is: 'nothing that is a neutral' }
}

/** The electronics of a device return by the neutral of the circuit that feeds them. */
function checkElectronics({ home, rows, say }: Judged) {
  const parts = [
    ...home.devices.map((device) => ({ id: deviceId(device.gang), model: device.model, name: nameOfDevice(home, device) })),
    ...home.relays.map((relay) => ({ id: relay.id, model: fixtureRelay, name: `The relay at the fixture on ${relay.letter}` })),
    ...home.wiring.parts.flatMap((part) =>
      part.kind === 'device' && part.model === wiredCompanion
        ? [{ id: part.id, model: part.model, name: 'The companion at the other location' }]
        : [],
    ),
  ]
  for (const { id, model, name } of parts) {
    if (!model.terminals.includes('neutral')) continue
    for (const row of rows.all) {
      const from = model.supply?.from ?? []
      const circuits = [...new Set(from.flatMap((terminal) => circuitsAt(row.home, `${id}:${terminal}`, 'line')))]
      const wrong = wrongReturn(row.home, `${id}:neutral`, circuits)
      if (wrong) say('block', wrong.code, `${name} is fed by circuit ${circuits.join(' and ')} and returns by ${wrong.is}.`)
    }
  }
}

/** So do lights, in every position in which their line reaches them. */
function checkReturnPaths({ home, rows, say }: Judged) {
  for (const light of home.outside.lights)
    for (const row of rows.all) {
      const fed = circuitsAt(row.home, `${light.id}:hot`, 'line')
      // A device without a neutral lets its load through without being metal.
      const through = home.devices
        .filter((device) =>
          device.model.throughLoad?.to.some((to) => row.home.touching(`${deviceId(device.gang)}:${to}`, `${light.id}:hot`)),
        )
        .flatMap((device) => circuitsAt(row.home, `${deviceId(device.gang)}:${device.model.throughLoad!.from}`, 'line'))
      const circuits = [...new Set([...fed, ...through])]
      const wrong = wrongReturn(row.home, `${light.id}:cold`, circuits)
      if (wrong)
        say(
          'block',
          wrong.code,
          `The ${light.motor ? 'motor' : 'light'} on ${light.letter} is fed by circuit ${circuits.join(' and ')} and returns by ${wrong.is}.`,
        )
    }
}

/** What passes on to the rest of a circuit is never switched, never left out, and never two lines of one circuit. */
function checkOnward({ cables, wires, rows, say }: Judged) {
  for (const wire of wires) {
    const at = `${wire.letter}.near`
    if (wire.role === 'lineOn') {
      const dead = rows.all.filter((row) => !circuitsAt(row.home, at, 'line').length)
      if (dead.length)
        say(
          'block',
          'onwardDead',
          `${wire.letter} carries the line on to what lies behind this box, and is dead in ${dead.length} of ${rows.all.length} positions.`,
        )
    }
    const passesOn = ['onward', 'sharedOnward', 'onwardAndLight'].includes(wire.cable.run)
    if (wire.role === 'neutralOn' && passesOn && rows.all.some((row) => !circuitsAt(row.home, at, 'neutral').length))
      say('block', 'onwardDead', `${wire.letter} carries the neutral on to what lies behind this box, and is on no neutral.`)
  }
  for (const cable of cables.filter(({ run }) => run === 'sharedOnward')) {
    const [a, b] = cable.wires.filter(({ role }) => role === 'lineOn').map(({ letter }) => letter)
    const same =
      rows.all[0] &&
      circuitsAt(rows.all[0].home, `${a}.near`, 'line').some((id) => circuitsAt(rows.all[0]!.home, `${b}.near`, 'line').includes(id))
    if (same)
      say(
        'block',
        'onwardOneLine',
        `${a} and ${b} go on with one neutral and are on one line: it would carry the current of both.`,
        'NEC 210.4(B)',
      )
  }
}
