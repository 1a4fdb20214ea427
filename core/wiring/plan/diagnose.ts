import type { TerminalKey } from '../../fit'
import { continuityMeter } from '../home'
import { outcomeOf, outcomeWords } from '../identify/found-box'
import { far, near, type Fault } from '../model'
import { endOfJumper } from './connection-list'
import { everyPosition, positionWords } from './positions'
import { deviceId, type PlannedHome } from './plan'
import { endsOf, predictSeen, lightWords, seenWords, type PredictedSeen, type Observation, type Seen } from './seen'

export interface Suspect {
  faults: Fault[]
  words: string
}
export interface SuspectGroup {
  /** Faults that no test of the table tells apart. */
  suspects: Suspect[]
  /** Share of belief. */
  share: number
  misfits: number
  /** The check that tells this group from the next one, and how to make it safely. Null: there is no other. */
  check: string | null
  /** The check that tells the first two of this group apart, with the power off. Null: no meter at this box does. */
  within: string | null
}
export interface Diagnosis {
  groups: SuspectGroup[]
  /** The wiring behaves as planned: look at network, device or settings. */
  wiringIsRight: boolean
  observations: number
}

/** One observation in fifty is wrong (a light overlooked, a switch mistaken): common practice, no source. */
const wrongShare = 0.02
/** A glow or a trip is easily overlooked, but hardly seen where there was none: common practice, no source. */
const imaginedShare = 0.002
/** How usual a fault is against the others: callbacks of the trade, common practice, no source. */
const prior: Record<Fault['kind'] | 'none', number> = {
  none: 0.5,
  swapped: 0.2,
  open: 0.12,
  moved: 0.03,
  loose: 0.12,
  contact: 0.05,
  highResistance: 0.02,
  welded: 0.03,
  deadPart: 0.08,
}

/** A joint so bad that a lamp shows it; milder ones are found by their warmth, not by the light. Common practice, no source. */
const badJointOhms = 300
/** So many of the likeliest single faults are tried in pairs. */
const mostPaired = 14

/** A point in words. */
function wordOfPoint(home: PlannedHome, point: string): string {
  if (point === 'earth') return 'the {ground}'
  const [id, terminal] = point.split(':')
  if (terminal) {
    const gang = home.devices.find((device) => deviceId(device.gang) === id)?.gang
    return gang
      ? `${endOfJumper(point, home.devices.length)}${home.devices.length > 1 ? '' : ' of the device'}`
      : id!.startsWith('relay')
        ? `${terminal} of the relay at the fixture`
        : id!.startsWith('far')
          ? `${terminal} of the other switch`
          : `${terminal} of ${id}`
  }
  return point
    .replace(/\.(near|far)$/, '')
    .replace(/\.neutral$/, '’s neutral')
    .replace(/\.line$/, '’s line')
}
function wordsOf(home: PlannedHome, fault: Fault): string {
  const place = (point: string) => wordOfPoint(home, point)
  const part = (id: string) => {
    const light = home.outside.lights.find((one) => one.id === id)
    if (light) return `the lamp on ${light.name}`
    if (id.startsWith('relay')) return `the fixture on ${id.slice(5)}`
    if (id.startsWith('far')) return 'the other location'
    return home.devices.length > 1 ? `the device in gang ${id.slice(4)}` : 'the device'
  }
  switch (fault.kind) {
    case 'open':
      return `${fault.coreId} is interrupted, or loose in its terminal or connector`
    case 'loose':
      return `the pigtail to ${place(fault.point)} is loose`
    case 'highResistance':
      return `${fault.coreId} has a bad joint`
    case 'contact':
      return `${place(fault.a)} touches ${place(fault.b)}`
    case 'swapped':
      return `${place(fault.a)} and ${place(fault.b)} are exchanged`
    case 'moved':
      return `${place(fault.point)} is on ${place(fault.to)}`
    case 'welded':
      return `the relay of ${part(fault.partId)} is stuck on`
    case 'deadPart':
      return `${part(fault.partId)} is broken`
  }
}

