import { soldFor } from '../job/sale/sold'
import { pointsInOrder } from '../job/progress'
import type { JobState } from '../job/state'
import type { SolutionKind } from '../plan/words'

/** Carried to every box. Common practice, no source. */
const always = [
  'two-pole tester and its proving source',
  'meter',
  'locks and tags',
  'screwdrivers, flat and crossed',
  'strippers, cutters, pliers',
  'test lamp',
]
/** What a way of solving a point wants besides. Common practice, no source. */
const besides: Partial<Record<SolutionKind, string[]>> = {
  relayAtFixture: ['ladder'],
  smartLamps: ['ladder'],
  plugIn: ['ladder'],
  fanAndLight: ['torque screwdriver'],
  channelModule: ['pads or screws for modules'],
  meteringRelay: ['pads or screws for modules'],
  pullNeutral: ['fish tape', 'drill and long bit', 'cable'],
}
/** Tools for what was agreed and is not left as it is; empty: nothing is to be done. */
export function toolsFor(job: JobState): string[] {
  const kinds = pointsInOrder(job).flatMap(({ id }) => soldFor(job, id)?.solution.kind ?? [])
  const done = kinds.filter((kind) => kind !== 'leave')
  return done.length ? [...new Set([...always, ...done.flatMap((kind) => besides[kind] ?? [])])] : []
}
