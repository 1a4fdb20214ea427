import { cellCaution } from '../fit/battery'
import { causeKinds, payers } from '../job/words'

export { causeKinds, payers }
/** What a callback turns out to be. */
export type CauseKind = (typeof causeKinds)[number]
/** Who pays for it, as a rule: the installer's own work, the maker of the device, or the customer. */
export type Payer = (typeof payers)[number]
/** What a crew takes along for it beside its tools. */
export const carries = ['device', 'lamp', 'bypass', 'connectors', 'hub', 'accessPoint'] as const
export type Carry = (typeof carries)[number]
export const carryWords: Record<Carry, string> = {
  device: 'the same model',
  lamp: 'lamps that go with the dimmer',
  bypass: 'a bypass for small loads',
  connectors: 'connectors',
  hub: 'a hub',
  accessPoint: 'an access point or a repeater',
}

/** What the customer says first. */
export const symptomWords = {
  dead: 'nothing happens at the wall',
  keyDead: 'the wall button does nothing, the app does',
  staysOn: 'it stays on',
  flickers: 'it flickers, or glows when off',
  wontDim: 'it does not dim as it should',
  byItself: 'it switches by itself',
  missed: 'it did not switch when it should',
  offline: 'the app does not reach it',
  noAccess: 'somebody’s phone does not have it',
  voice: 'the voice does not do it',
  wrongOne: 'another light answers',
  halfPositions: 'it works in half of the positions',
  comesAndGoes: 'it works now and then',
  slow: 'it answers late',
  trips: 'the {breaker} trips',
  buzzes: 'it hums or buzzes',
} as const
export type Symptom = keyof typeof symptomWords
export const symptoms = Object.keys(symptomWords) as Symptom[]

export interface Cause {
  id: string
  kind: CauseKind
  words: string
  /** So many of a hundred callbacks, before anything is learnt. */
  usual: number
  /** What a customer says of it, against each other. */
  shows: Partial<Record<Symptom, number>>
  /** What the customer does about it while on the telephone; empty: somebody has to come. */
  steps: readonly string[]
  /** How often that mends it where it is the cause. */
  byPhone: number
  /** How it is confirmed at the home, before anything is changed. */
  check: string
  carry: readonly Carry[]
  /** On site, beyond arriving and the first look. */
  minutes: number
  /** A box, a fixture or the panel is opened. */
  opens: boolean
  payer: Payer
}

const cause = (id: string, kind: CauseKind, usual: number, words: string, rest: Omit<Cause, 'id' | 'kind' | 'usual' | 'words'>): Cause => ({
  id,
  kind,
  usual,
  words,
  ...rest,
})
const visit = { steps: [], byPhone: 0 } as const

