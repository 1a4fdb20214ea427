export const visitKinds = ['survey', 'install', 'callback'] as const
export const photoKinds = ['asFound', 'beforeClosing', 'other'] as const
export const causeKinds = ['wiring', 'device', 'network', 'configuration', 'use', 'supply'] as const
export const oldUnitFates = ['return', 'refund', 'loan', 'scrap'] as const
/** What the customer sees, asked on the phone. */
export const callbackSigns = ['offlineInApp', 'wallSwitchFlipped', 'routerChanged', 'breakerTripped'] as const
/** Who pays for a callback: the installer’s own work, the maker of the device, or the customer. */
export const payers = ['us', 'maker', 'customer'] as const
/** Callbacks for which somebody has to come; others are closed, or wait for a call. */
export const toVisit = ['open', 'diagnosed'] as const
export const waitsForVisit = ({ status }: { status: string }): boolean => (toVisit as readonly string[]).includes(status)
export const callbackRemedies = ['replace', 'rewire', 'configure', 'network', 'teach'] as const

/** What a crew looks at or asks before anything is opened, and what it decides. */
export const doorCheckIds = ['licence', 'alarms', 'adult', 'panel', 'parts', 'mustStay', 'account', 'network'] as const
export const doorDecisions = ['go', 'part', 'no'] as const
export const doorWords: Record<(typeof doorDecisions)[number], string> = {
  go: 'begins',
  part: 'begins, and leaves something for another day',
  no: 'does not begin',
}

/** How a customer hears of another time. */
export const tellingWays = ['message', 'telephone'] as const

/** How the crew says it. */
export const photoWords: Record<(typeof photoKinds)[number], string> = {
  asFound: 'as found',
  beforeClosing: 'before closing',
  other: 'other',
}
export const visitWords: Record<(typeof visitKinds)[number], string> = { survey: 'survey', install: 'install', callback: 'callback' }
export const tellingWords: Record<(typeof tellingWays)[number], string> = { message: 'by message', telephone: 'by telephone' }
export const causeWords: Record<(typeof causeKinds)[number], string> = {
  wiring: 'wiring',
  device: 'device',
  network: 'network',
  configuration: 'configuration',
  use: 'use',
  supply: 'the supply',
}
export const fateWords: Record<(typeof oldUnitFates)[number], string> = {
  return: 'goes back to the maker',
  refund: 'refunded',
  loan: 'loan device back in stock',
  scrap: 'scrapped',
}
export const callbackSignWords: Record<(typeof callbackSigns)[number], string> = {
  offlineInApp: 'offline in the app',
  wallSwitchFlipped: 'wall switch was flipped',
  routerChanged: 'router changed',
  breakerTripped: '{breaker} tripped',
}
export const payerWords: Record<(typeof payers)[number], string> = { us: 'us', maker: 'the maker', customer: 'the customer' }
export const remedyWords: Record<(typeof callbackRemedies)[number], string> = {
  replace: 'replace the device',
  rewire: 'correct the wiring',
  configure: 'change its settings',
  network: 'mend the network',
  teach: 'show how it is used',
}
export const technologyWords = { led: 'LED', filament: 'filament', fan: 'fan', motor: 'motor', socket: 'socket' } as const
