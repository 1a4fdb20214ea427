import { findAddress, roadMapSchema, type RoadMap } from '../../../core/dispatch'
import type { Routing } from '../../ports/routing'
import coast from './coast.geo.json' with { type: 'json' }

let read: RoadMap | null = null
/** The demo coast, for the whole company; a service for real roads takes its place behind the same port. */
export const routing: Routing = {
  roads: async () => (read ??= roadMapSchema.parse(coast)),
  find: async (address) => findAddress(await routing.roads(), address),
}
