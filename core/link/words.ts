import type { Observation } from '../commission/pairing/words'

/** What a device of the open home standard is, as far as the link drives it. */
export const linkedKinds = ['switch', 'dimmer', 'fan', 'twoChannel', 'meteringRelay', 'sensor'] as const
export type LinkedKind = (typeof linkedKinds)[number]

/** Why the link could not do what it was asked. */
export const linkFaults = ['notFound', 'wrongCode', 'keepsNoMore', 'broke', 'noAnswer', 'notLinked', 'cannot'] as const
export type LinkFault = (typeof linkFaults)[number]

/** What somebody on a ladder has to know: what it is, and what to do next. `seen` is what the advice on pairing makes of it. */
export const linkFaultWords: Record<LinkFault, { what: string; next: string; seen: Observation | null }> = {
  notFound: {
    what: 'No device with this code answers in the home’s network.',
    next: 'Does it wait to be paired, at 2.4 GHz in this network? One that belongs to somebody waits for nobody.',
    seen: 'appFindsNothing',
  },
  wrongCode: {
    what: 'Something waits in this network, but it has another code.',
    next: 'Is this one in its mode? Scan the code on the device itself again: two cards may have been swapped.',
    seen: 'appFindsNothing',
  },
  keepsNoMore: {
    what: 'The device keeps no more homes: its list is full.',
    next: 'Somebody removes a home that is not used any more from it, in the app of that home.',
    seen: 'appHubFull',
  },
  broke: {
    what: 'It began to join, and the connection broke.',
    next: 'Try once more beside it; where it breaks again, the signal is too weak here.',
    seen: 'joining',
  },
  noAnswer: {
    what: 'The device does not answer over the link.',
    next: 'Has it power? Where it has, wait half a minute and try again.',
    seen: null,
  },
  notLinked: { what: 'The link has not joined this device.', next: 'Join it first.', seen: null },
  cannot: { what: 'The device does not offer what was asked of it.', next: 'Look whether its model in the record is right.', seen: null },
}
