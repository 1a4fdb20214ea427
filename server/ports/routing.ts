import type { Position, RoadMap } from '../../core/dispatch'

/** Where roads and addresses come from. */
export interface Routing {
  roads(): Promise<RoadMap>
  /** About where an address is, or null. */
  find(address: string): Promise<Position | null>
}
