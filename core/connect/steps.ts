import type { DeviceModel, TerminalKey } from '../fit'
import { fasteningWords } from '../fit/terminations'

export const conductorRoles = ['line', 'load', 'neutral', 'ground', 'traveler', 'common', 'sense', 'spare'] as const
export type ConductorRole = (typeof conductorRoles)[number]

/** What somebody who reads a flag calls a role. */
export const conductorRoleWord = (role: ConductorRole): string => (role === 'ground' || role === 'traveler' ? `{${role}}` : role)

/** How a role may be established. A colour is not among them. */
export const roleMethods = ['measured', 'continuity', 'traced', 'oldTerminal', 'readings'] as const
export type RoleMethod = (typeof roleMethods)[number]
export const roleMethodWords: Record<RoleMethod, string> = {
  measured: 'measured while live, by the qualified person',
  continuity: 'continuity, power off',
  traced: 'splice or cable traced by eye',
  oldTerminal: 'terminal of the old device and a photo',
  readings: 'every arrangement that fits the readings',
}

export const connectionOrders = ['groundNeutralLoadLine', 'groundLoadLineNeutral', 'loadLineNeutralGround', 'any'] as const
export type ConnectionOrder = (typeof connectionOrders)[number]
export const connectionOrderWords: Record<ConnectionOrder, string> = {
  groundNeutralLoadLine: '{ground} → neutral → load → line last',
  groundLoadLineNeutral: '{ground} → load → line → neutral',
  loadLineNeutralGround: 'load → line → neutral → {ground}',
  any: 'any order, power is off',
}

export interface ConnectionMethod {
  connectionOrder: ConnectionOrder
  twistFirst: boolean
  tapeConnectors: boolean
  keepPlateOff: boolean
}

/**
 * What was laid at the bench: by terminal, the conductors and how they get there; then, told with the first device, what ends
 * on no terminal of any, and which conductors stay capped.
 */
export interface LaidTerminals {
  terminals: Partial<Record<TerminalKey, { letters: string[]; text: string; idle: boolean }>>
  further: { id: string; text: string }[]
  capped?: string[]
}

export interface ConnectionStep {
  id: string
  phase: 'before' | 'connect' | 'close'
  text: string
  why: string
  terminal: TerminalKey | null
  letters: string[]
}

const orderOf: Record<Exclude<ConnectionOrder, 'any'>, string[]> = {
  groundNeutralLoadLine: ['ground', 'neutral', 'traveler', 'load', 'line'],
  groundLoadLineNeutral: ['ground', 'traveler', 'load', 'line', 'neutral'],
  loadLineNeutralGround: ['traveler', 'load', 'line', 'neutral', 'ground'],
}

/** The role whose conductor a terminal takes. */
function roleFor(terminal: TerminalKey): ConductorRole {
  if (terminal === 'traveler1' || terminal === 'traveler2') return 'traveler'
  if (terminal === 'load2' || terminal === 'fan') return 'load'
  return terminal === 'sense2' || terminal === 'senseReturn' ? 'sense' : terminal
}

function rank(terminal: TerminalKey, order: ConnectionOrder): number {
  if (order === 'any') return 0
  const role = roleFor(terminal)
  const place = orderOf[order]
  // The common of a multi-way device takes the feed or the load: it goes where the load goes. Control leads go with travelers.
  return place.indexOf(role === 'common' ? 'load' : role === 'sense' ? 'traveler' : role)
}

export const terminalWords: Record<TerminalKey, string> = {
  line: 'line',
  load: 'load',
  neutral: 'neutral',
  ground: '{ground}',
  common: 'common',
  traveler1: '{traveler} 1',
  traveler2: '{traveler} 2',
  sense: 'switch input',
  load2: 'load 2',
  fan: 'fan',
  sense2: 'switch input 2',
  senseReturn: 'return of the switch inputs',
}

/** A device's terminals in the company's order. */
export const orderedTerminals = (terminals: readonly TerminalKey[], order: ConnectionOrder): TerminalKey[] =>
  [...terminals].sort((a, b) => rank(a, order) - rank(b, order))

/**
 * The connection steps for one device in the company's order.
 * @param roles established roles by conductor letter
 * @param multiWay the point is switched from more than one place
 * @param laid where the wiring was laid at the bench, it says which conductor goes where; else the roles do
 */
