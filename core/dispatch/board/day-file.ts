import type { Away } from '../away'
import type { Position } from '../travel/road-map.schema'
import type { visitKinds } from '../../job/words'

type VisitKind = (typeof visitKinds)[number]

/** Whom a visit takes. */
export interface Needs {
  people: number
  skills: string[]
}
export const anybody: Needs = { people: 1, skills: [] }

/** What a branch has to do on one day, and with whom: instants as ISO text. */
export interface DayFile {
  zone: string
  date: string
  shift: { from: string; to: string; latest: string }
  rest: { minutes: number; from: string; to: string } | null
  /** Where the vans stand in the morning and parts lie. */
  store: Position | null
  people: { id: string; licensed: boolean; role: string; vanId: string | null; skills: string[] }[]
  /** Who does not work at some time of that day. */
  away: Away[]
  homes: { siteId: string; position: Position | null }[]
  visits: DayFileVisit[]
  /** What waits for a visit: jobs, and callbacks. */
  open: DayFileOpen[]
}
export interface DayFileVisit {
  id: string
  jobId: string
  siteId: string
  kind: VisitKind
  callbackId: string | null
  status: 'planned' | 'onSite' | 'done'
  personIds: string[]
  startsAt: string
  endsAt: string
  windowFrom: string
  windowTo: string
  /** Its people are on their way there. */
  setOffAt: string | null
  arrivedAt: string | null
  finishedAt: string | null
  /** Expected work, and the spread of its logarithm. */
  minutes: number
  spread: number
  /** Whom it takes, and vans that have all its parts on board; null: it needs none. */
  needs: Needs
  partsIn: string[] | null
  /** Why it stays with its people: their tags, open boxes, alarms there. */
  tied: string | null
}
export interface DayFileOpen {
  /** Of the callback, or of the job. */
  id: string
  jobId: string
  siteId: string
  kind: VisitKind
  callbackId: string | null
  since: string
  /** The day by which somebody is there, as the branch promises, YYYY-MM-DD; null: nothing is promised. */
  by: string | null
  minutes: number
  spread: number
  needs: Needs
  partsIn: string[] | null
  /** Parts that it needs and that are not here, in words: it is not placed by itself. */
  lacks: string | null
}
