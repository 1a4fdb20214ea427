import type { SchemeId } from '../units'
import type { GroundFind, PlateKind, Protection } from '../site/survey-words'

export interface GroundWay {
  /** What is done. */
  way: string
  /** Is it so already, or does something have to be changed or bought for it? */
  ready: boolean
}

/**
 * What is left where a box has no {ground} for a replacement switch. NEC 404.9(B), exceptions, from memory: a faceplate of
 * nonmetallic, noncombustible material with nonmetallic screws, or protection by a ground-fault device; a metal box that is
 * itself bonded counts as a ground. In 230 V work a switch of class II needs no earth at its front; metal plates and metal fronts
 * do (IEC 60364-4-41). Local code and the licensed person decide; it is never silently skipped.
 * @returns null: nothing is missing
 */
export function groundWays(
  schemeId: SchemeId,
  found: GroundFind | null,
  { plate, protection, metalBox }: { plate: PlateKind | null; protection: Protection[]; metalBox: boolean },
): GroundWay[] | null {
  if (found === null || found === 'conductor') return null
  const guarded = protection.length > 0 && protection.every((one) => one === 'rcd' || one === 'both')
  if (schemeId === 'iec230')
    return [
      { way: 'a device and a plate without metal parts that can be touched', ready: plate !== 'metal' },
      { way: 'an earth pulled from the consumer unit', ready: false },
    ]
  if (found === 'boxOnly')
    return [{ way: 'a pigtail from the bonded metal box: prove its continuity to the {panel} first', ready: metalBox }]
  return [
    { way: 'a plate and screws without metal (NEC 404.9(B))', ready: plate !== 'metal' && plate !== null },
    { way: '{rcd} protection ahead of it (NEC 404.9(B))', ready: guarded },
    { way: '{a ground} pulled to the box', ready: false },
  ]
}
