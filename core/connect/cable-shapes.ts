import type { ConductorColour } from '../site'
import type { SchemeId } from '../units'

export interface CableShape {
  id: string
  /** As the trade calls it. */
  label: string
  colours: ConductorColour[]
}
/** Cables as they usually come, conductors in the order they are lettered. Colours of cables on sale: common practice, no source. */
export const cableShapes: Record<SchemeId, CableShape[]> = {
  na120: [
    { id: 'two', label: 'two and {ground}', colours: ['black', 'white', 'bare'] },
    { id: 'three', label: 'three and {ground}', colours: ['black', 'red', 'white', 'bare'] },
    { id: 'twoBare', label: 'two, no {ground}', colours: ['black', 'white'] },
  ],
  iec230: [
    { id: 'two', label: 'two and earth', colours: ['brown', 'blue', 'green-yellow'] },
    { id: 'three', label: 'three and earth', colours: ['brown', 'black', 'grey', 'green-yellow'] },
    { id: 'five', label: 'five-core', colours: ['brown', 'black', 'grey', 'blue', 'green-yellow'] },
  ],
}
