import { schemeOf } from '../../units/scheme'
import { connectionOrders, orderedTerminals, terminalWords, type ConnectionOrder, type LaidTerminals } from '../../connect/steps'
import { terminalKeys, type TerminalKey } from '../../fit/words'
import type { PlanWire } from './other-locations'
import type { PlannedHome } from './plan'
import type { WiringPlan } from './plan-schema'
import { deviceId, oldSwitchId } from './plan-words'

/** What ends on one terminal: of a device (`gang1`), or of an old switch that stays (`old1`). */
export interface Connection {
  part: string
  gang: number | null
  terminal: string
  letters: string[]
  text: string
}
export interface Pigtail {
  colour: string
  gauge: string
  length: string
  use: string
}

/** Names of the terminals of an old switch. */
export const oldTerminalWords: Record<string, string> = {
  a: 'screw 1',
  b: 'screw 2',
  c: 'screw or lead 3',
  d: 'screw or lead 4',
  common: 'common (odd-coloured screw)',
  t1: '{traveler} 1',
  t2: '{traveler} 2',
  a1: 'pair 1, left',
  a2: 'pair 1, right',
  b1: 'pair 2, left',
  b2: 'pair 2, right',
}
/** An end of a jumper in words. */
export function endOfJumper(end: string, gangs: number): string {
  const [part, key] = end.split(':')
  if (!key) return `the connector on ${end}`
  if (part!.startsWith('old')) return `${oldTerminalWords[key] ?? key} of old switch ${part!.slice(3)}`
  return `${terminalWords[key as TerminalKey] ?? key}${gangs > 1 ? ` of gang ${part!.slice(4)}` : ''}`
}

/** What ends on a terminal of a part, as a sentence; empty: nothing. */
function terminalText(plan: WiringPlan, part: string, name: string, letters: string[], word: string, skipOld: boolean): string {
  const splice = plan.splices.find((one) => letters.some((letter) => one.letters.includes(letter)))
  const branched = letters.some((letter) => plan.jumpers.some(({ from, to }) => from === letter || to === letter))
  const own = !letters.length
    ? ''
    : splice
      ? `Pigtail from ${splice.letters.join(' + ')} to ${word}.`
      : letters.length > 1 || branched
        ? `${letters.join(' + ')} with a pigtail to ${word}.`
        : `${letters[0]} to ${word}.`
  const at = `${part}:${name}`
  const ends = plan.jumpers.flatMap(({ from, to }) => (from === at ? [to] : to === at ? [from] : []))
  // A jumper is told once: at the old switch, where there is one.
  const others = ends.filter((end) => !(skipOld && end.startsWith('old')))
  const jumpers = others.map((end) => `Jumper from ${endOfJumper(end, plan.devices.length)} to ${word}.`)
  const told = ends.length > others.length && !own && !jumpers.length
  const capital = `${word.charAt(0).toUpperCase()}${word.slice(1)}`
  return told ? `${capital}: its jumper comes from the old switch.` : [own, ...jumpers].filter(Boolean).join(' ')
}
function idleText(name: TerminalKey): string {
  const input = name.startsWith('traveler') || name.startsWith('sense')
  return input ? `Leave the insulating tape on ${terminalWords[name]}.` : `Nothing on ${terminalWords[name]}.`
}
/** Old switches that stay: each terminal with what comes to it. */
function keptList(plan: WiringPlan): { old: number; name: string; letters: string[]; text: string }[] {
  return plan.kept.flatMap((one) => {
    const part = oldSwitchId(one.old)
    const ends = plan.jumpers.flatMap(({ from, to }) => [from, to]).filter((end) => end.startsWith(`${part}:`))
    const names = [...new Set([...Object.keys(one.terminals), ...ends.map((end) => end.slice(part.length + 1))])].sort()
    return names.map((name) => {
      const letters = one.terminals[name as keyof typeof one.terminals] ?? []
      const word = `${oldTerminalWords[name] ?? name} of old switch ${one.old}, which stays`
      return { old: one.old, name, letters, text: terminalText(plan, part, name, letters, word, false) }
    })
  })
}

