import type { SiteState } from '../site'
import type { JobState } from './state'

/** What entries of a job are told with: its things by name. */
export interface JobWords {
  job: JobState
  site: SiteState
  box(id: string | null): string
  point(id: string | null): string
  unit(id: string): string
  callbackUnit(callbackId: string): string
  nameOf(personId: string): string
}
export function jobWords(job: JobState, site: SiteState, nameOf: (personId: string) => string): JobWords {
  const unit = (id: string) => {
    const known = job.units[id]
    return !known ? 'a device' : known.name ? `${known.name} (${known.serial})` : known.serial
  }
  return {
    job,
    site,
    box: (id) => (id ? (site.boxes[id]?.name ?? 'a box') : 'the home'),
    point: (id) => (id ? (job.points[id]?.name ?? 'a point') : 'the home'),
    unit,
    callbackUnit: (id) => unit(job.callbacks[id]?.unitId ?? ''),
    nameOf,
  }
}

/** Of what waited on a phone while its proof ended. */
export const doubtWords = ' – in doubt: its proof had ended before this arrived'
