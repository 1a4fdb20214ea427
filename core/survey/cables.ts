import type { BoxState, ConductorColour, SurveyCable } from '../site'
import type { BoxSurvey } from '../site/state'
import { awgSizes, isEarthMarked, type AwgSize, type SchemeId } from '../units'

export interface CableTap {
  id: string
  /** As it stands on the button: gauge and cores. */
  label: string
  cable: SurveyCable
}
const cable = (gauge: AwgSize | null, areaMm2: 1 | 1.5 | 2.5 | null, colours: ConductorColour[], stranded = false): SurveyCable => ({
  gaugeAwg: gauge,
  areaMm2,
  colours,
  stranded,
})
/** The cables one meets in most boxes, one tap each. Common practice, no source. */
export const usualCables: Record<SchemeId, CableTap[]> = {
  na120: [
    { id: '14-2', label: '14/2', cable: cable(14, null, ['black', 'white', 'bare']) },
    { id: '14-3', label: '14/3', cable: cable(14, null, ['black', 'red', 'white', 'bare']) },
    { id: '12-2', label: '12/2', cable: cable(12, null, ['black', 'white', 'bare']) },
    { id: '12-3', label: '12/3', cable: cable(12, null, ['black', 'red', 'white', 'bare']) },
    { id: '14-2x', label: '14/2, no {ground}', cable: cable(14, null, ['black', 'white']) },
  ],
  iec230: [
    { id: '1.5-2', label: '1.5 twin', cable: cable(null, 1.5, ['brown', 'blue', 'green-yellow']) },
    { id: '1.5-3', label: '1.5 three-core', cable: cable(null, 1.5, ['brown', 'black', 'grey', 'green-yellow']) },
    { id: '1-2', label: '1.0 twin', cable: cable(null, 1, ['brown', 'blue', 'green-yellow']) },
    { id: '2.5-2', label: '2.5 twin', cable: cable(null, 2.5, ['brown', 'blue', 'green-yellow']) },
    { id: '1.5-x', label: '1.5, no earth', cable: cable(null, 1.5, ['brown', 'blue']) },
  ],
}

export interface CountedConductor {
  gaugeAwg: AwgSize | null
  ground: boolean
  passage: 'ends' | 'through' | 'loop'
}
/** The conductors of a box: as recorded at the bench, else as the cables of the survey have them; null: neither is known. */
export function conductorsOf(box: BoxState, survey: BoxSurvey | undefined): CountedConductor[] | null {
  if (box.conductors.length)
    return box.conductors.map((one) => ({ gaugeAwg: knownGauge(one.gaugeAwg), ground: isEarthMarked(one.colour), passage: one.course }))
  return (
    survey?.cables?.flatMap(({ gaugeAwg, colours }) =>
      colours.map((colour) => ({ gaugeAwg: knownGauge(gaugeAwg), ground: isEarthMarked(colour), passage: 'ends' as const })),
    ) ?? null
  )
}
const knownGauge = (gauge: number | null) => ((awgSizes as readonly number[]).includes(gauge ?? 0) ? (gauge as AwgSize) : null)
