import { understood, type StreamEvent, type StreamReducer } from '../stream'
import { erasedWord } from './words'
import type { StreamKind } from '../stream-kinds'
import { streams } from '../streams'

/**
 * Where, in what an entry holds, there are words of or about a customer: what people typed freely, who lives there, what their
 * network and accounts are called, how they signed, what joins their devices. `*` is every one of a list.
 *
 * What stays is what the people who worked there answer for, and how it says where: who switched, tagged, measured and proved
 * what and when, with the reasons they gave; names of rooms, boxes, panels, circuits, lights and devices; models and serials.
 */
const wordsIn: Record<StreamKind, Record<string, readonly string[]>> = {
  site: {
    absentEnded: ['household.name', 'household.strokes'],
    networkRecorded: ['name', 'note'],
    networkRetired: ['name'],
  },
  job: {
    accountsNoted: ['home', 'network'],
    addressReserved: ['mac'],
    alertChecked: ['note'],
    callbackClosed: ['resolution'],
    callbackDiagnosed: ['cause', 'confirmedBy'],
    callbackOpened: ['what'],
    callbackSolved: ['how'],
    circuitVerified: ['note'],
    codeChecked: ['ending'],
    defectListed: ['text'],
    defectSettled: ['how'],
    doorDecided: ['note'],
    drillRecorded: ['note'],
    habitsSet: ['habits.people.*.name'],
    handoverSigned: ['signer', 'strokes'],
    handoverTicked: ['note', 'text'],
    heardBack: ['said'],
    homesNoted: ['homes.*.label'],
    jobOpened: ['title', 'note'],
    memberNoted: ['name'],
    pairingRecorded: ['network', 'note'],
    permitNoted: ['note'],
    photoAdded: ['caption'],
    planSold: ['signer'],
    pointTested: ['note'],
    pointTestedWiresOut: ['note'],
    returnFollowed: ['note'],
    routineSet: ['routine.then.*.text'],
    unitLinked: ['device.network'],
    unitPrepared: ['note', 'code.sealed', 'code.ending'],
    unitRecorded: ['code.sealed', 'code.ending'],
    unitReplaced: ['code.sealed', 'code.ending'],
    unitUnlinked: ['how'],
    visitCancelled: ['reason'],
  },
}
export const wordPaths = (kind: StreamKind, type: string): readonly string[] => wordsIn[kind][type] ?? []

/** What stands there afterwards: nothing where a code or a signature was, a word that says so where somebody wrote. */
function erased(name: string, value: unknown): unknown {
  if (Array.isArray(value)) return []
  if (typeof value !== 'string' || value === '') return value
  if (name === 'sealed') return null
  return name === 'ending' || name === 'mac' ? '' : erasedWord
}
function eraseAt(value: unknown, [name, ...further]: string[]): unknown {
  if (name === undefined || typeof value !== 'object' || value === null) return value
  if (name === '*' && Array.isArray(value)) return value.map((one) => eraseAt(one, further))
  const whole = value as Record<string, unknown>
  if (!(name in whole)) return value
  return { ...whole, [name]: further.length ? eraseAt(whole[name], further) : erased(name, whole[name]) }
}

/**
 * An entry without the words of or about a customer, in the form of today: what an earlier program wrote is lifted first.
 * @returns the same entry where it holds none, or is of a later program
 */
export function withoutWords(event: StreamEvent): StreamEvent {
  const paths = wordPaths(event.stream, event.type)
  if (!paths.length) return event
  const entry = understood(streams[event.stream].reducer as StreamReducer<never>, event)
  if (!entry) return event
  const payload = paths.reduce<unknown>((left, path) => eraseAt(left, path.split('.')), entry.payload)
  return JSON.stringify(payload) === JSON.stringify(event.payload) ? event : { ...entry, payload }
}

/**
 * The same of a picture: it is not there any more, nor what was said of it.
 * @param photoIds null: whichever it is
 * @returns null where the entry is of none of these
 */
export function withoutPicture(event: StreamEvent, photoIds: ReadonlySet<string> | null): StreamEvent | null {
  if (event.type !== 'photoAdded') return null
  const entry = withoutWords(event)
  const payload = entry.payload as { photoId: string; erased?: boolean }
  if (photoIds && !photoIds.has(payload.photoId)) return null
  return { ...entry, payload: { ...payload, erased: true } }
}
