import type { visitKinds } from '../../job/words'

type VisitKind = (typeof visitKinds)[number]

/** What a household gets ready before a crew comes. Common practice, no source. */
const items = {
  adult: {
    what: 'An adult is at home the whole time',
    why: 'Power goes off and on in parts of the home; somebody has to say what must stay on.',
    kinds: ['survey', 'install', 'callback'],
  },
  panel: {
    what: 'The {panel} with the {breakers} can be reached',
    why: 'Nothing stands before it, and its room is unlocked.',
    kinds: ['survey', 'install', 'callback'],
  },
  mustStay: {
    what: 'You have told us what must not lose power',
    why: 'A medical device, an aquarium, a freezer, a server: we keep it on, or move it first.',
    kinds: ['install', 'callback'],
  },
  account: {
    what: 'An account for the app, in your own name',
    why: 'Whoever holds the account holds the home. It is never ours.',
    kinds: ['install'],
  },
  codeReceiver: {
    what: 'Whoever gets the confirmation code is at hand',
    why: 'The app sends a code to one telephone or mailbox, and it expires in minutes.',
    kinds: ['install'],
  },
  phone: {
    what: 'Your telephone is up to date, charged, and may use Bluetooth and the local network',
    why: 'Devices are joined with it.',
    kinds: ['install', 'callback'],
  },
  wifi: {
    what: 'The name and password of the Wi-Fi were tried on another device',
    why: 'A wrong letter costs half an hour on a ladder.',
    kinds: ['install', 'callback'],
  },
  router: {
    what: 'The login of the router is at hand, or whoever knows it',
    why: 'Some homes need a setting there.',
    kinds: ['install', 'callback'],
  },
} as const satisfies Record<string, { what: string; why: string; kinds: readonly VisitKind[] }>

export type PrepareId = keyof typeof items
export const prepareIds = Object.keys(items) as PrepareId[]

/** The list for one kind of visit, in words of the trade in braces. */
export const preparationsFor = (kind: VisitKind): { id: PrepareId; what: string; why: string }[] =>
  prepareIds.flatMap((id) => {
    const { what, why, kinds } = items[id]
    return (kinds as readonly VisitKind[]).includes(kind) ? [{ id, what, why }] : []
  })
