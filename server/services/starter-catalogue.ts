import { plainModel, type DeviceModel, type Termination } from '../../core/fit'

const both = ['na120', 'iec230'] as DeviceModel['schemes']
const na = ['na120'] as DeviceModel['schemes']
const iec = ['iec230'] as DeviceModel['schemes']

/** How these invented makers have conductors made fast. */
const termination = (kind: Termination['kind'], over: Partial<Termination> = {}): Termination => ({
  kind,
  thinnestAwg: 16,
  thickestAwg: 12,
  thinnestMm2: 0.75,
  thickestMm2: 2.5,
  stranded: kind === 'screw' || kind === 'leads',
  holds: kind === 'screw' ? 2 : 1,
  stripMm: kind === 'leads' ? null : 11,
  torqueNm: kind === 'screw' ? 1.6 : kind === 'clamp' ? 1.2 : null,
  ...over,
})
const screws = termination('screw')
const clamps = termination('clamp')
const pushIn = termination('pushIn', { thinnestAwg: 14, thickestAwg: 14, thinnestMm2: 1, thickestMm2: 2.5 })
const leads = termination('leads')
/** Of modules: small clamps that a fat stranded conductor does not enter. */
const small = termination('clamp', { thickestAwg: 14, thickestMm2: 1.5, torqueNm: 0.5, stripMm: 7 })
const control = termination('pushIn', { thinnestAwg: 18, thickestAwg: 16, thinnestMm2: 0.75, thickestMm2: 1, stripMm: 8 })

const hold = (what: string) => [
  'Power on; wait for the first indicator.',
  what,
  'Scan or type the setup code in the customer’s app.',
  'Wait up to two minutes.',
]
const watts = (led: number, filament: number, fan = 0, motor = fan, socket = 0) => ({ led, filament, fan, motor, socket })

type Terminals = DeviceModel['terminals']
const plain: Terminals = ['ground', 'neutral', 'load', 'line']
const multi: Terminals = ['ground', 'neutral', 'common', 'traveler1', 'traveler2']
const sensed: Terminals = ['ground', 'neutral', 'load', 'line', 'sense']
const noNeutral: Terminals = ['load', 'line']
const moduleOf = (...more: Terminals): Terminals => ['neutral', 'load', 'line', ...more]

