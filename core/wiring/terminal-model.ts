import type { DeviceModel, TerminalKey } from '../fit'

/** What a device is between its terminals, as far as its wiring goes. Its maker's diagram always wins. */
export interface TerminalModel {
  terminals: TerminalKey[]
  /** Electronics: fed from any of these terminals against the other one. Null: it needs no power of its own. */
  supply: { from: TerminalKey[]; to: TerminalKey; watts: number } | null
  /** Fed through the load: it has no neutral, and lets this much through while it is off. */
  throughLoad: { from: TerminalKey; to: TerminalKey; milliamps: number } | null
  /** Relay contacts: closed while the channel is on (or, for a changeover, off). */
  contacts: { channel: number; from: TerminalKey; to: TerminalKey; when: 0 | 1 }[]
  /** Inputs: what a wall switch or a sensed traveler tells the device. */
  inputs: TerminalKey[]
  channels: number
  /** The two switch leads may be exchanged. A property of the model, never assumed. */
  interchangeable: boolean
}

/** Standby of the electronics, watts, and the current of a device fed through its load, mA: usual sizes, common practice, no source. */
const standbyWatts = 0.6
const standbyMilliamps = 2

/** The terminal model of a catalogue entry. */
export function terminalModel(
  model: Pick<DeviceModel, 'kind' | 'terminals' | 'multiWay'> & { leadsInterchangeable?: boolean },
): TerminalModel {
  const has = (terminal: TerminalKey) => model.terminals.includes(terminal)
  const base: TerminalModel = {
    terminals: model.terminals,
    supply: null,
    throughLoad: null,
    contacts: [],
    inputs: model.terminals.filter((terminal) => terminal === 'sense'),
    channels: 1,
    interchangeable: model.leadsInterchangeable ?? false,
  }
  const supplyFrom = (...from: TerminalKey[]) => (has('neutral') ? { from, to: 'neutral' as const, watts: standbyWatts } : null)
  if (model.kind === 'companion') {
    // A companion only speaks to its partner: it has no contact of its own.
    const from: TerminalKey[] = has('line') ? ['line'] : has('sense') ? ['sense'] : []
    return { ...base, supply: from.length ? supplyFrom(...from) : null, channels: 0 }
  }
  if (has('common') && has('traveler1') && has('traveler2'))
    return {
      ...base,
      supply: supplyFrom('common', 'traveler1', 'traveler2'),
      contacts: [
        { channel: 0, from: 'common', to: 'traveler1', when: 0 },
        { channel: 0, from: 'common', to: 'traveler2', when: 1 },
      ],
    }
  const inputs = [...base.inputs, ...model.terminals.filter((terminal) => terminal === 'traveler1')]
  if (has('line') && has('load') && !has('neutral'))
    return { ...base, inputs, throughLoad: { from: 'line', to: 'load', milliamps: standbyMilliamps } }
  return { ...base, inputs, supply: supplyFrom('line'), contacts: [{ channel: 0, from: 'line', to: 'load', when: 1 }] }
}
