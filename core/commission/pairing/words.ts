/** What a device shows while it is joined, as its maker's list of signs has it. */
export const signMeanings = ['waiting', 'joining', 'joined', 'refused', 'noHub', 'bound', 'idle', 'fault'] as const
export type SignMeaning = (typeof signMeanings)[number]
export const signMeaningWords: Record<SignMeaning, string> = {
  waiting: 'it waits to be paired',
  joining: 'it is pairing',
  joined: 'it is paired',
  refused: 'the network did not let it in',
  noHub: 'it finds no hub',
  bound: 'it still belongs to somebody else',
  idle: 'its window is over',
  fault: 'it is faulty',
}

/** What one sees at the device or in the app instead of success. */
export const observations = [
  'dark',
  'idle',
  'waiting',
  'joining',
  'refused',
  'noHub',
  'bound',
  'fault',
  'appFindsNothing',
  'appPassword',
  'appHubFull',
  'appOtherOwner',
  'appRegion',
  'timeout',
] as const
export type Observation = (typeof observations)[number]
export const observationWords: Record<Observation, string> = {
  dark: 'it shows nothing at all',
  idle: 'it no longer waits',
  waiting: 'it still waits',
  joining: 'it goes on pairing, and nothing comes of it',
  refused: 'it says that the network refused',
  noHub: 'it says that it finds no hub',
  bound: 'it says that it belongs to somebody',
  fault: 'it says that it is faulty',
  appFindsNothing: 'the app finds no device',
  appPassword: 'the app says that the password is wrong',
  appHubFull: 'the app says that the hub is full',
  appOtherOwner: 'the app says that it belongs to somebody',
  appRegion: 'the app says that it is for another region',
  timeout: 'two minutes are over, nothing happened',
}

/** Why a device does not pair. */
export const pairingCauses = [
  'notInMode',
  'windowOver',
  'noPower',
  'wrongBand',
  'wrongPassword',
  'weakSignal',
  'hubAway',
  'hubFull',
  'bound',
  'wrongRegion',
  'isolated',
  'defect',
] as const
export type PairingCause = (typeof pairingCauses)[number]
export const pairingCauseWords: Record<PairingCause, string> = {
  notInMode: 'it is not in pairing mode',
  windowOver: 'its window is over',
  noPower: 'it has no power',
  wrongBand: 'phone or network is at 5 GHz',
  wrongPassword: 'the password is not that of the network',
  weakSignal: 'the signal is too weak here',
  hubAway: 'the hub is off or not on the router',
  hubFull: 'the hub is full',
  bound: 'it still belongs to a previous owner',
  wrongRegion: 'app or account is of another region',
  isolated: 'the network keeps its devices apart',
  defect: 'the device is faulty',
}

/** What is tried. */
export const pairingSteps = [
  'lookAtPower',
  'gesture',
  'restart',
  'powerCycle',
  'band',
  'password',
  'hub',
  'accessPoint',
  'closer',
  'reset',
  'region',
  'replace',
] as const
export type PairingStep = (typeof pairingSteps)[number]
export const pairingStepWords: Record<PairingStep, { title: string; how: string }> = {
  lookAtPower: { title: 'Look at the power', how: 'Is its {breaker} closed, and did it show its first sign?' },
  gesture: { title: 'Make the gesture again', how: 'Exactly as its maker says: so long, so often.' },
  restart: { title: 'Start it anew by itself', how: 'Its window opens again; no {breaker} is touched.' },
  powerCycle: {
    title: 'Open its {breaker} and close it again',
    how: 'Ask on the {panel}’s page: hands out, everybody says clear. Every proof behind it ends.',
  },
  band: {
    title: 'Phone onto 2.4 GHz',
    how: 'Its own name of the network where it has one; else pause 5 GHz at the router, ten minutes.',
  },
  password: { title: 'Type the password again', how: 'Upper and lower case; no space at its end.' },
  hub: { title: 'Look at the hub', how: 'Plugged in, on the router, its light as it should be, room for one more.' },
  accessPoint: { title: 'By the device’s own network', how: 'Phone onto the network of the device, then back onto that of the home.' },
  closer: { title: 'Nearer', how: 'Phone beside the device; move the access point or the hub nearer, then measure here.' },
  reset: { title: 'Take everything it learnt from it', how: 'A previous owner’s account lets go of it first where its maker wants that.' },
  region: { title: 'Look at region and account', how: 'App, account and device are of one region; the account is the customer’s.' },
  replace: { title: 'Another device', how: 'This one goes back with what it showed.' },
}