/** Causes with how often each is met: the trade's ranking, common practice, no source. A company's own record moves them. */
export const causes: readonly Cause[] = [
  cause('looseJoint', 'wiring', 5, 'a loose joint or terminal', {
    ...visit,
    shows: { comesAndGoes: 5, dead: 4, flickers: 3, buzzes: 2, offline: 1 },
    check: 'Proven dead: pull each conductor of the box; voltage drop at the joint under load afterwards.',
    carry: ['connectors'],
    minutes: 25,
    opens: true,
    payer: 'us',
  }),
  cause('swapped', 'wiring', 1, 'line and load exchanged', {
    ...visit,
    shows: { dead: 4, staysOn: 4, offline: 2 },
    check: 'The bench’s prediction against what is seen, then the wires against the plan, proven dead.',
    carry: [],
    minutes: 25,
    opens: true,
    payer: 'us',
  }),
  cause('travelersMixed', 'wiring', 2, 'a common and {a traveler} exchanged', {
    ...visit,
    shows: { halfPositions: 9, dead: 1, comesAndGoes: 1 },
    check: 'Every combination of positions, against what the bench predicts.',
    carry: [],
    minutes: 40,
    opens: true,
    payer: 'us',
  }),
  cause('neutralLost', 'wiring', 2, 'a neutral that is open', {
    ...visit,
    shows: { dead: 5, flickers: 3, offline: 2, comesAndGoes: 2 },
    check: 'Line to neutral at the device against line to {ground}.',
    carry: ['connectors'],
    minutes: 45,
    opens: true,
    payer: 'us',
  }),
  cause('sharedNeutral', 'wiring', 2, 'a neutral borrowed from another circuit', {
    ...visit,
    shows: { trips: 9, flickers: 1 },
    check: 'Current in the neutral with the circuit’s own {breaker} open: anything but none.',
    carry: ['connectors'],
    minutes: 60,
    opens: true,
    payer: 'us',
  }),
  cause('shortInBox', 'wiring', 1, 'a conductor pinched or bare in the box', {
    ...visit,
    shows: { trips: 9, dead: 1 },
    check: 'Insulation, with the device out and the {breaker} open.',
    carry: ['connectors', 'device'],
    minutes: 50,
    opens: true,
    payer: 'us',
  }),
  cause('disturbed', 'wiring', 2, 'somebody else changed the wiring', {
    ...visit,
    shows: { dead: 4, halfPositions: 2, wrongOne: 2, trips: 1, staysOn: 1 },
    check: 'The box against the picture that was taken before it was closed.',
    carry: ['connectors'],
    minutes: 45,
    opens: true,
    payer: 'customer',
  }),
  cause('earlyFailure', 'device', 4, 'the device failed within its first weeks', {
    ...visit,
    shows: { dead: 6, offline: 3, comesAndGoes: 1 },
    check: 'Line and neutral are there at its terminals, and it does nothing.',
    carry: ['device'],
    minutes: 35,
    opens: true,
    payer: 'maker',
  }),
  cause('relayStuck', 'device', 2, 'its relay is welded', {
    ...visit,
    shows: { staysOn: 9, byItself: 1 },
    check: 'Its own light says off, and the load is on.',
    carry: ['device'],
    minutes: 35,
    opens: true,
    payer: 'maker',
  }),
  cause('relayWorn', 'device', 2, 'its relay does not make contact any more', {
    ...visit,
    shows: { dead: 4, comesAndGoes: 4, flickers: 2, buzzes: 1 },
    check: 'It clicks and says on; line at its input, none at its load terminal.',
    carry: ['device'],
    minutes: 35,
    opens: true,
    payer: 'maker',
  }),
  cause('supplyWorn', 'device', 3, 'its own power supply fails', {
    ...visit,
    shows: { comesAndGoes: 4, dead: 4, offline: 4 },
    check: 'Line and neutral are steady at its terminals while it drops out.',
    carry: ['device'],
    minutes: 35,
    opens: true,
    payer: 'maker',
  }),
  cause('keyWorn', 'device', 1, 'its button is worn or jams', {
    ...visit,
    shows: { keyDead: 9, byItself: 2 },
    check: 'The app switches it, the button does not, ten times of ten.',
    carry: ['device'],
    minutes: 30,
    opens: true,
    payer: 'maker',
  }),
  cause('tooWarm', 'device', 1, 'it is loaded beyond what it carries here', {
    ...visit,
    shows: { buzzes: 4, comesAndGoes: 4, wontDim: 2, byItself: 1 },
    check: 'Watts of the load against what the model carries in this row.',
    carry: ['device'],
    minutes: 40,
    opens: true,
    payer: 'us',
  }),
  cause('batteryEmpty', 'supply', 1, 'the battery of the remote is empty', {
    shows: { keyDead: 8, comesAndGoes: 4, dead: 3, slow: 2, offline: 1 },
    steps: [
      'Take the remote off the wall and open it: what is printed on the battery?',
      'Put in a new one of the same kind, as the old one lay. Within half a minute press a key: its small light blinks.',
      cellCaution,
    ],
    byPhone: 0.8,
    check: 'A fresh battery in it: its small light blinks at each press.',
    carry: [],
    minutes: 10,
    opens: false,
    payer: 'customer',
  }),
  cause('routerChanged', 'network', 9, 'a new router, or a new name or password of the Wi-Fi', {
    shows: { offline: 9, voice: 1, missed: 1 },
    steps: [
      'Look on the router’s label or in its app for the name and password of the Wi-Fi now.',
      'If you can: give the new router the old name and the old password, letter by letter. Devices come back by themselves within five minutes.',
      'If not: in the app, choose the device, then its Wi-Fi, and type the new name and password.',
    ],
    byPhone: 0.65,
    check: 'Which network the device asks for, and which the router gives.',
    carry: [],
    minutes: 25,
    opens: false,
    payer: 'customer',
  }),
  cause('wrongBand', 'network', 3, 'the phone or the router keeps it off the 2.4 GHz band', {
    shows: { offline: 7, comesAndGoes: 2 },
    steps: [
      'In the router’s app, pause the 5 GHz band for ten minutes, or give 2.4 GHz a name of its own.',
      'Turn the device off and on by its own restart, and wait two minutes.',
    ],
    byPhone: 0.5,
    check: 'The band of the network that it is asked to join.',
    carry: [],
    minutes: 20,
    opens: false,
    payer: 'us',
  }),
  cause('weakSignal', 'network', 6, 'the signal is too weak there', {
    ...visit,
    shows: { comesAndGoes: 6, offline: 4, slow: 4, voice: 1 },
    check: 'The level at the box with the plate on and the doors closed, against −70 dBm.',
    carry: ['accessPoint'],
    minutes: 35,
    opens: false,
    payer: 'us',
  }),
  cause('internetOut', 'network', 4, 'the internet is down at the home', {
    shows: { voice: 5, offline: 5, missed: 2 },
    steps: [
      'Take the router’s plug out for half a minute, put it in, and wait five minutes.',
      'If its light for the internet stays dark: ask the provider.',
    ],
    byPhone: 0.7,
    check: 'The router’s own page: is there a line from outside?',
    carry: [],
    minutes: 15,
    opens: false,
    payer: 'customer',
  }),
  cause('routerStuck', 'network', 4, 'the router has to be started anew', {
    shows: { offline: 7, slow: 3, voice: 2, comesAndGoes: 1 },
    steps: ['Take the router’s plug out for half a minute, put it in, and wait five minutes.'],
    byPhone: 0.9,
    check: 'It comes back once the router was started anew, and stays.',
    carry: [],
    minutes: 15,
    opens: false,
    payer: 'customer',
  }),
  cause('hubOff', 'network', 3, 'the hub is without power or network', {
    shows: { offline: 9, missed: 2, voice: 1 },
    steps: [
      'Look at the hub: is it plugged in, is its cable in the router, is its light as usual?',
      'Take its plug out for half a minute, put it in, and wait three minutes.',
    ],
    byPhone: 0.8,
    check: 'Everything that goes through the hub is away, and nothing else is.',
    carry: ['hub'],
    minutes: 20,
    opens: false,
    payer: 'customer',
  }),
  cause('meshHole', 'network', 2, 'a hole in the mesh: something between was moved or unplugged', {
    shows: { comesAndGoes: 5, offline: 4, slow: 4 },
    steps: [
      'Plug in again what was unplugged: lamps and plugs carry the others’ messages.',
      'Ask the hub to look for its devices anew, and wait an hour.',
    ],
    byPhone: 0.4,
    check: 'The mesh of the hub: by whom its messages come.',
    carry: ['accessPoint'],
    minutes: 35,
    opens: false,
    payer: 'us',
  }),
  cause('isolated', 'network', 1, 'phone and device are on networks that do not meet', {
    shows: { offline: 6, noAccess: 4 },
    steps: ['Take the phone off the guest network, and join the network of the home.'],
    byPhone: 0.8,
    check: 'The network of the phone against the network of the device.',
    carry: [],
    minutes: 15,
    opens: false,
    payer: 'customer',
  }),
  cause('serviceDown', 'network', 2, 'the maker’s service does not answer', {
    shows: { voice: 5, offline: 4, missed: 3, slow: 2 },
    steps: ['The wall works meanwhile. Wait for two hours, and try again.'],
    byPhone: 0.8,
    check: 'The maker’s page says so, or other homes with this model are away too.',
    carry: [],
    minutes: 10,
    opens: false,
    payer: 'maker',
  }),
  cause('scheduleWrong', 'configuration', 5, 'a schedule does it, or its other half is missing', {
    shows: { byItself: 6, missed: 6, staysOn: 2 },
    steps: [
      'Open the schedules of the device in the app, and read what is set for that hour and those days.',
      'Change it, or switch it off.',
    ],
    byPhone: 0.8,
    check: 'The device’s own schedules against those of the record.',
    carry: [],
    minutes: 15,
    opens: false,
    payer: 'us',
  }),
  cause('rulesFight', 'configuration', 2, 'two rules fight', {
    shows: { byItself: 8, flickers: 1, missed: 2 },
    steps: ['Switch the newer of the two rules off in the app.'],
    byPhone: 0.55,
    check: 'A year played with the home’s rules: where two answer each other.',
    carry: [],
    minutes: 30,
    opens: false,
    payer: 'us',
  }),
  cause('namesClash', 'configuration', 4, 'two names that one phrase moves', {
    shows: { wrongOne: 8, voice: 3 },
    steps: ['Give one of the two the name that we suggest, in the app, and say it three times.'],
    byPhone: 0.85,
    check: 'The phrase, three times where the household stands.',
    carry: [],
    minutes: 15,
    opens: false,
    payer: 'us',
  }),
  cause('voiceUnlinked', 'configuration', 3, 'the voice assistant lost its link', {
    shows: { voice: 9 },
    steps: ['In the voice assistant’s app, take the maker’s account off, link it again, and let it look for devices.'],
    byPhone: 0.8,
    check: 'The assistant lists the device.',
    carry: [],
    minutes: 15,
    opens: false,
    payer: 'customer',
  }),
  cause('accountWrong', 'configuration', 3, 'another account or home is selected', {
    shows: { noAccess: 7, offline: 3, voice: 1 },
    steps: [
      'In the app, look which account is signed in and which home is selected, and choose the right one.',
      'Whoever has no invitation is invited again, and accepts.',
    ],
    byPhone: 0.85,
    check: 'Account, home and members in the app.',
    carry: [],
    minutes: 15,
    opens: false,
    payer: 'customer',
  }),
  cause('permissionOff', 'configuration', 2, 'a permission was declined, or taken away by an update', {
    shows: { missed: 5, noAccess: 3, byItself: 1, offline: 1 },
    steps: ['In the phone’s settings, choose the app, and allow place (always), the local network and messages.'],
    byPhone: 0.85,
    check: 'The permissions of the app on each phone.',
    carry: [],
    minutes: 10,
    opens: false,
    payer: 'customer',
  }),
  cause('powerOnState', 'configuration', 2, 'what it does after a power interruption is not as wanted', {
    shows: { byItself: 7, staysOn: 2, missed: 1 },
    steps: ['In the app, choose the device, then what it does when power comes back, and choose what you want.'],
    byPhone: 0.85,
    check: 'Its {breaker} off and on once, by the crew.',
    carry: [],
    minutes: 10,
    opens: false,
    payer: 'us',
  }),
  cause('dimRange', 'configuration', 3, 'its lowest level is not set for these lamps', {
    shows: { flickers: 6, wontDim: 5, buzzes: 1 },
    steps: ['In the app, choose the device, then its lowest level, and raise it until nothing flickers.'],
    byPhone: 0.75,
    check: 'Up and down through the levels, with the lamps that are in.',
    carry: ['lamp', 'bypass'],
    minutes: 20,
    opens: false,
    payer: 'us',
  }),
  cause('clockWrong', 'configuration', 1, 'its place or clock is wrong', {
    shows: { missed: 7, byItself: 3 },
    steps: ['In the app, look at the place of the home and its time zone, and set them.'],
    byPhone: 0.9,
    check: 'The place and zone of the home in the app.',
    carry: [],
    minutes: 10,
    opens: false,
    payer: 'us',
  }),
  cause('otherSwitchOff', 'use', 5, 'another switch before it is off', {
    shows: { offline: 5, dead: 5 },
    steps: ['Look for another switch of the same light, at a door or a lamp, and turn it on. Leave it on.'],
    byPhone: 0.9,
    check: 'No line at its input until the other switch is on.',
    carry: [],
    minutes: 10,
    opens: false,
    payer: 'customer',
  }),
  cause('wasReset', 'use', 3, 'its button was held until it forgot its network', {
    shows: { offline: 8, missed: 1, voice: 1 },
    steps: ['Add it again in the app, with the code of your papers. Give it its old name.'],
    byPhone: 0.5,
    check: 'Its light asks to be joined.',
    carry: [],
    minutes: 20,
    opens: false,
    payer: 'customer',
  }),
  cause('airGap', 'use', 3, 'its air gap is out', {
    shows: { dead: 9, offline: 2 },
    steps: ['Push the small tab below the button in until it clicks.'],
    byPhone: 0.97,
    check: 'The tab is out.',
    carry: [],
    minutes: 5,
    opens: false,
    payer: 'customer',
  }),
  cause('gesture', 'use', 5, 'the button is used in another way than it wants', {
    shows: { wontDim: 4, byItself: 2, staysOn: 2, keyDead: 2, dead: 1 },
    steps: ['Press once and let go for on and off; hold for brighter or darker. The guest card by the door shows it.'],
    byPhone: 0.9,
    check: 'Shown once, done once by the customer.',
    carry: [],
    minutes: 10,
    opens: false,
    payer: 'customer',
  }),
  cause('lampDead', 'use', 4, 'the lamp has failed', {
    shows: { dead: 9, flickers: 1, comesAndGoes: 1 },
    steps: ['Switch off, let the lamp cool, and put in one that works elsewhere. No ladder: leave it to us.'],
    byPhone: 0.9,
    check: 'Another lamp lights.',
    carry: ['lamp'],
    minutes: 10,
    opens: false,
    payer: 'customer',
  }),
  cause('lampUnsuited', 'use', 4, 'lamps were changed for some that do not go with it', {
    shows: { flickers: 9, wontDim: 4, buzzes: 2 },
    steps: ['Put the old lamp back, or one that says “dimmable”, and try again.'],
    byPhone: 0.6,
    check: 'A lamp of the list of the model, in the same place.',
    carry: ['lamp', 'bypass'],
    minutes: 20,
    opens: false,
    payer: 'customer',
  }),
  cause('breakerOff', 'supply', 3, 'its {breaker} is off', {
    shows: { dead: 9, offline: 3 },
    steps: [
      'If it was only switched off, and nobody works at the home: switch it on once. If it goes off again: leave it off, and tell us.',
    ],
    byPhone: 0.85,
    check: 'The lever, and why it was off.',
    carry: [],
    minutes: 10,
    opens: false,
    payer: 'customer',
  }),
  cause('otherLoadTrips', 'supply', 2, 'something else on the circuit trips it', {
    ...visit,
    shows: { trips: 7, dead: 2 },
    check: 'Everything unplugged, the {breaker} on, then one after the other.',
    carry: [],
    minutes: 35,
    opens: false,
    payer: 'customer',
  }),
  cause('surge', 'supply', 1, 'a surge has taken it', {
    ...visit,
    shows: { dead: 6, offline: 2, trips: 1, staysOn: 1 },
    check: 'Dead with line and neutral there; others that died in the same hour.',
    carry: ['device'],
    minutes: 40,
    opens: true,
    payer: 'customer',
  }),
]
