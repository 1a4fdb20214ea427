import type { Termination } from './device-schema'
import type { DeviceRemark } from './device-model'

/** A conductor that is to end on a terminal. */
export interface EndingConductor {
  gaugeAwg: number | null
  areaMm2: number | null
  stranded: boolean
  /** The end is soldered: cut off and stripped again. */
  tinned?: boolean
}

/**
 * Do these conductors go on one terminal of a device as they are, and what has to be done first? AWG counts down: 10 is thicker
 * than 14. The connector's own listing decides what a splice may hold (UL 486C).
 */
export function judgeTermination(termination: Termination, conductors: EndingConductor[]): DeviceRemark[] {
  const remarks: DeviceRemark[] = []
  const say = (severity: DeviceRemark['severity'], text: string) => {
    if (!remarks.some((one) => one.text === text)) remarks.push({ severity, text })
  }
  for (const { gaugeAwg, areaMm2, stranded, tinned } of conductors) {
    const { thinnestAwg, thickestAwg, thinnestMm2, thickestMm2 } = termination
    const thick =
      (gaugeAwg !== null && thickestAwg !== null && gaugeAwg < thickestAwg) ||
      (areaMm2 !== null && thickestMm2 !== null && areaMm2 > thickestMm2)
    const thin =
      (gaugeAwg !== null && thinnestAwg !== null && gaugeAwg > thinnestAwg) ||
      (areaMm2 !== null && thinnestMm2 !== null && areaMm2 < thinnestMm2)
    const size = gaugeAwg !== null ? `${gaugeAwg} AWG` : areaMm2 !== null ? `${areaMm2} mm²` : ''
    if (tinned) say('warn', 'Cut the tinned end off and strip again: solder creeps under a clamp.')
    if (termination.kind === 'leads') continue
    if (thick) say('warn', `${size}${stranded ? ' stranded' : ''} does not go into its terminal: splice it to a solid pigtail that does.`)
    if (thin) say('block', `${size} is thinner than its terminal holds.`)
    if (stranded && !termination.stranded && !thick)
      say('warn', `Its terminal takes solid conductors: splice the stranded ${size} to a solid pigtail.`)
  }
  if (termination.kind !== 'leads' && conductors.length > termination.holds)
    say('warn', `Its terminal holds ${termination.holds}, here are ${conductors.length}: splice them, with one pigtail.`)
  return remarks
}

/** How a conductor is made fast on it: the end of a connection step. Today's sentence where nothing is on record. */
export function fasteningWords(termination: Termination | null): string {
  const torque = termination?.torqueNm ? ` Tighten to ${termination.torqueNm} N·m by hand, no power driver (NEC 110.14(D)).` : ''
  switch (termination?.kind) {
    case 'screw':
      return `Three quarters round the screw, clockwise, no insulation under it; tug it.${torque}`
    case 'pushIn':
      return 'Straight, to the strip gauge, pushed home until it stops; tug it.'
    case 'leads':
      return 'With its lead, in a connector listed for both; tug each while you hold the connector.'
    default:
      return `Bottomed, under the clamp, no copper showing; tug it.${torque}`
  }
}
