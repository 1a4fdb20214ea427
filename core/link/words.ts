import type { Observation } from '../commission/pairing/words'

/** What a device of the open home standard is, as far as the link drives it. */
export const linkedKinds = ['switch', 'dimmer', 'fan', 'twoChannel', 'meteringRelay', 'sensor'] as const
export type LinkedKind = (typeof linkedKinds)[number]

/** Why the link could not do what it was asked. */
export const linkFaults = ['notFound', 'wrongCode', 'keepsNoMore', 'broke', 'noAnswer', 'notLinked', 'onlyHome', 'cannot'] as const
export type LinkFault = (typeof linkFaults)[number]

/** What somebody on a ladder has to know: what it is, and what to do next. `seen` is what the advice on pairing makes of it. */
export const linkFaultWords: Record<LinkFault, { what: string; next: string; seen: Observation | null }> = {
  notFound: {
    what: 'No device with this code answers in the home’s network.',
    next: 'Does it wait to be paired, at 2.4 GHz in this network? One that an app has joined waits for nobody until that app opens it for one more home, with a code of its own.',
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
  notLinked: { what: 'This laptop has no key to this device.', next: 'Join it over the link first.', seen: null },
  onlyHome: {
    what: 'No other home is on this device: without the installer it forgets its name and waits to be paired anew.',
    next: 'Open it for the household first.',
    seen: null,
  },
  cannot: { what: 'The device does not offer what was asked of it.', next: 'Look whether its model in the record is right.', seen: null },
}

/** What the link is asked to do at a device. */
export const linkDoings = ['join', 'check', 'wall', 'trace', 'name', 'open', 'homes', 'leave'] as const
export type LinkDoing = (typeof linkDoings)[number]

/** A fault, as whoever asked is told. */
export function faultSaid(fault: LinkFault, doing: LinkDoing): string {
  const { what, next } = linkFaultWords[fault]
  // Without its key nobody is taken off a device: joining it once more would only leave two keys on it.
  if (fault === 'notLinked' && doing === 'leave')
    return `${what} The installer stays on it until it is reset as its maker says, or removed in the app of the household. Then note below that it is off.`
  return `${what} ${next}`
}
