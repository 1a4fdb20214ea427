import type { RunKind, WireRole } from './roles'

type End = number | 'line' | 'line2' | 'zero'
/**
 * What a cable's insulated conductors are and what they meet at its other end.
 * Ends of a link are slots of the cable, `line` or `zero` (neutral and ground are one metal at the panel).
 * hard: metal · load: through a lamp or motor · maybe: perhaps through something plugged in.
 */
export interface RunShape {
  run: RunKind
  slots: WireRole[]
  links: { a: End; b: End; kind: 'hard' | 'load' | 'maybe'; when?: 0 | 1 }[]
  /** Needs another control location. */
  far: boolean
  /** Carries a circuit of its own choice. */
  circuits: 0 | 1 | 2
  /** How usual it is, against the others with as many conductors; orders the tests, decides nothing (common practice, no source). */
  prior: number
}
const hard = (a: End, b: End, when?: 0 | 1) => ({ a, b, kind: 'hard' as const, when })
const load = (a: End, b: End, when?: 0 | 1) => ({ a, b, kind: 'load' as const, when })
const maybe = (a: End, b: End) => ({ a, b, kind: 'maybe' as const })

/**
 * The usual cable runs of the trade and the older ones (wiring theory and common practice, no single source).
 * A cable may have more conductors than its run needs: the rest are spare.
 */