const signs = (waiting: string, joining: string, joined: string, refused: string, idle: string, more: DeviceModel['signs'] = []) => [
  ...(
    [
      [waiting, 'waiting'],
      [joining, 'joining'],
      [joined, 'joined'],
      [refused, 'refused'],
      [idle, 'idle'],
    ] as const
  ).map(([sign, means]) => ({ sign, means })),
  ...more,
]
/** What hands do at each family of fronts: a switch is switched, a dimmer dims as well. */
const fronts: Record<string, Partial<Record<DeviceModel['kind'], DeviceModel['gestures']>>> = {
  'Harrow Reach': edges(),
  'Sable Yard': edges(),
  'Penwick Row': pressed(),
  'Corran & Fell': pressed(),
  // Behind the old switches, which stay.
  Mossgate: { relayModule: [{ gesture: 'flip', does: 'onOff' }], dimmer: [{ gesture: 'flip', does: 'onOff' }] },
}
type Rest = Partial<Omit<DeviceModel, 'id' | 'maker' | 'name' | 'kind' | 'schemes' | 'terminals' | 'maxWatts'>>
/** Fronts with two ends. */
function edges(): (typeof fronts)[string] {
  const plainFront: DeviceModel['gestures'] = [
    { gesture: 'pressTop', does: 'on' },
    { gesture: 'pressBottom', does: 'off' },
  ]
  return {
    switch: plainFront,
    companion: plainFront,
    dimmer: [
      ...plainFront,
      { gesture: 'holdTop', does: 'brighter' },
      { gesture: 'holdBottom', does: 'darker' },
      { gesture: 'pressTwice', does: 'full' },
    ],
    fanControl: [...plainFront, { gesture: 'holdTop', does: 'faster' }, { gesture: 'holdBottom', does: 'slower' }],
  }
}
/** Fronts of one key. */
function pressed(): (typeof fronts)[string] {
  const plainFront: DeviceModel['gestures'] = [{ gesture: 'press', does: 'onOff' }]
  return {
    switch: plainFront,
    companion: plainFront,
    dimmer: [...plainFront, { gesture: 'hold', does: 'dims' }],
    fanControl: [...plainFront, { gesture: 'hold', does: 'faster' }],
  }
}
/** Every maker has its own first indicator, gesture and family: what differs is said model by model. */
const makers: Record<string, Rest> = {
  'Harrow Reach': {
    restartsBy: 'itself',
    ownNetwork: 'Hold the lower edge 10 seconds until it blinks white and blue; phone onto “HR setup”, then back onto the home’s network.',
    signs: signs('blue, slow blink', 'blue, fast blink', 'white for five seconds', 'amber, twice', 'dark, or as its light is', [
      { sign: 'red, three times', means: 'bound' },
      { sign: 'red, steady', means: 'fault' },
    ]),
    restart: 'Pull the air gap at the lower edge, count to ten, push it in.',
    reset: 'Hold the lower edge 15 seconds until it blinks red three times.',
    family: 'tide',
    radio: 'wifi',
    setupCode: 'openHome',
    firstIndicator: 'one slow white blink',
    pairingSteps: hold('Hold the lower edge 5 seconds until it blinks blue.'),
    pairingWindowMinutes: 15,
    termination: screws,
  },
  'Corran & Fell': {
    restartsBy: 'breaker',
    ownNetwork: '',
    signs: signs('red, second blink', 'red, fast', 'green, once', 'red, four times', 'red, then off', [
      { sign: 'red and green', means: 'noHub' },
    ]),
    restart: 'Open its {breaker} for ten seconds.',
    reset: 'Hold 20 seconds; release at the fourth blink.',
    family: 'breakwater',
    radio: 'hub',
    setupCode: 'plain',
    firstIndicator: 'red, then off',
    pairingSteps: hold('Hold 10 seconds; release at the second blink.'),
    pairingWindowMinutes: 10,
    termination: clamps,
  },
  Mossgate: {
    restartsBy: 'breaker',
    ownNetwork: '',
    signs: signs('blue, pulsing', 'blue, fast', 'blue, steady for ten seconds', 'violet', 'dark', [
      { sign: 'violet, twice', means: 'noHub' },
      { sign: 'yellow', means: 'bound' },
    ]),
    restart: 'Open its {breaker} for ten seconds.',
    reset: 'Flip the old switch ten times within 20 seconds.',
    family: 'mossgate',
    radio: 'mesh',
    setupCode: 'openHome',
    firstIndicator: 'blue, pulsing',
    pairingSteps: hold('Flip the old switch five times within 10 seconds.'),
    pairingWindowMinutes: 10,
    termination: small,
  },
  'Sable Yard': {
    restartsBy: 'itself',
    ownNetwork: 'Tap four times, then hold 3 seconds; phone onto “Sable-setup”, then back onto the home’s network.',
    signs: signs('amber, breathing', 'amber, fast', 'white, one breath', 'amber, three short', 'dark', [
      { sign: 'red, breathing', means: 'bound' },
    ]),
    restart: 'Hold both ends 3 seconds: it breathes white once.',
    reset: 'Tap three times, then hold 10 seconds until it breathes red.',
    family: 'sable',
    radio: 'wifi',
    setupCode: 'openHome',
    firstIndicator: 'two short amber blinks',
    pairingSteps: hold('Tap twice, then hold 3 seconds until it breathes amber.'),
    pairingWindowMinutes: 15,
    termination: leads,
  },
  'Penwick Row': {
    restartsBy: 'itself',
    ownNetwork: '',
    signs: signs('green ring, turning', 'green ring, half', 'green ring, full', 'ring, red half', 'ring out', [
      { sign: 'ring, red turning', means: 'noHub' },
    ]),
    restart: 'Turn the small cam under the front a quarter and back.',
    reset: 'Press both ends together for 20 seconds, until the ring goes out.',
    family: 'penwick',
    radio: 'mesh',
    setupCode: 'openHome',
    firstIndicator: 'a green ring, one turn',
    pairingSteps: hold('Press both ends together for 8 seconds.'),
    pairingWindowMinutes: 12,
    termination: pushIn,
  },
}

