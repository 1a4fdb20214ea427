import { readSetupCode } from '../../commission/setup-code'
import type { DeviceModel } from '../../fit/device-schema'
import { type Refusal, refuse } from '../../stream/envelope'
import type { JobContext } from '../context'
import type { StoredCode } from '../parts.schema'
import type { JobState } from '../state'

/** @param unitId the unit whose code it is to be; any other unit of the job with the same one makes it a slip */
export function readCode(
  job: JobState,
  unitId: string,
  model: DeviceModel,
  entry: string,
  again: string,
  context: JobContext,
): StoredCode | { ok: false; refusal: Refusal } {
  if (model.setupCode === 'none') return { kind: 'none', sealed: null, ending: '', checked: 'none' }
  const reading = readSetupCode(model.setupCode, entry, again)
  if (!reading.ok)
    return refuse(
      reading.needsSecondEntry ? 'codeTwice' : 'codeWrong',
      reading.problem,
      'Check the code on the device, the tab and the card before the box is closed.',
    )
  const twin = Object.values(job.units).find(
    ({ id, code }) => id !== unitId && code.sealed !== null && context.unseal?.(code.sealed) === reading.code.canonical,
  )
  if (twin)
    return refuse(
      'codeInUse',
      twin.removedAt
        ? `This is the code of the device that was removed (serial ${twin.serial}).`
        : `This code is already recorded for ${twin.name || `the device with serial ${twin.serial}`}: no two devices have one code.`,
      'Read it from this device, its tab or its card.',
    )
  return {
    kind: reading.code.kind,
    sealed: context.seal(reading.code.canonical),
    ending: reading.code.canonical.slice(-2),
    checked: reading.checked,
  }
}