/** Terminals in the company's order, each with its conductors; then old switches that stay, with their jumpers. */
export function connectionList(home: PlannedHome, plan: WiringPlan, order: ConnectionOrder): Connection[] {
  const devices = plan.devices.flatMap((device) => {
    const model = home.devices.find(({ gang }) => gang === device.gang)?.model
    if (!model) return []
    const part = deviceId(device.gang)
    return orderedTerminals(model.terminals, connectionOrders.includes(order) ? order : 'any').map((name) => {
      const letters = device.terminals[name] ?? []
      const text = terminalText(plan, part, name, letters, terminalWords[name], true) || idleText(name)
      return { part, gang: device.gang as number | null, terminal: name as string, letters, text }
    })
  })
  return [
    ...devices,
    ...keptList(plan).map(({ old, name, letters, text }) => ({ part: oldSwitchId(old), gang: null, terminal: name, letters, text })),
  ]
}

/** What a plan lays on one device, for its connection steps. Old switches that stay are told with the first device. */
export function laidOn(plan: WiringPlan, gang: number): LaidTerminals | undefined {
  const device = plan.devices.find((one) => one.gang === gang)
  if (!device) return undefined
  const terminals = Object.fromEntries(
    terminalKeys.map((name) => {
      const letters = device.terminals[name] ?? []
      const text = terminalText(plan, deviceId(gang), name, letters, terminalWords[name], true)
      return [name, { letters, text: text || idleText(name), idle: text === '' }]
    }),
  )
  if (plan.devices[0]!.gang !== gang) return { terminals, further: [] }
  // Told with the first device: what ends on no terminal of any.
  const onTerminals = [...plan.devices, ...plan.kept].flatMap((one) => Object.values(one.terminals).flat())
  const splices = plan.splices.filter(({ letters }) => !letters.some((letter) => onTerminals.includes(letter)))
  const further = [
    ...splices.map(({ letters }) => ({ id: `splice:${letters.join('')}`, text: `Splice ${letters.join(' + ')}.` })),
    ...keptList(plan).map(({ old, name, text }) => ({ id: `${oldSwitchId(old)}:${name}`, text })),
  ]
  return { terminals, further, capped: plan.capped }
}

/** Usual colours for a jumper of this use (NEC 200.6, 250.119; IEC 60445); installers pick freely for hot ones. */
function pigtailColour(role: string | undefined, nominalVolts: number): string {
  const na = schemeOf(nominalVolts) === 'na120'
  if (role === 'ground') return na ? 'green or bare' : 'green-yellow'
  if (role === 'neutral' || role === 'sharedNeutral' || role === 'neutralOn') return na ? 'white' : 'blue'
  return na ? 'black' : 'brown'
}
/** Pigtails to cut: one for every terminal that is fed from a splice, or takes several conductors, and every jumper. Length: 6 in of free conductor (NEC 300.14); 150 mm by the same custom. */
export function pigtailsOf(
  plan: WiringPlan,
  wires: PlanWire[],
  nominalVolts: number,
  options: { metric: boolean; gauge: string },
): Pigtail[] {
  const cut = (letter: string | undefined, use: string) => ({
    colour: pigtailColour(wires.find((wire) => wire.letter === letter)?.role, nominalVolts),
    gauge: options.gauge,
    length: options.metric ? '150 mm' : '6 in',
    use,
  })
  const gangs = plan.devices.length
  const branched = (letter: string) => plan.jumpers.some(({ from, to }) => from === letter || to === letter)
  const pigtails = plan.devices.flatMap((device) =>
    (Object.entries(device.terminals) as [TerminalKey, string[]][]).flatMap(([name, letters]) => {
      if (!letters.length) return []
      const spliced = plan.splices.some((splice) => letters.some((letter) => splice.letters.includes(letter)))
      return spliced || letters.length > 1 || letters.some(branched) ? [cut(letters[0], `gang ${device.gang}, ${terminalWords[name]}`)] : []
    }),
  )
  return [
    ...pigtails,
    ...plan.jumpers.map(({ from, to }) =>
      cut(
        [from, to].find((end) => !end.includes(':')),
        `${endOfJumper(from, gangs)} to ${endOfJumper(to, gangs)}`,
      ),
    ),
  ]
}
