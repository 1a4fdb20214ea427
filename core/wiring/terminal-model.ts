import type { DeviceModel, TerminalKey } from '../fit'

/** Where a device listens: to a switch, old or at another location, or to its partner. */
export interface SwitchInput {
  terminal: TerminalKey
  /** The channel it moves. */
  channel: number
  /** Null: it listens for line voltage. Else a dry input, closed towards this terminal. */
  return: TerminalKey | null
}
/** What a device is between its terminals, as far as its wiring goes. Its maker's diagram always wins. */
export interface TerminalModel {
  terminals: TerminalKey[]
  /** Electronics: fed from any of these terminals against the other one. Null: it needs no power of its own. */
  supply: { from: TerminalKey[]; to: TerminalKey; watts: number } | null
  /** Fed through its loads, one per channel: it has no neutral, and lets this much through while it is off. */
  throughLoad: { from: TerminalKey; to: TerminalKey[]; milliamps: number } | null
  /** Relay contacts: closed while the channel is on (or, for a changeover, off). */
  contacts: { channel: number; from: TerminalKey; to: TerminalKey; when: 0 | 1 }[]
  inputs: SwitchInput[]
  channels: number
  /** Line and load may be exchanged. A property of the model, never assumed. */
  interchangeable: boolean
  /** It sits behind old switches, which stay and become its inputs. */
  behindSwitch: boolean
  /** Switches nothing itself: a companion speaks to its partner over a conductor, a sender to relays at the fixtures by radio. */
  signals: 'partner' | 'relays' | null
  metering: boolean
  channelAmps: number | null
}

/** Standby of the electronics, watts, and the current of a device fed through its load, mA: usual sizes, common practice, no source. */
const standbyWatts = 0.6
const standbyMilliamps = 2
/** Terminals a load may hang on, one for each channel. */
export const loadTerminals = ['load', 'load2', 'fan'] as const

/** A relay at the fixture, as the partner of a sender: line and neutral of the fixture, and the lamp. */
export const fixtureRelay: TerminalModel = {
  terminals: ['line', 'neutral', 'load'],
  supply: { from: ['line'], to: 'neutral', watts: standbyWatts },
  throughLoad: null,
  contacts: [{ channel: 0, from: 'line', to: 'load', when: 1 }],
  inputs: [],
  channels: 1,
  interchangeable: false,
  behindSwitch: false,
  signals: null,
  metering: false,
  channelAmps: null,
}
/** A companion at the other location: it listens on one conductor and needs a neutral there. */
export const wiredCompanion: TerminalModel = {
  ...fixtureRelay,
  terminals: ['sense', 'neutral'],
  supply: null,
  contacts: [],
  inputs: [{ terminal: 'sense', channel: 0, return: null }],
  channels: 0,
  signals: 'partner',
}

/** The terminal model of a catalogue entry. */
export function terminalModel(
  model: Pick<DeviceModel, 'kind' | 'terminals' | 'multiWay'> &
    Partial<Pick<DeviceModel, 'leadsInterchangeable' | 'metering' | 'channelAmps'>>,
): TerminalModel {
  const has = (terminal: TerminalKey) => model.terminals.includes(terminal)
  const returned = has('senseReturn') ? ('senseReturn' as const) : null
  const input = (terminal: TerminalKey, channel: number): SwitchInput[] => (has(terminal) ? [{ terminal, channel, return: returned }] : [])
  const base: TerminalModel = {
    terminals: model.terminals,
    supply: null,
    throughLoad: null,
    contacts: [],
    inputs: [...input('sense', 0), ...input('sense2', 1)],
    channels: 1,
    interchangeable: model.leadsInterchangeable ?? false,
    behindSwitch: model.kind === 'relayModule' || model.kind === 'sender',
    signals: null,
    metering: model.metering ?? false,
    channelAmps: model.channelAmps ?? null,
  }
  const supplyFrom = (...from: TerminalKey[]) => (has('neutral') ? { from, to: 'neutral' as const, watts: standbyWatts } : null)
  if (model.kind === 'companion' || model.kind === 'sender')
    return {
      ...base,
      supply: has('line') ? supplyFrom('line') : null,
      channels: 0,
      signals: model.kind === 'companion' ? 'partner' : 'relays',
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
  const inputs = [...base.inputs, ...input('traveler1', 0)]
  const loads = loadTerminals.filter(has)
  const channels = Math.max(1, loads.length)
  if (has('line') && loads.length && !has('neutral'))
    return { ...base, inputs, channels, throughLoad: { from: 'line', to: loads, milliamps: standbyMilliamps } }
  return {
    ...base,
    inputs,
    channels,
    // Leads that may be exchanged: it finds its power on either of them.
    supply: base.interchangeable && has('load') ? supplyFrom('line', 'load') : supplyFrom('line'),
    contacts: loads.map((to, channel) => ({ channel, from: 'line' as const, to, when: 1 as const })),
  }
}

/** The load terminal of a channel: what a relay closes to, or a device without neutral feeds through. */
export const loadTerminalOf = (model: TerminalModel, channel: number): TerminalKey | null =>
  model.throughLoad?.to[channel] ?? model.contacts.find((contact) => contact.channel === channel)?.to ?? null
/** A changeover, like a mechanical 3-way: it has two sides, none of which is off. */
export const isChangeover = (model: TerminalModel): boolean => model.contacts.some((contact) => contact.when === 0)
