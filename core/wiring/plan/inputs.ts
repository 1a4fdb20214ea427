import { terminalWords } from '../../connect'
import { magnitude } from '../circuit/complex-lu'
import type { HomeSolution } from '../home'
import type { SwitchInput } from '../terminal-model'
import type { PlanWire } from './other-locations'
import { deviceId, oldSwitchId, type PlannedDevice, type PlannedHome, type WiringPlan } from './plan'
import type { Actuator, Rows } from './positions'
import type { Judged, Say, SolvedRow } from './verdicts'

export type SolvedRows = Rows<SolvedRow>

/** What an input hears in a state: line voltage, or for a dry one, that it is closed to its return. */
function inputSees(device: PlannedDevice, input: SwitchInput, home: HomeSolution): boolean {
  const id = deviceId(device.gang)
  const at = `${id}:${input.terminal}`
  if (input.return) return home.touching(at, `${id}:${input.return}`)
  const against = device.model.terminals.includes('neutral') ? `${id}:neutral` : 'earth'
  return home.metered(at, against, 'input') >= 0.6 * home.wiring.nominalVolts
}
/** For every state: does the input hear the switch being flipped? */
export function seenByInput(device: PlannedDevice, input: SwitchInput, rows: SolvedRows, hand: Actuator): boolean[] {
  return rows.all.flatMap((row) => {
    const other = rows.flipped(row, hand)
    return other ? [inputSees(device, input, row.home) !== inputSees(device, input, other.home)] : []
  })
}

/** Inputs that have something on them: each has to hear a switch in every state, or lead to a companion. */
export function checkInputs(device: PlannedDevice, home: PlannedHome, rows: SolvedRows, hands: Actuator[], say: Say, name: string) {
  const id = deviceId(device.gang)
  for (const input of device.model.inputs) {
    const at = `${id}:${input.terminal}`
    if (!home.wiring.joins.some((join) => join.length > 1 && join.includes(at))) continue
    const word = device.model.inputs.length > 1 ? terminalWords[input.terminal] : 'its switch input'
    if (input.return && rows.all.some((row) => magnitude(row.home.voltage(at, 'earth')) >= 50)) {
      say('block', 'dryInputLive', `${name}: mains on ${word}, which is for a dry switch only.`)
      continue
    }
    const companion = home.wiring.parts.find(
      (part) => part.kind === 'device' && part.model.signals === 'partner' && part.id.startsWith('far'),
    )
    const joined = companion && rows.all.every((row) => row.home.touching(at, `${companion.id}:sense`))
    if (joined) {
      const neutral = rows.all.every((row) =>
        home.wiring.circuits.some((circuit) => row.home.touching(`${companion.id}:neutral`, `${circuit.id}.neutral`)),
      )
      if (neutral) say('good', 'heard', `${name} gets the signal of the companion on ${word}.`)
      else say('block', 'noPower', 'The companion at the other location has no neutral.')
      continue
    }
    if (device.model.signals === 'partner') continue
    const heard = hands.filter((hand) => !hand.model).map((hand) => ({ hand, in: seenByInput(device, input, rows, hand) }))
    const always = heard.find((one) => one.in.length > 0 && one.in.every(Boolean))
    const often = Math.max(0, ...heard.map((one) => one.in.filter(Boolean).length))
    if (always)
      say(
        'good',
        'heard',
        `${name} sees ${always.hand.id.startsWith('old') ? `old switch ${always.hand.id.slice(3)}` : 'the other switch'} on ${word}.`,
      )
    else if (often) say('block', 'notHeard', `${name} sees its switch on ${word} in ${often} of ${rows.all.length} positions only.`)
    else say('block', 'notHeard', `${name}: nothing that is switched reaches ${word}.`)
  }
}

/** A companion here: the conductor to its partner, and a neutral of its own circuit. */
export function checkCompanion(device: PlannedDevice, plan: WiringPlan, wires: PlanWire[], say: Say, name: string) {
  const on = plan.devices.find((one) => one.gang === device.gang)?.terminals ?? {}
  const role = (letter: string) => wires.find((wire) => wire.letter === letter)?.role
  if (on.sense?.some((letter) => role(letter) === 'sense')) say('good', 'heard', `${name} signals its partner on ${on.sense.join(' + ')}.`)
  else say('block', 'notHeard', `${name}: no conductor to its partner on its switch input.`)
  if (
    device.model.terminals.includes('neutral') &&
    !on.neutral?.some((letter) => ['neutral', 'sharedNeutral', 'neutralOn'].includes(role(letter) ?? ''))
  )
    say('block', 'noPower', `${name} has no neutral.`)
}

/** Old switches that stay are heard, or move a light. */
export function checkKept({ plan, home, rows, actuators: hands, idle, say }: Judged) {
  for (const one of plan.kept) {
    const hand = hands.find((run) => run.id === oldSwitchId(one.old))
    const used = home.devices.some((device) =>
      device.model.inputs.some((input) => hand && seenByInput(device, input, rows, hand).some(Boolean)),
    )
    if ((!hand || idle.includes(hand)) && !used) say('block', 'notHeard', `Old switch ${one.old} does nothing: no input sees it.`)
  }
}

/** Relays at fixtures have their power in every state, and a switch that their sender hears. */
export function checkRelays({ home, rows, actuators: hands, say }: Judged) {
  for (const relay of home.relays) {
    const sender = home.devices.find((device) => device.gang === relay.gang)
    const input = sender?.model.inputs.find((one) => one.terminal === relay.input)
    const heard = sender && input && hands.some((hand) => !hand.model && seenByInput(sender, input, rows, hand).every(Boolean))
    if (!heard)
      say('block', 'notHeard', `The relay at the fixture on ${relay.letter} is operated by no switch: its sender’s input sees none.`)
    if (rows.all.some((row) => !row.home.powered(relay.id)))
      say('block', 'noPower', `The relay at the fixture on ${relay.letter} loses its power: splice line and ${relay.letter} for good.`)
    say('warn', 'staysLive', `The fixture on ${relay.letter} stays live when it is off: whoever opens it needs the {breaker}.`)
  }
}