const usual: Omit<RunShape, 'far' | 'circuits'>[] = [
  // Single conductors, as in conduit: what the cable's other conductors would be lies in another hole.
  { run: 'feed', slots: ['line'], links: [hard(0, 'line')], prior: 4 },
  { run: 'feed', slots: ['neutral'], links: [hard(0, 'zero')], prior: 4 },
  { run: 'light', slots: ['load'], links: [load(0, 'zero')], prior: 4 },
  { run: 'onward', slots: ['lineOn'], links: [maybe(0, 'zero')], prior: 1 },
  { run: 'onward', slots: ['neutralOn'], links: [], prior: 3 },
  { run: 'spare', slots: ['spare'], links: [], prior: 0.5 },
  // Two conductors.
  { run: 'feed', slots: ['line', 'neutral'], links: [hard(0, 'line'), hard(1, 'zero')], prior: 10 },
  { run: 'light', slots: ['load', 'neutralOn'], links: [load(0, 1)], prior: 10 },
  { run: 'loop', slots: ['line', 'load'], links: [hard(0, 'line'), load(1, 'zero')], prior: 5 },
  { run: 'onward', slots: ['lineOn', 'neutralOn'], links: [maybe(0, 1)], prior: 4 },
  { run: 'farTravelersToLight', slots: ['traveler', 'traveler'], links: [load(0, 'zero', 0), load(1, 'zero', 1)], prior: 3 },
  { run: 'farTravelersFromFeed', slots: ['traveler', 'traveler'], links: [hard(0, 'line', 0), hard(1, 'line', 1)], prior: 3 },
  // Both legs, or line and neutral, through a two-pole control.
  { run: 'twoPoleFeed', slots: ['line', 'line'], links: [hard(0, 'line'), hard(1, 'line2')], prior: 0.7 },
  { run: 'twoPoleLoad', slots: ['load', 'load'], links: [load(0, 1)], prior: 0.7 },
  { run: 'spare', slots: ['spare', 'spare'], links: [], prior: 1 },
  // Three.
  { run: 'sharedFeed', slots: ['line', 'line', 'sharedNeutral'], links: [hard(0, 'line'), hard(1, 'line2'), hard(2, 'zero')], prior: 2 },
  { run: 'sharedOnward', slots: ['lineOn', 'lineOn', 'neutralOn'], links: [maybe(0, 2), maybe(1, 2)], prior: 1 },
  { run: 'twoLights', slots: ['load', 'load', 'neutralOn'], links: [load(0, 2), load(1, 2)], prior: 5 },
  { run: 'onwardAndLight', slots: ['lineOn', 'load', 'neutralOn'], links: [maybe(0, 2), load(1, 2)], prior: 3 },
  { run: 'loopWithNeutral', slots: ['line', 'load', 'neutral'], links: [hard(0, 'line'), load(1, 'zero'), hard(2, 'zero')], prior: 4 },
  { run: 'doubleLoop', slots: ['line', 'load', 'load'], links: [hard(0, 'line'), load(1, 'zero'), load(2, 'zero')], prior: 4 },
  { run: 'farReturn', slots: ['farCommon', 'traveler', 'traveler'], links: [hard(0, 1, 0), hard(0, 2, 1)], prior: 5 },
  // The three-core two-way of 230 V countries: commons tied, line and switched line on the others of the first switch.
  { run: 'farStraps', slots: ['traveler', 'lineOn', 'loadOn'], links: [hard(0, 1, 0), hard(0, 2, 1)], prior: 4 },
  { run: 'farStraps', slots: ['traveler', 'lineOn', 'loadOn'], links: [hard(0, 1, 1), hard(0, 2, 0)], prior: 4 },
  // … and its second switch: common, line and switched line come from the first one.
  {
    run: 'farStrapsEnd',
    slots: ['traveler', 'line', 'load'],
    links: [hard(1, 'line'), load(2, 'zero'), hard(0, 1, 0), hard(0, 2, 1)],
    prior: 4,
  },
  {
    run: 'farStrapsEnd',
    slots: ['traveler', 'line', 'load'],
    links: [hard(1, 'line'), load(2, 'zero'), hard(0, 1, 1), hard(0, 2, 0)],
    prior: 4,
  },
  { run: 'farLight', slots: ['neutralOn', 'traveler', 'traveler'], links: [load(0, 1, 0), load(0, 2, 1)], prior: 6 },
  {
    run: 'farFeed',
    slots: ['neutral', 'traveler', 'traveler'],
    links: [hard(0, 'zero'), hard(1, 'line', 0), hard(2, 'line', 1)],
    prior: 6,
  },
  {
    run: 'farFeedAndLight',
    slots: ['load', 'traveler', 'traveler'],
    links: [load(0, 'zero'), hard(1, 'line', 0), hard(2, 'line', 1)],
    prior: 4,
  },
  {
    run: 'farLineAndLight',
    slots: ['line', 'traveler', 'traveler'],
    links: [hard(0, 'line'), load(1, 'zero', 0), load(2, 'zero', 1)],
    prior: 4,
  },
  {
    run: 'farTravelersToLight',
    slots: ['lineOn', 'traveler', 'traveler'],
    links: [maybe(0, 'zero'), load(1, 'zero', 0), load(2, 'zero', 1)],
    prior: 1,
  },
  { run: 'farCarter', slots: ['lineOn', 'neutralOn', 'load'], links: [load(2, 0, 0), load(2, 1, 1)], prior: 0.5 },
  { run: 'farCarter', slots: ['lineOn', 'neutralOn', 'load'], links: [load(2, 0, 1), load(2, 1, 0)], prior: 0.5 },
  // Four: a neutral brought along, a line carried on, one light more.
  {
    run: 'doubleLoop',
    slots: ['line', 'load', 'load', 'neutral'],
    links: [hard(0, 'line'), load(1, 'zero'), load(2, 'zero'), hard(3, 'zero')],
    prior: 4,
  },
  {
    run: 'doubleLoop',
    slots: ['line', 'load', 'load', 'load'],
    links: [hard(0, 'line'), load(1, 'zero'), load(2, 'zero'), load(3, 'zero')],
    prior: 2,
  },
  { run: 'twoLights', slots: ['load', 'load', 'load', 'neutralOn'], links: [load(0, 3), load(1, 3), load(2, 3)], prior: 3 },
  { run: 'onwardAndLight', slots: ['lineOn', 'load', 'load', 'neutralOn'], links: [maybe(0, 3), load(1, 3), load(2, 3)], prior: 2 },
  { run: 'farReturn', slots: ['farCommon', 'traveler', 'traveler', 'neutralOn'], links: [hard(0, 1, 0), hard(0, 2, 1)], prior: 4 },
  {
    run: 'farLight',
    slots: ['neutralOn', 'traveler', 'traveler', 'lineOn'],
    links: [load(0, 1, 0), load(0, 2, 1), maybe(3, 0)],
    prior: 2,
  },
  {
    run: 'farFeed',
    slots: ['neutral', 'traveler', 'traveler', 'line'],
    links: [hard(0, 'zero'), hard(1, 'line', 0), hard(2, 'line', 1), hard(3, 'line')],
    prior: 2,
  },
  {
    run: 'farLineAndLight',
    slots: ['line', 'traveler', 'traveler', 'neutral'],
    links: [hard(0, 'line'), load(1, 'zero', 0), load(2, 'zero', 1), hard(3, 'zero')],
    prior: 3,
  },
  {
    run: 'farFeedAndLight',
    slots: ['load', 'traveler', 'traveler', 'neutral'],
    links: [load(0, 'zero'), hard(1, 'line', 0), hard(2, 'line', 1), hard(3, 'zero')],
    prior: 3,
  },
  // Five.
  {
    run: 'doubleLoop',
    slots: ['line', 'load', 'load', 'load', 'neutral'],
    links: [hard(0, 'line'), load(1, 'zero'), load(2, 'zero'), load(3, 'zero'), hard(4, 'zero')],
    prior: 2,
  },
  {
    run: 'twoLights',
    slots: ['load', 'load', 'load', 'load', 'neutralOn'],
    links: [load(0, 4), load(1, 4), load(2, 4), load(3, 4)],
    prior: 1,
  },
]

/** How much rarer a cable run is for each conductor of its cable that is not used (common practice, no source). */
const spareFactor = 0.15
const shapes: RunShape[] = usual.map((shape) => ({
  ...shape,
  far: shape.run.startsWith('far'),
  circuits: shape.links.some(({ a, b }) => a === 'line2' || b === 'line2')
    ? 2
    : shape.slots.some((role) => role === 'line' || role === 'neutral') || shape.links.some(({ a, b }) => a === 'line' || b === 'line')
      ? 1
      : 0,
}))
/** Every run of a cable with so many insulated conductors. */
export const runShapesWith = (conductors: number): RunShape[] =>
  shapes.flatMap((shape) => {
    const spares = conductors - shape.slots.length
    // Nobody pulls a cable for one conductor; a cable that is all spare is one run.
    if (spares < 0 || (spares > 0 && shape.slots.length < 2 && shape.run !== 'spare')) return []
    if (shape.run === 'spare' && shape.slots.length === 2 && spares > 0) return []
    return [
      {
        ...shape,
        slots: [...shape.slots, ...Array.from({ length: spares }, (): WireRole => 'spare')],
        prior: shape.prior * spareFactor ** (shape.run === 'spare' ? 0 : spares),
      },
    ]
  })
