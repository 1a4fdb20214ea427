import type { Course, WireRole } from './roles'

/**
 * What a cable's insulated conductors are and what they meet at its other end.
 * Ends of a link are slots of the cable, `line` or `zero` (neutral and ground are one metal at the panel).
 * hard: metal · load: through a lamp or motor · maybe: perhaps through something plugged in.
 */
export interface CourseShape {
  course: Course
  slots: WireRole[]
  links: { a: number | 'line' | 'line2' | 'zero'; b: number | 'line' | 'line2' | 'zero'; kind: 'hard' | 'load' | 'maybe'; when?: 0 | 1 }[]
  /** Needs another control location. */
  far: boolean
  /** Carries a circuit of its own choice. */
  circuits: 0 | 1 | 2
  /** How usual it is, against the others with as many conductors; orders the tests, decides nothing (common practice, no source). */
  prior: number
}

const hard = (a: CourseShape['links'][0]['a'], b: CourseShape['links'][0]['b'], when?: 0 | 1) => ({ a, b, kind: 'hard' as const, when })
const load = (a: CourseShape['links'][0]['a'], b: CourseShape['links'][0]['b'], when?: 0 | 1) => ({ a, b, kind: 'load' as const, when })

/** The usual courses of the trade and the older ones (wiring theory and common practice, no single source). */
export const courseShapes: CourseShape[] = [
  { course: 'feed', slots: ['line', 'neutral'], links: [hard(0, 'line'), hard(1, 'zero')], far: false, circuits: 1, prior: 10 },
  { course: 'light', slots: ['load', 'neutralOn'], links: [load(0, 1)], far: false, circuits: 0, prior: 10 },
  { course: 'loop', slots: ['line', 'load'], links: [hard(0, 'line'), load(1, 'zero')], far: false, circuits: 1, prior: 5 },
  {
    course: 'onward',
    slots: ['lineOn', 'neutralOn'],
    links: [{ a: 0, b: 1, kind: 'maybe' }],
    far: false,
    circuits: 0,
    prior: 4,
  },
  {
    course: 'farTravelersToLight',
    slots: ['traveler', 'traveler'],
    links: [load(0, 'zero', 0), load(1, 'zero', 1)],
    far: true,
    circuits: 0,
    prior: 3,
  },
  {
    course: 'farTravelersFromFeed',
    slots: ['traveler', 'traveler'],
    links: [hard(0, 'line', 0), hard(1, 'line', 1)],
    far: true,
    circuits: 1,
    prior: 3,
  },
  { course: 'spare', slots: ['spare', 'spare'], links: [], far: false, circuits: 0, prior: 1 },
  {
    course: 'sharedFeed',
    slots: ['line', 'line', 'neutral'],
    links: [hard(0, 'line'), hard(1, 'line2'), hard(2, 'zero')],
    far: false,
    circuits: 2,
    prior: 2,
  },
  { course: 'twoLights', slots: ['load', 'load', 'neutralOn'], links: [load(0, 2), load(1, 2)], far: false, circuits: 0, prior: 5 },
  {
    course: 'loopWithNeutral',
    slots: ['line', 'load', 'neutral'],
    links: [hard(0, 'line'), load(1, 'zero'), hard(2, 'zero')],
    far: false,
    circuits: 1,
    prior: 4,
  },
  {
    course: 'doubleLoop',
    slots: ['line', 'load', 'load'],
    links: [hard(0, 'line'), load(1, 'zero'), load(2, 'zero')],
    far: false,
    circuits: 1,
    prior: 4,
  },
  {
    course: 'farReturn',
    slots: ['farCommon', 'traveler', 'traveler'],
    links: [hard(0, 1, 0), hard(0, 2, 1)],
    far: true,
    circuits: 0,
    prior: 5,
  },
  {
    course: 'farLight',
    slots: ['neutralOn', 'traveler', 'traveler'],
    links: [load(0, 1, 0), load(0, 2, 1)],
    far: true,
    circuits: 0,
    prior: 6,
  },
  {
    course: 'farFeed',
    slots: ['neutral', 'traveler', 'traveler'],
    links: [hard(0, 'zero'), hard(1, 'line', 0), hard(2, 'line', 1)],
    far: true,
    circuits: 1,
    prior: 6,
  },
  {
    course: 'farFeedAndLight',
    slots: ['load', 'traveler', 'traveler'],
    links: [load(0, 'zero'), hard(1, 'line', 0), hard(2, 'line', 1)],
    far: true,
    circuits: 1,
    prior: 4,
  },
  {
    course: 'farLineAndLight',
    slots: ['line', 'traveler', 'traveler'],
    links: [hard(0, 'line'), load(1, 'zero', 0), load(2, 'zero', 1)],
    far: true,
    circuits: 1,
    prior: 4,
  },
  {
    course: 'farOlder',
    slots: ['lineOn', 'neutralOn', 'load'],
    links: [load(2, 0, 0), load(2, 1, 1)],
    far: true,
    circuits: 0,
    prior: 0.5,
  },
  { course: 'spare', slots: ['spare', 'spare', 'spare'], links: [], far: false, circuits: 0, prior: 0.5 },
]
