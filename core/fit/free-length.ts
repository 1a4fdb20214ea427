import type { SchemeId } from '../units'

/**
 * Free ends that are left to work with, mm. NEC 300.14: at least 6 in from where the conductor leaves its sheath, and 3 in beyond
 * the opening of a box narrower than 8 in. In 230 V work no rule gives a number: common practice, no source.
 */
export const leastFreeLengthMm: Record<SchemeId, number> = { na120: 152, iec230: 100 }

/** What is said of ends too short to work with; null: they are long enough, or nobody has measured. */
export function freeLengthRemark(schemeId: SchemeId, shortestMm: number | null | undefined): string | null {
  const least = leastFreeLengthMm[schemeId]
  if (shortestMm === null || shortestMm === undefined || shortestMm >= least) return null
  return schemeId === 'na120'
    ? `Free ends of ${shortestMm} mm, under the 6 in of NEC 300.14: a pigtail on each, and its connector takes room.`
    : `Free ends of ${shortestMm} mm are short to work with: a pigtail on each, and its connector takes room.`
}
