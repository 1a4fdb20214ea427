import type { SchemeId } from '../units'
import type { PlateKind } from '../site/survey-words'
import { connectorIn3 } from './connectors'
import type { Part, PartKind } from './part-schema'

/** A part as the company's list holds it. */
export type ListedPart = Part & { active: boolean }
type Of<K extends PartKind> = Extract<ListedPart, { kind: K }>
/** Parts of a kind that are in use under a supply. */
export const partsInUse = <K extends PartKind>(parts: readonly ListedPart[], kind: K, schemeId: SchemeId): Of<K>[] =>
  parts.filter((part): part is Of<K> => part.kind === kind && part.active && part.schemes.includes(schemeId))

const rising = (values: (number | null)[]): number[] => [...new Set(values.flatMap((value) => value ?? []))].sort((a, b) => a - b)
/** Sizes of the boxes on the list: in³, or mm of depth under 230 V. Empty: none is listed. */
export const boxSizes = (parts: readonly ListedPart[], schemeId: SchemeId, gangs: number, metal: boolean): number[] =>
  rising(
    partsInUse(parts, 'box', schemeId)
      .filter((box) => (schemeId === 'iec230' || box.gangs === gangs) && (!metal || box.material === 'metal'))
      .map((box) => (schemeId === 'iec230' ? box.depthMm : box.volumeIn3)),
  )
/** Watts of the lamps on the list. */
export const lampWatts = (parts: readonly ListedPart[], schemeId: SchemeId, technology: 'led' | 'filament'): number[] =>
  rising(
    partsInUse(parts, 'lamp', schemeId)
      .filter((lamp) => lamp.technology === technology)
      .map(({ watts }) => watts),
  )
/** Plates on the list for a row of so many gangs; null: no plates are listed at all. */
export function platesFor(parts: readonly ListedPart[], schemeId: SchemeId, gangs: number, plate: PlateKind): Of<'plate'>[] | null {
  const all = partsInUse(parts, 'plate', schemeId)
  return all.length ? all.filter((one) => one.gangs === gangs && one.plate === plate) : null
}
/** Bodies of connectors for three conductors by kind, in³: of the company's own where it lists them. */
export function connectorBodies(parts: readonly ListedPart[], schemeId: SchemeId): Record<keyof typeof connectorIn3, number> {
  const listed = partsInUse(parts, 'connector', schemeId)
  const bodyOf = (kind: keyof typeof connectorIn3) => listed.find(({ connector }) => connector === kind)?.bodyIn3 ?? connectorIn3[kind]
  return { twist: bodyOf('twist'), lever: bodyOf('lever'), pushIn: bodyOf('pushIn'), screw: bodyOf('screw') }
}
