/** What one can choose, and what it is called. */
export const modeIds = ['home', 'away', 'guests', 'night'] as const
export type Mode = (typeof modeIds)[number]
export const runPlaces = ['device', 'hub', 'cloud'] as const
export type RunPlace = (typeof runPlaces)[number]
export const sensorKinds = ['motion', 'temperature', 'button'] as const
export type SensorKind = (typeof sensorKinds)[number]
export const sensorWords: Record<SensorKind, string> = { motion: 'movement', temperature: 'warmth', button: 'a press' }
export const weatherTurns = ['rain', 'dry', 'frost', 'wind'] as const
export const householdMoves = ['goesToBed', 'getsUp'] as const
export const declinables = ['location', 'notifications', 'remote', 'microphone'] as const
/**
 * own: the device is the switch · edge: a relay that follows the lever · toggle: every flip of the lever changes it ·
 * pulse: a spring-back button changes it · cuts: the lever takes its supply away · none: nothing on the wall.
 */
export const wallInputs = ['own', 'edge', 'toggle', 'pulse', 'cuts', 'none'] as const
export type WallInput = (typeof wallInputs)[number]

/** What is tried of an alert before anybody relies on it. */
export const alertChecks = ['arrived', 'repeated', 'silent'] as const
export type AlertCheck = (typeof alertChecks)[number]
export const alertCheckWords: Record<AlertCheck, string> = {
  arrived: 'provoked, and it came',
  repeated: 'it came again',
  silent: 'meant off, and it stayed away',
}

export const modeWords: Record<Mode, string> = { home: 'at home', away: 'away', guests: 'guests', night: 'night' }
export const runWords: Record<RunPlace, string> = { device: 'in the device', hub: 'in the hub', cloud: 'behind the internet' }
export const wallWords: Record<WallInput, string> = {
  own: 'it is the switch itself',
  edge: 'it follows the lever',
  toggle: 'every flip changes it',
  pulse: 'a spring-back button changes it',
  cuts: 'the lever cuts its supply',
  none: 'nothing on the wall',
}
export const declinableWords: Record<(typeof declinables)[number], string> = {
  location: 'where the phone is',
  notifications: 'messages on the phone',
  remote: 'control from outside',
  microphone: 'the microphone',
}
