import { codesMatch, readSetupCode, type SetupCode } from '../../commission/setup-code'
import type { DeviceModel } from '../../fit/device-schema'
import { type Refusal, refuse } from '../../stream/envelope'
import type { JobContext } from '../context'
import type { StoredCode } from '../parts.schema'
import { failedInShop, preparedOf, serialKey } from '../shop/prepared'
import type { JobState } from '../state'

type NotRead = { ok: false; refusal: Refusal }

/** @returns whether a stored code is this one, as digits or as the square code; null: nobody here can open it */
export function isCode(stored: StoredCode, code: SetupCode, { unseal }: JobContext): boolean | null {
  if (stored.sealed === null || !unseal) return null
  const known = unseal(stored.sealed)
  if (known === code.canonical) return true
  const reading = readSetupCode('openHome', known)
  if (!reading.ok) return false
  const [a, b] = [code, reading.code]
  return a.kind === 'manual' && b.kind === 'qr' ? codesMatch(a, b) : a.kind === 'qr' && b.kind === 'manual' ? codesMatch(b, a) : false
}

/** No two devices of a job have one code; null: nobody else has this one. */
function codeTaken(job: JobState, serial: string, code: SetupCode, context: JobContext, unitId?: string): NotRead | null {
  const same = (other: string) => serialKey(other) === serialKey(serial)
  const twin = Object.values(job.units).find((unit) => unit.id !== unitId && !same(unit.serial) && isCode(unit.code, code, context))
  const toYes = 'Read it from this device, its tab or its card.'
  if (twin)
    return refuse(
      'codeInUse',
      twin.removedAt
        ? `This is the code of the device that was removed (serial ${twin.serial}).`
        : `This code is already recorded for ${twin.name || `the device with serial ${twin.serial}`}: no two devices have one code.`,
      toYes,
    )
  const ready = Object.values(job.prepared).find((unit) => !same(unit.serial) && unit.code && isCode(unit.code, code, context))
  return ready
    ? refuse('codeInUse', `This code was recorded in the shop for serial ${ready.serial}: a card of another carton, perhaps.`, toYes)
    : null
}

/**
 * The setup code of a device as it is to be stored.
 * @param own the device whose code it is to be; any other of the job with the same one makes it a slip
 */
export function readCode(
  job: JobState,
  own: { serial: string; unitId?: string },
  model: DeviceModel,
  entry: string,
  again: string,
  context: JobContext,
): StoredCode | NotRead {
  if (model.setupCode === 'none') return { kind: 'none', sealed: null, ending: '', checked: 'none' }
  const reading = readSetupCode(model.setupCode, entry, again)
  if (!reading.ok)
    return refuse(
      reading.needsSecondEntry ? 'codeTwice' : 'codeWrong',
      reading.problem,
      'Check the code on the device, the tab and the card before the box is closed.',
    )
  const taken = codeTaken(job, own.serial, reading.code, context, own.unitId)
  if (taken) return taken
  return {
    kind: reading.code.kind,
    sealed: context.seal(reading.code.canonical),
    ending: reading.code.canonical.slice(-2),
    checked: reading.checked,
  }
}

/**
 * The code of a device that goes into the wall: the one that the shop recorded for it, unless another is read now. What failed in
 * the shop, or is another model by its record, does not go in.
 */
export function codeAtWall(
  job: JobState,
  own: { serial: string; unitId: string },
  model: DeviceModel,
  { setupCode: entry, setupCodeAgain: again }: { setupCode: string; setupCodeAgain: string },
  context: JobContext,
): StoredCode | NotRead {
  const shop = preparedOf(job, own.serial)
  if (shop && shop.model.id !== model.id)
    return refuse(
      'otherModel',
      `Serial ${own.serial} is ${shop.model.maker} ${shop.model.name} by the shop’s record; here goes ${model.maker} ${model.name}.`,
      'Look at the label of its bag: it belongs in another box.',
    )
  const failed = shop && failedInShop(shop) ? shop.note : context.failedAnywhere(own.serial)
  if (failed !== null)
    return refuse('failedInShop', `Serial ${own.serial} failed in the shop: ${failed}.`, 'Take another, and send this one back.')
  if (!shop?.code) return readCode(job, own, model, entry, again, context)
  if (!entry.trim()) return shop.code
  const code = readCode(job, own, model, entry, again, context)
  if ('ok' in code) return code
  const reading = readSetupCode(model.setupCode === 'plain' ? 'plain' : 'openHome', entry, again)
  return reading.ok && isCode(shop.code, reading.code, context) === false
    ? refuse(
        'codeOther',
        `In the shop another code, ending in ${shop.code.ending}, was recorded for serial ${own.serial}.`,
        'Look at the device itself: a card may be of another carton. Is the shop’s wrong, record it anew under Parts, by box.',
      )
    : code
}