const none = {
  setupCode: 'none',
  firstIndicator: 'stays dark',
  pairingSteps: [] as string[],
  pairingWindowMinutes: null,
  restart: '',
  reset: '',
  restartsBy: 'unknown',
  ownNetwork: '',
  signs: [] as DeviceModel['signs'],
} as const
const battery = {
  setupCode: 'openHome',
  firstIndicator: 'one short red blink',
  pairingWindowMinutes: null,
  restartsBy: 'itself',
  ownNetwork: '',
  battery: 'one CR2450',
  batteryYears: 3,
  restart: 'Take the cell out for a minute.',
  reset: 'Put the cell in while all keys are held.',
} as const

/** Invented makers and models, several for each way a point is solved. A company edits them or adds its own. */
export function starterCatalogue(newId: () => string): DeviceModel[] {
  const model = (
    maker: keyof typeof makers & string,
    name: string,
    kind: DeviceModel['kind'],
    schemes: DeviceModel['schemes'],
    terminals: Terminals,
    maxWatts: DeviceModel['maxWatts'],
    [gangsWide, bodyIn3, depthMm]: [number, number, number],
    rest: Rest = {},
  ): DeviceModel => ({
    id: newId(),
    maker,
    name,
    kind,
    schemes,
    terminals,
    maxWatts,
    gangsWide,
    bodyIn3,
    depthMm,
    ...plainModel,
    setupCode: 'plain',
    ...makers[maker],
    gestures: fronts[maker]?.[kind] ?? [],
    ...rest,
  })
  const nothing = watts(0, 0)
  const fins = { besideOne: 0.83, betweenTwo: 0.66 }
  return [
    // 120 V behind a neutral.
    model('Harrow Reach', 'Tide dimmer, with neutral', 'dimmer', na, multi, watts(150, 600), [1, 6.4, 36], {
      multiWay: 'commonTravelers',
      ...fins,
    }),
    model('Harrow Reach', 'Tide dimmer, sensed', 'dimmer', na, sensed, watts(150, 600), [1, 6.4, 36], {
      multiWay: 'sensedTraveler',
      ...fins,
    }),
    model('Harrow Reach', 'Tide dimmer, heavy', 'dimmer', na, plain, watts(300, 1000), [1, 8.2, 44], {
      besideOne: 0.8,
      betweenTwo: 0.65,
      oneGangOnly: false,
    }),
    model('Harrow Reach', 'Tide switch, with neutral', 'switch', na, plain, watts(400, 1000, 250, 250, 1000), [1, 5.8, 34]),
    model('Harrow Reach', 'Tide switch, sensed', 'switch', na, sensed, watts(400, 1000, 250), [1, 6.0, 34], {
      multiWay: 'sensedTraveler',
    }),
    model('Harrow Reach', 'Tide companion', 'companion', na, ['ground', 'neutral', 'sense'], nothing, [1, 4.1, 28], {
      multiWay: 'companion',
      radio: 'none',
      ...none,
    }),
    model('Harrow Reach', 'Tide remote, on the wall', 'companion', na, ['ground'], nothing, [1, 1.2, 14], {
      multiWay: 'companion',
      ownPlate: true,
      ...battery,
      pairingSteps: hold('Pull the tab, then hold the middle 6 seconds.'),
    }),
    model(
      'Harrow Reach',
      'Tide fan and light',
      'fanControl',
      na,
      ['ground', 'neutral', 'load', 'fan', 'line'],
      watts(150, 300, 180),
      [1, 7.2, 39],
      { pairingSteps: hold('Hold both edges 5 seconds until it blinks blue.') },
    ),
    model('Harrow Reach', 'Tide glass dimmer', 'dimmer', na, plain, watts(120, 400), [1, 6.9, 38], { ownPlate: true }),
    model('Sable Yard', 'Slate dimmer', 'dimmer', na, sensed, watts(200, 500), [1, 6.0, 33], { multiWay: 'sensedTraveler', ...fins }),
    model('Sable Yard', 'Slate switch', 'switch', na, sensed, watts(500, 1200, 300, 300, 1200), [1, 5.4, 32], {
      multiWay: 'sensedTraveler',
    }),
    model('Sable Yard', 'Slate companion', 'companion', na, ['ground', 'neutral', 'sense'], nothing, [1, 3.8, 26], {
      multiWay: 'companion',
      radio: 'none',
      ...none,
    }),
    model('Sable Yard', 'Slate fan control', 'fanControl', na, plain, watts(0, 0, 180), [1, 6.6, 37]),
    model(
      'Sable Yard',
      'Slate double switch',
      'switch',
      na,
      ['ground', 'neutral', 'load', 'load2', 'line'],
      watts(250, 600),
      [1, 7.0, 38],
      { channelAmps: 5 },
    ),
    // 120 V without one.
    model('Sable Yard', 'Slate dimmer, no neutral', 'dimmer', na, ['ground', 'load', 'line'], watts(100, 400), [1, 5.8, 33], {
      minWatts: 10,
      needsHub: true,
      radio: 'hub',
      ...fins,
    }),
    model('Penwick Row', 'Rowan switch, no neutral', 'switch', na, ['ground', 'load', 'line'], watts(120, 500), [1, 5.2, 31], {
      minWatts: 15,
      needsHub: true,
      radio: 'hub',
    }),
    model('Penwick Row', 'Rowan dimmer, deep', 'dimmer', na, plain, watts(250, 700), [1, 9.4, 48], { oneGangOnly: true }),
    model('Penwick Row', 'Rowan dimmer', 'dimmer', na, sensed, watts(150, 450), [1, 6.1, 35], { multiWay: 'sensedTraveler', ...fins }),
    model('Penwick Row', 'Rowan companion', 'companion', both, ['ground', 'neutral', 'sense'], nothing, [1, 3.9, 27], {
      multiWay: 'companion',
      radio: 'none',
      ...none,
    }),
    // Both supplies.
    model('Corran & Fell', 'Slipway fan control', 'fanControl', both, plain, watts(0, 0, 180), [1, 6.9, 38], {
      radio: 'wifi',
      firstIndicator: 'two green blinks',
      pairingSteps: hold('Press 3 times, then hold 3 seconds.'),
    }),
    model('Mossgate', 'Relay module, one channel', 'relayModule', both, moduleOf('sense'), watts(300, 1000, 150), [0, 2.3, 20], {
      multiWay: 'sensedTraveler',
    }),
    model(
      'Mossgate',
      'Relay module, two channels',
      'relayModule',
      both,
      moduleOf('load2', 'sense', 'sense2'),
      watts(250, 600, 120),
      [0, 3.0, 22],
      { channelAmps: 5 },
    ),
    model(
      'Mossgate',
      'Relay module, lamp and fan',
      'relayModule',
      both,
      ['neutral', 'load', 'fan', 'line', 'sense', 'sense2'],
      watts(250, 600, 120),
      [0, 3.1, 22],
      { channelAmps: 5, pairingSteps: hold('Flip the first old switch five times within 10 seconds.') },
    ),
    model('Mossgate', 'Metering relay', 'relayModule', both, moduleOf('sense'), watts(300, 1500, 500), [0, 2.6, 21], {
      metering: true,
      channelAmps: 10,
      pairingSteps: hold('Press the small button 3 seconds.'),
    }),
    model('Mossgate', 'Metering relay, 16 A', 'relayModule', both, moduleOf('sense'), watts(600, 2500, 900, 900, 2500), [0, 3.4, 26], {
      metering: true,
      channelAmps: 16,
      termination: clamps,
      pairingSteps: hold('Press the small button 3 seconds.'),
    }),
    model('Mossgate', 'Relay module, two-pole', 'relayModule', both, moduleOf('sense'), watts(300, 1000, 150), [0, 3.2, 24], {
      multiWay: 'sensedTraveler',
      bothPoles: true,
    }),
    model('Mossgate', 'Dimmer module', 'dimmer', both, moduleOf('sense'), watts(150, 300), [0, 2.7, 22], { multiWay: 'sensedTraveler' }),
    model('Corran & Fell', 'Lantern sender, two switches', 'sender', both, ['sense', 'sense2', 'senseReturn'], nothing, [0, 1.4, 12], {
      terminalAwg: 18,
      family: 'lantern',
      ...none,
      termination: control,
    }),
    model('Corran & Fell', 'Lantern sender, one switch', 'sender', both, ['sense', 'senseReturn'], nothing, [0, 1.1, 11], {
      terminalAwg: 18,
      family: 'lantern',
      ...none,
      termination: control,
    }),
    model('Corran & Fell', 'Lantern relay, at the fixture', 'relayModule', both, moduleOf(), watts(200, 500, 100), [0, 2.0, 18], {
      family: 'lantern',
      setupCode: 'openHome',
      firstIndicator: 'green, one second',
      pairingSteps: hold('Power it off and on twice, then flip the wall switch.'),
      termination: small,
    }),
    model('Corran & Fell', 'Lantern relay, metering', 'relayModule', both, moduleOf(), watts(300, 800, 300), [0, 2.4, 20], {
      family: 'lantern',
      metering: true,
      setupCode: 'openHome',
      firstIndicator: 'green, one second',
      pairingSteps: hold('Power it off and on twice, then flip the wall switch.'),
      termination: small,
    }),
    model('Corran & Fell', 'Lantern dimmer, at the fixture', 'dimmer', both, moduleOf(), watts(120, 250), [0, 2.2, 19], {
      family: 'lantern',
      setupCode: 'openHome',
      firstIndicator: 'green, one second',
      pairingSteps: hold('Power it off and on twice, then flip the wall switch.'),
      termination: small,
    }),
    model('Corran & Fell', 'Lantern remote, on the wall', 'companion', both, ['ground'], nothing, [1, 1.0, 12], {
      family: 'lantern',
      multiWay: 'companion',
      ownPlate: true,
      ...battery,
      pairingSteps: hold('Press all four corners in turn.'),
    }),
    // 230 V.
    model('Corran & Fell', 'Breakwater switch, no neutral', 'switch', iec, noNeutral, watts(100, 500), [1, 5.1, 33], {
      minWatts: 5,
      needsHub: true,
    }),
    model('Corran & Fell', 'Breakwater double switch, no neutral', 'switch', iec, ['load', 'load2', 'line'], watts(80, 300), [1, 5.4, 34], {
      minWatts: 5,
      needsHub: true,
      channelAmps: 3,
    }),
    model(
      'Corran & Fell',
      'Breakwater dimmer',
      'dimmer',
      iec,
      ['ground', 'neutral', 'load', 'line', 'sense'],
      watts(150, 300),
      [1, 5.6, 38],
      { multiWay: 'sensedTraveler', setupCode: 'openHome', firstIndicator: 'amber', pairingWindowMinutes: 15, radio: 'wifi' },
    ),
    model('Corran & Fell', 'Breakwater dimmer, no neutral', 'dimmer', iec, noNeutral, watts(100, 250), [1, 5.3, 35], {
      minWatts: 7,
      needsHub: true,
    }),
    model('Corran & Fell', 'Breakwater companion', 'companion', iec, ['line', 'sense'], nothing, [1, 3.6, 28], {
      multiWay: 'companion',
      radio: 'none',
      ...none,
    }),
    model(
      'Corran & Fell',
      'Breakwater switch',
      'switch',
      iec,
      ['neutral', 'load', 'line', 'sense'],
      watts(300, 1500, 400, 400, 2000),
      [1, 5.2, 34],
      { multiWay: 'sensedTraveler', radio: 'wifi' },
    ),
    model(
      'Corran & Fell',
      'Breakwater switch, two-pole',
      'switch',
      iec,
      ['neutral', 'load', 'line'],
      watts(300, 1500, 400, 400, 2000),
      [1, 5.6, 36],
      {
        bothPoles: true,
        radio: 'wifi',
      },
    ),
    model('Penwick Row', 'Rowan switch, flat', 'switch', iec, ['neutral', 'load', 'line', 'sense'], watts(250, 1000, 200), [1, 4.2, 24], {
      multiWay: 'sensedTraveler',
    }),
    model('Penwick Row', 'Rowan dimmer, flat', 'dimmer', iec, ['neutral', 'load', 'line', 'sense'], watts(120, 250), [1, 4.4, 25], {
      multiWay: 'sensedTraveler',
    }),
    model('Penwick Row', 'Rowan glass front, two', 'switch', iec, ['neutral', 'load', 'load2', 'line'], watts(200, 500), [1, 5.0, 30], {
      ownPlate: true,
      channelAmps: 5,
    }),
    model('Penwick Row', 'Rowan fan control', 'fanControl', iec, ['neutral', 'load', 'line'], watts(0, 0, 150), [1, 4.8, 32]),
    model('Penwick Row', 'Rowan remote, on the wall', 'companion', both, ['ground'], nothing, [1, 1.1, 13], {
      multiWay: 'companion',
      ownPlate: true,
      ...battery,
      pairingSteps: hold('Hold the ring 10 seconds.'),
    }),
  ]
}