/** Does a terminal hang on a splice, by a piece of wire of its own? */
const isPigtail = (home: PlannedHome, terminal: string): boolean => {
  const ends = home.wiring.joins
    .filter((join) => join.includes(terminal))
    .flat()
    .filter((point) => point !== terminal)
  return ends.length > 1 || ends.some((end) => home.wiring.joins.filter((join) => join.includes(end)).length > 2)
}
/** Every single fault that is worth a thought in this box. */
export function singleFaults(home: PlannedHome): Fault[] {
  const faults: Fault[] = []
  for (const cable of home.wiring.cables)
    for (const { id: coreId } of cable.cores) faults.push({ kind: 'open', coreId }, { kind: 'highResistance', coreId, ohms: badJointOhms })
  for (const device of home.devices) {
    const id = deviceId(device.gang)
    const used = device.model.terminals.filter((name) =>
      home.wiring.joins.some((join) => join.length > 1 && join.includes(`${id}:${name}`)),
    )
    used.forEach((one, index) => {
      for (const other of used.slice(index + 1))
        if (one !== 'ground' && other !== 'ground') faults.push({ kind: 'swapped', a: `${id}:${one}`, b: `${id}:${other}` })
    })
    // A device without a neutral has no contact that could weld, and sticks all the same.
    if (device.model.throughLoad || device.model.contacts.some((contact) => contact.when === 1)) faults.push({ kind: 'welded', partId: id })
    // Of a conductor that ends on a terminal it is the conductor that is loose.
    for (const name of used) if (isPigtail(home, `${id}:${name}`)) faults.push({ kind: 'loose', point: `${id}:${name}` })
    faults.push({ kind: 'deadPart', partId: id })
    // A bare ground or a bare end against a terminal, or two terminals of the device.
    const live = used.filter((name) => name === 'line' || name === 'load' || name === 'load2' || name === 'fan')
    const touching = (a: TerminalKey, b: string) => faults.push({ kind: 'contact', a: `${id}:${a}`, b })
    for (const name of live) {
      touching(name, 'earth')
      if (used.includes('neutral')) touching(name, `${id}:neutral`)
      if (name !== 'line' && used.includes('line')) touching(name, `${id}:line`)
    }
    if (used.includes('neutral')) touching('neutral', 'earth')
  }
  for (const relay of home.relays) faults.push({ kind: 'welded', partId: relay.id }, { kind: 'deadPart', partId: relay.id })
  for (const id of home.outside.farSwitches.filter((far) => home.wiring.joins.some((join) => join.includes(`${far}:t1`))))
    faults.push({ kind: 'swapped', a: `${id}:common`, b: `${id}:t1` }, { kind: 'swapped', a: `${id}:common`, b: `${id}:t2` })
  for (const light of home.outside.lights) {
    faults.push({ kind: 'deadPart', partId: light.id })
    for (const circuit of home.wiring.circuits)
      if (
        !home.wiring.joins.some((join) => join.includes(`${light.id}:cold`) && join.includes(`${circuit.id}.neutral`)) &&
        home.wiring.circuits.length > 1
      )
        faults.push({ kind: 'moved', point: `${light.id}:cold`, to: `${circuit.id}.neutral` })
  }
  return faults
}

const wordOf = (row: Seen, lights: string[]) =>
  `${lights.map((id) => (row.lights[id] === 'dim' ? 'glow' : row.lights[id])).join(' ')} ${[...row.trips].sort().join(' ')}`

/** Somebody saw a glow or a trip that would not have been there. */
function imagined(seen: Seen, predicted: Seen): boolean {
  const glows = ({ lights }: Seen, id: string) => lights[id] === 'glow' || lights[id] === 'dim'
  return (
    seen.trips.some((circuit) => !predicted.trips.includes(circuit)) ||
    Object.keys(seen.lights).some((id) => glows(seen, id) && !glows(predicted, id))
  )
}

/**
 * Which faults explain what was seen.
 * @param seen observed rows; positions not tried may be missing
 */
