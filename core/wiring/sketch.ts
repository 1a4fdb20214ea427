import { terminalWords } from '../connect'
import type { ConductorColour } from '../site'
import type { AsFoundBox } from './identify/found-box'
import type { Findings } from './identify/identify'
import { wireRoleShort } from './identify/roles'
import { switchTerminals } from './model'
import { oldTerminalWords } from './plan/connection-list'
import { deviceId, oldSwitchId, type PlannedDevice, type WiringPlan } from './plan/plan'
import type { Sketch, SketchConductor, SketchDevice } from './sketch-layout'

/** What a conductor is as far as it is settled, with its breaker where the box has several. Nothing while nothing fits. */
function roleWord({ circuits }: AsFoundBox, findings: Findings | null, letter: string): string | null {
  const wire = findings?.wires.find((one) => one.letter === letter)
  const here = wire?.settled ?? wire?.joint
  if (findings?.state === 'stop' || !here) return null
  return `${wireRoleShort[here.role]}${here.circuit && circuits.length > 1 ? ` ${here.circuit}` : ''}`
}

/** A terminal's name as there is room for in the drawing. */
const shortTerminal = (word: string) => word.replace('return of the switch inputs', 'return').replace('switch input', 'input')

/**
 * An old switch in a drawing.
 * @param keys its terminals
 * @param terminals what is on them
 */
export const oldSwitchSketch = (
  old: number,
  { name, note }: Pick<SketchDevice, 'name' | 'note'>,
  keys: readonly string[],
  terminals: Record<string, string[] | undefined>,
): SketchDevice => ({
  part: oldSwitchId(old),
  name,
  note,
  chosen: true,
  terminals: keys.map((key) => ({
    key,
    word: (oldTerminalWords[key] ?? key).replace(/ \(.*/, '').replace('screw or lead', 'lead'),
    spoken: oldTerminalWords[key] ?? key,
    letters: terminals[key] ?? [],
    done: false,
  })),
})

/** A box as it is to be drawn: as it was found, or with the wiring that is planned for it. */
export function sketchOf(found: AsFoundBox, findings: Findings | null, devices: PlannedDevice[], plan: WiringPlan | null): Sketch {
  const conductors: SketchConductor[] = found.cables.flatMap(({ id, cores }) =>
    cores.map(({ letter, colour }) => ({ letter, colour: colour as ConductorColour, cable: id, word: roleWord(found, findings, letter) })),
  )
  const planned: SketchDevice[] = devices.map(({ gang, name, model }) => ({
    part: deviceId(gang),
    name,
    note: devices.length > 1 ? `gang ${gang}` : '',
    chosen: true,
    terminals: model.terminals.map((key) => ({
      key,
      word: shortTerminal(terminalWords[key]),
      spoken: terminalWords[key],
      letters: plan?.devices.find((one) => one.gang === gang)?.terminals[key] ?? [],
      done: false,
    })),
  }))
  const staying: SketchDevice[] = (plan?.kept ?? []).map(({ old, terminals }) => {
    const contacts = found.oldSwitches[old - 1]?.contacts
    const keys = contacts && contacts !== 'other' ? switchTerminals[contacts] : []
    return oldSwitchSketch(old, { name: 'Stays', note: `old switch ${old}` }, keys, terminals)
  })
  return {
    conductors,
    splices: plan?.splices.map(({ letters }) => letters) ?? found.splices,
    devices: [...planned, ...staying],
    jumpers: plan?.jumpers ?? [],
  }
}
