import { arrivalsFrom } from './paths'
import type { Place } from './place'
import type { Timetable } from './timetable'

/** Seconds between two departures that a matrix knows. */
export const slotSeconds = 300

/** Travel between places by the time one leaves, for a planner that asks millions of times. */
export interface TravelMatrix {
  from: number
  slots: number
  places: number
  /** Arrivals, s after `from`, by departure slot, then from, then to. */
  arrivals: Float64Array
}

/**
 * One matrix per departure slot of 5 minutes.
 * @param from, to Seconds since 1970 between which somebody may leave.
 */
export function travelMatrix(table: Timetable, places: Place[], from: number, to: number): TravelMatrix {
  const slots = Math.ceil((to - from) / slotSeconds) + 2
  const count = places.length
  const arrivals = new Float64Array(slots * count * count)
  for (let slot = 0; slot < slots; slot++)
    for (let origin = 0; origin < count; origin++) {
      const row = arrivalsFrom(table, places[origin]!, places, from + slot * slotSeconds)
      for (let goal = 0; goal < count; goal++)
        arrivals[(slot * count + origin) * count + goal] = goal === origin ? slot * slotSeconds : row[goal]! - from
    }
  return { from, slots, places: count, arrivals }
}

/**
 * When who leaves then arrives, in seconds after the matrix begins. Between two departures it knows: on a line where the
 * arrivals are about as far apart as the departures, else (a ferry or a bridge between) the later one. So waiting is
 * never forgotten, and leaving later never arrives earlier.
 * @param leave Seconds after the matrix begins.
 */
export function arrivalIn({ slots, places, arrivals }: TravelMatrix, from: number, to: number, leave: number): number {
  if (from === to) return leave
  const slot = Math.min(slots - 2, Math.max(0, Math.floor(leave / slotSeconds)))
  const early = arrivals[(slot * places + from) * places + to]!
  const late = arrivals[((slot + 1) * places + from) * places + to]!
  const into = leave - slot * slotSeconds
  if (into <= 0) return early
  // Past the last departure that is known, as at the last.
  if (into > slotSeconds) return late + (into - slotSeconds)
  if (late - early > 1.3 * slotSeconds || !Number.isFinite(late)) return late
  return early + ((late - early) * into) / slotSeconds
}