export function diagnose(home: PlannedHome, seen: Observation[]): Diagnosis {
  const rows = seen.map((row) => row.positions)
  const all = [...everyPosition(home)]
  // Only the lights somebody looked at count.
  const lookedAt = seen.map((row) => Object.keys(row.lights).sort())
  const observed = seen.map((row, index) => wordOf(row, lookedAt[index]!))
  interface Scored {
    faults: Fault[]
    pattern: string[]
    misfits: number
    score: number
  }
  const score = (faults: Fault[]): Scored => {
    const predicted = predictSeen(home, faults, rows)
    const pattern = predicted.map((row, index) => wordOf(row, lookedAt[index]!))
    const fits = predicted.map(
      ({ orElse }, index) => pattern[index] === observed[index] || orElse.some((end) => wordOf(end, lookedAt[index]!) === observed[index]),
    )
    const misfits = fits.filter((fitting) => !fitting).length
    const fit = fits.reduce((product, fitting, index) => {
      if (fitting) return product * (1 - wrongShare)
      return product * (imagined(seen[index]!, predicted[index]!) ? imaginedShare : wrongShare)
    }, 1)
    const chance = faults.length ? faults.reduce((product, fault) => product * prior[fault.kind] * 0.2, 1) : prior.none
    return { faults, pattern, misfits, score: fit * chance }
  }
  const none = score([])
  const singles = singleFaults(home)
  const scored = [none, ...singles.map((fault) => score([fault]))]
  // Pairs only when no single fault comes near.
  if (Math.min(...scored.map((one) => one.misfits)) > Math.max(1, rows.length * 0.1)) {
    const likely = scored
      .filter((one) => one.faults.length)
      .sort((a, b) => b.score - a.score)
      .slice(0, mostPaired)
      .map((one) => one.faults[0]!)
    likely.forEach((one, index) => {
      for (const other of likely.slice(index + 1)) scored.push(score([one, other]))
    })
  }
  const groups = new Map<string, Scored[]>()
  for (const one of scored) {
    const key = one.pattern.join('|')
    groups.set(key, [...(groups.get(key) ?? []), one])
  }
  const total = scored.reduce((sum, one) => sum + one.score, 0)
  const ranked = [...groups.values()]
    .map((members) => ({ members: members.sort((a, b) => b.score - a.score), score: members.reduce((sum, one) => sum + one.score, 0) }))
    .sort((a, b) => b.score - a.score)
    .slice(0, 6)
  // A plan that leaves a light on for ever is not right because it does so.
  const healthy = predictSeen(home, [], all)
  const stuck = home.outside.lights.filter((light) => healthy.every((row) => row.lights[light.id] === 'on'))
  const wiringIsRight = (ranked[0]?.members.includes(none) ?? false) && !stuck.length
  const tripped = seen.some((row) => row.trips.length > 0)
  return {
    wiringIsRight,
    observations: seen.length,
    groups: ranked.map((group, index) => {
      const next = ranked[index + 1]
      return {
        suspects: group.members.slice(0, 8).map((one) => ({
          faults: one.faults,
          words: one.faults.length
            ? one.faults.map((fault) => wordsOf(home, fault)).join(', and ')
            : stuck.length
              ? `nothing beside the plan: it leaves ${stuck.map((light) => light.name).join(' and ')} on for ever`
              : 'nothing: the wiring behaves as planned',
        })),
        share: group.score / total,
        misfits: group.members[0]!.misfits,
        check: next ? splits(home, group.members[0]!.faults, next.members[0]!.faults, all, tripped) : null,
        within:
          index === 0 && group.members.length > 1 ? splits(home, group.members[0]!.faults, group.members[1]!.faults, all, true) : null,
      }
    }),
  }
}

/**
 * A check that comes out differently with one or the other: first what one sees, then continuity with the power off.
 * @param deadFirst a breaker has tripped, or looking tells nothing: the power stays off, and nothing is closed on a fault to see it again
 */
function splits(home: PlannedHome, one: Fault[], other: Fault[], rows: Record<string, number>[], deadFirst: boolean): string | null {
  const dead = deadCheck(home, one, other, rows)
  return deadFirst ? (dead ?? lookAgain(home, one, other, rows)) : (lookAgain(home, one, other, rows) ?? dead)
}
function lookAgain(home: PlannedHome, one: Fault[], other: Fault[], rows: Record<string, number>[]): string | null {
  const lights = home.outside.lights.map((light) => light.id)
  const first = predictSeen(home, one, rows)
  const second = predictSeen(home, other, rows)
  const words = (row: PredictedSeen) => endsOf(row).map((end) => wordOf(end, lights))
  const at = first.findIndex((row, index) => !words(row).some((word) => words(second[index]!).includes(word)))
  if (at >= 0) {
    const row = first[at]!
    const shown = lights.map((id) => `${home.outside.lights.find((light) => light.id === id)!.name}: ${lightWords(endsOf(row), id)}`)
    const expected = seenWords(endsOf(row), home.wiring.circuits.length, shown)
    return `Look again: ${positionWords(home, row.positions)}. With this, ${expected}.`
  }
  return null
}
function deadCheck(home: PlannedHome, one: Fault[], other: Fault[], rows: Record<string, number>[]): string | null {
  const positions = rows[0]!
  const meterOne = continuityMeter({ ...home.wiring, faults: one }, positions)
  const meterOther = continuityMeter({ ...home.wiring, faults: other }, positions)
  const letters = home.wiring.cables.flatMap((cable) => cable.cores.map((core) => core.id))
  const coarse = (ohms: number) => outcomeWords.continuity[outcomeOf('continuity', ohms, home.wiring.nominalVolts)]!.split(/[,:]/)[0]!
  const terminals = home.devices.flatMap(({ gang, model }) =>
    model.terminals.map((name) => ({ point: `${deviceId(gang)}:${name}`, word: wordOfPoint(home, `${deviceId(gang)}:${name}`) })),
  )
  for (const letter of letters) {
    const ends: [string, string, string][] = [
      [near(letter), far(letter), `${letter} from end to end`],
      ...letters
        .filter((another) => another > letter)
        .map((another): [string, string, string] => [near(letter), near(another), `${letter} to ${another}`]),
      ...terminals.map(({ point, word }): [string, string, string] => [near(letter), point, `${letter} to ${word}`]),
      [near(letter), 'earth', `${letter} to {ground}`],
    ]
    for (const [a, b, words] of ends) {
      const expected = coarse(meterOne(a, b))
      if (expected !== coarse(meterOther(a, b))) return `{Breaker} open, locked, proven dead: continuity, ${words}. With this, ${expected}.`
    }
  }
  return null
}