export function connectionSteps(
  model: DeviceModel,
  roles: Record<string, ConductorRole>,
  method: ConnectionMethod,
  multiWay: boolean,
  laid?: LaidTerminals,
): ConnectionStep[] {
  const byRole = (role: ConductorRole) =>
    Object.keys(roles)
      .filter((letter) => roles[letter] === role)
      .sort()
  const fastened = fasteningWords(model.termination)
  const strip = model.termination?.stripMm ? `strip ${model.termination.stripMm} mm` : 'strip to the gauge on the device'
  const habits = [...(method.twistFirst ? ['conductors twisted first'] : []), ...(method.tapeConnectors ? ['connectors taped'] : [])].join(
    ', ',
  )
  const steps: ConnectionStep[] = [
    {
      id: 'prep',
      phase: 'before',
      text: `Film and front off. Cut tinned or nicked ends back and ${strip}.`,
      why: 'A tinned end works loose under a clamp.',
      terminal: null,
      letters: [],
    },
  ]
  const travelers = byRole('traveler')
  for (const terminal of orderedTerminals(model.terminals, method.connectionOrder)) {
    const role = roleFor(terminal)
    const letters = role === 'traveler' ? travelers.slice(terminal === 'traveler2' ? 1 : 0, terminal === 'traveler2' ? 2 : 1) : byRole(role)
    const word = terminalWords[terminal]
    const planned = laid?.terminals[terminal]
    if (planned) {
      steps.push({
        id: `connect:${terminal}`,
        phase: 'connect',
        text: planned.idle ? planned.text : `${planned.text} ${fastened}`,
        why: `As planned and verified at the bench.${habits && /pigtail|Splice/.test(planned.text) ? ` Your company’s way: ${habits}.` : ''}`,
        terminal,
        letters: planned.letters,
      })
      continue
    }
    if (role === 'traveler' && (!multiWay || letters.length === 0)) {
      steps.push({
        id: `connect:${terminal}`,
        phase: 'connect',
        text: `Leave the insulating tape on ${word}.`,
        why: 'An unused {traveler} is live while the device is on.',
        terminal,
        letters: [],
      })
      continue
    }
    if (letters.length === 0) {
      const text =
        role === 'ground'
          ? 'No {ground} established: stop and ask the licensed person.'
          : role === 'sense'
            ? 'No switch input established: cap the lead.'
            : `No ${conductorRoleWord(role)} established for ${word}.`
      steps.push({
        id: `connect:${terminal}`,
        phase: 'connect',
        text,
        why:
          role === 'ground'
            ? 'Where an old box has no {ground}, local code and the licensed person decide. It is never silently skipped.'
            : 'Establish the role of the conductor first.',
        terminal,
        letters,
      })
      continue
    }
    const many = letters.length > 1
    const splice = many
      ? `Splice ${letters.join(' + ')} with a pigtail${method.twistFirst ? ', twisted first' : ''}${method.tapeConnectors ? ', connector taped' : ''}; pigtail`
      : `Conductor ${letters[0]}`
    steps.push({
      id: `connect:${terminal}`,
      phase: 'connect',
      text: `${splice} to ${word}. ${fastened}`,
      why: many
        ? 'The terminal takes one conductor. The connector’s own listing decides what it may hold.'
        : 'One conductor, one terminal.',
      terminal,
      letters,
    })
  }
  for (const { id, text } of laid?.further ?? [])
    steps.push({
      id: `connect:${id}`,
      phase: 'connect',
      text: `${text} Tug it.`,
      why: `As planned and verified at the bench.${habits ? ` Your company’s way: ${habits}.` : ''}`,
      terminal: null,
      letters: [],
    })
  steps.push(
    {
      id: 'spares',
      phase: 'close',
      text: laid?.capped?.length
        ? `Cap ${laid.capped.join(', ')}, and every conductor that stays unused.`
        : 'Cap every conductor that stays unused.',
      why: 'Bare ends end up against {grounds}.',
      terminal: null,
      letters: laid?.capped ?? byRole('spare'),
    },
    {
      id: 'fold',
      phase: 'close',
      text: `Fold in from the back, {grounds} away from {hots}; arrow up${method.keepPlateOff ? '; plate stays off until it works' : ''}.`,
      why: 'Nothing pinched, device level with its row.',
      terminal: null,
      letters: [],
    },
  )
  return steps
}

/** Roles a device needs and the box does not have yet. */
export function missingRoles(model: DeviceModel, roles: Record<string, ConductorRole>): ConductorRole[] {
  const wanted = new Set(model.terminals.map(roleFor).filter((role) => role !== 'traveler' && role !== 'sense'))
  const have = new Set(Object.values(roles))
  return [...wanted].filter((role) => !have.has(role))
}
