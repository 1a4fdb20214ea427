import type { Behaviour, Habits, Routine, Sensor } from './model.schema'

/** A device as a year is played with it. */
export interface HomeDevice {
  id: string
  name: string
  room: string
  roomId: string | null
  /** Lights are missed by whoever sits under them. */
  light: boolean
  watts: number
  behaviour: Behaviour
}

/** A home, and everything it does by itself. */
export interface AutomatedHome {
  zone: string
  /** Longitude and latitude, degrees; null: nobody knows where it is, and the sun is that of the equator’s equinox: six to six. */
  position: readonly [number, number] | null
  rooms: { id: string; name: string }[]
  devices: HomeDevice[]
  sensors: Sensor[]
  routines: Routine[]
  habits: Habits
}

/** What nobody set: lights stay off after an interruption, and the switch is the device. Common practice, no source. */
export const usualBehaviour: Behaviour = {
  powerOn: 'off',
  autoOnMinutes: null,
  autoOffMinutes: null,
  wall: 'own',
  mustRun: false,
  offAtMostMinutes: 60,
  indicator: 'on',
  lowestLevel: null,
  fanSteps: null,
}
/** A fan turns at the nearest of its steps, whatever is asked of it, percent; it does not stand still for being asked for little. */
export const stepOf = (steps: number | null, level: number): number =>
  steps === null ? level : (Math.max(1, Math.round((level * steps) / 100)) * 100) / steps
/** Two people who work, some guests, and a line that fails now and then: until somebody says how it is. */
export const usualHabits: Habits = {
  people: [
    { name: 'one', wakes: 6 * 60 + 30, leaves: 8 * 60, returns: 17 * 60 + 30, sleeps: 22 * 60 + 30 },
    { name: 'two', wakes: 7 * 60, leaves: 8 * 60 + 30, returns: 18 * 60, sleeps: 23 * 60 },
  ],
  weeksAway: 3,
  nightsWithGuests: 12,
  internetOutages: 6,
  powerOutages: 3,
  hub: true,
  declined: [],
}
