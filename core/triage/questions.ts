/** A question, or something that is looked at while the customer is on the telephone. */
export interface Question {
  id: string
  /** As it is read aloud. */
  ask: string
  answers: readonly string[]
  /** Until the answer is there. */
  minutes: number
  /** What it costs the customer’s patience, in minutes. */
  annoyance: number
  /** How often each answer is given where nothing special is the cause. */
  usual: readonly number[]
  /** … and where one of these is. */
  says: Readonly<Record<string, readonly number[]>>
}

const question = (
  id: string,
  ask: string,
  answers: readonly string[],
  [minutes, annoyance]: readonly [number, number],
  usual: readonly number[],
  says: Question['says'],
): Question => ({ id, ask, answers, minutes, annoyance, usual, says })
const of = <T>(ids: readonly string[], value: T): Record<string, T> => Object.fromEntries(ids.map((id) => [id, value]))
const yesNo = ['yes', 'no'] as const
const radio = [
  'routerChanged',
  'wrongBand',
  'weakSignal',
  'internetOut',
  'routerStuck',
  'hubOff',
  'meshHole',
  'isolated',
  'serviceDown',
  'wasReset',
]
const settings = [
  'scheduleWrong',
  'rulesFight',
  'powerOnState',
  'clockWrong',
  'permissionOff',
  'namesClash',
  'voiceUnlinked',
  'accountWrong',
]

/** How often each answer is given under each cause: common practice, no source. A company’s own callbacks move them. */
export const questions: readonly Question[] = [
  question(
    'alone',
    'Is it only this one, or others too?',
    ['only this one', 'some others', 'everything in the app'],
    [0.3, 0],
    [0.88, 0.1, 0.02],
    {
      ...of(['routerChanged', 'routerStuck', 'internetOut', 'serviceDown'], [0.05, 0.25, 0.7]),
      ...of(['accountWrong', 'isolated'], [0.1, 0.25, 0.65]),
      hubOff: [0.05, 0.75, 0.2],
      meshHole: [0.3, 0.65, 0.05],
      weakSignal: [0.65, 0.34, 0.01],
      breakerOff: [0.35, 0.64, 0.01],
      surge: [0.5, 0.48, 0.02],
      ...of(['voiceUnlinked', 'permissionOff', 'clockWrong'], [0.25, 0.45, 0.3]),
      powerOnState: [0.5, 0.48, 0.02],
      ...of(['otherLoadTrips', 'sharedNeutral'], [0.4, 0.58, 0.02]),
      lampUnsuited: [0.7, 0.28, 0.02],
    },
  ),
  question('wall', 'Does the button on the wall switch it now?', yesNo, [0.4, 0], [0.8, 0.2], {
    ...of([...radio, ...settings, 'dimRange', 'lampUnsuited'], [0.96, 0.04]),
    ...of(['earlyFailure', 'neutralLost', 'airGap', 'breakerOff', 'surge'], [0.04, 0.96]),
    otherSwitchOff: [0.06, 0.94],
    lampDead: [0.05, 0.95],
    ...of(['relayWorn', 'swapped', 'shortInBox', 'relayStuck'], [0.12, 0.88]),
    ...of(['supplyWorn', 'looseJoint', 'disturbed'], [0.35, 0.65]),
    ...of(['keyWorn', 'batteryEmpty'], [0.08, 0.92]),
    travelersMixed: [0.5, 0.5],
    otherLoadTrips: [0.3, 0.7],
    gesture: [0.6, 0.4],
  }),
  question(
    'light',
    'Is there a small light on it?',
    ['yes, as usual', 'it blinks, or has another colour', 'none at all'],
    [0.4, 0.1],
    [0.8, 0.08, 0.12],
    {
      ...of(['earlyFailure', 'neutralLost', 'airGap', 'breakerOff', 'surge', 'otherSwitchOff'], [0.05, 0.05, 0.9]),
      batteryEmpty: [0.08, 0.12, 0.8],
      supplyWorn: [0.35, 0.3, 0.35],
      looseJoint: [0.55, 0.1, 0.35],
      swapped: [0.3, 0.15, 0.55],
      disturbed: [0.4, 0.1, 0.5],
      ...of(['shortInBox', 'sharedNeutral', 'otherLoadTrips'], [0.3, 0.05, 0.65]),
      ...of(['routerChanged', 'wrongBand', 'routerStuck'], [0.3, 0.65, 0.05]),
      wasReset: [0.08, 0.9, 0.02],
      weakSignal: [0.65, 0.32, 0.03],
      hubOff: [0.6, 0.38, 0.02],
      tooWarm: [0.6, 0.28, 0.12],
      lampDead: [0.93, 0.03, 0.04],
    },
  ),
  question('appSays', 'Does the app say that it is away, or offline?', yesNo, [0.5, 0.1], [0.15, 0.85], {
    ...of(
      radio.filter((id) => id !== 'internetOut' && id !== 'serviceDown'),
      [0.9, 0.1],
    ),
    ...of(['internetOut', 'serviceDown'], [0.65, 0.35]),
    weakSignal: [0.6, 0.4],
    ...of(['earlyFailure', 'neutralLost', 'airGap', 'breakerOff', 'surge', 'otherSwitchOff'], [0.95, 0.05]),
    ...of(['supplyWorn', 'disturbed', 'swapped'], [0.55, 0.45]),
    ...of(['looseJoint', 'batteryEmpty'], [0.4, 0.6]),
    ...of(['shortInBox', 'otherLoadTrips', 'sharedNeutral'], [0.6, 0.4]),
    accountWrong: [0.45, 0.55],
  }),
  question(
    'router',
    'Was the router, its name, its password or the provider changed since it last worked?',
    yesNo,
    [0.4, 0],
    [0.04, 0.96],
    { routerChanged: [0.93, 0.07], wrongBand: [0.35, 0.65], isolated: [0.4, 0.6], meshHole: [0.12, 0.88], weakSignal: [0.12, 0.88] },
  ),
  question('web', 'Do other things in the home reach the internet now?', yesNo, [0.5, 0.1], [0.98, 0.02], {
    internetOut: [0.06, 0.94],
    routerStuck: [0.35, 0.65],
    routerChanged: [0.92, 0.08],
  }),
  question('outage', 'Was the power away, or a storm about, when it began?', yesNo, [0.3, 0], [0.06, 0.94], {
    surge: [0.9, 0.1],
    powerOnState: [0.85, 0.15],
    breakerOff: [0.35, 0.65],
    ...of(['routerStuck', 'hubOff', 'internetOut'], [0.35, 0.65]),
    relayStuck: [0.15, 0.85],
  }),
  question('hands', 'Has anybody painted, hung a lamp, or worked at the wiring since?', yesNo, [0.3, 0.1], [0.07, 0.93], {
    disturbed: [0.9, 0.1],
    shortInBox: [0.3, 0.7],
    looseJoint: [0.2, 0.8],
    airGap: [0.35, 0.65],
    breakerOff: [0.4, 0.6],
    wasReset: [0.25, 0.75],
    meshHole: [0.3, 0.7],
  }),
  question('lamp', 'Was a lamp there changed since it last worked?', yesNo, [0.3, 0], [0.06, 0.94], {
    lampUnsuited: [0.9, 0.1],
    lampDead: [0.12, 0.88],
    dimRange: [0.3, 0.7],
    disturbed: [0.25, 0.75],
  }),
  question(
    'tab',
    'Below the button is a small tab. Is it pulled out?',
    ['yes, it stood out', 'no, it is in', 'there is none'],
    [0.6, 0.2],
    [0.02, 0.78, 0.2],
    {
      airGap: [0.93, 0.05, 0.02],
    },
  ),
  question(
    'before',
    'Is there another switch for this light, or one at the lamp? Is it on?',
    ['it was off', 'it is on', 'there is none'],
    [0.7, 0.3],
    [0.03, 0.4, 0.57],
    {
      otherSwitchOff: [0.9, 0.07, 0.03],
      travelersMixed: [0.1, 0.88, 0.02],
    },
  ),
  question(
    'lever',
    'Without touching it: does the lever of its {breaker} stand with the others?',
    ['yes', 'no, it is off', 'no, it is in the middle'],
    [1.2, 0.8],
    [0.96, 0.02, 0.02],
    {
      breakerOff: [0.05, 0.85, 0.1],
      ...of(['shortInBox', 'sharedNeutral', 'otherLoadTrips'], [0.3, 0.15, 0.55]),
      surge: [0.75, 0.05, 0.2],
      disturbed: [0.85, 0.08, 0.07],
    },
  ),
  question(
    'always',
    'Is it always so, or only now and then?',
    ['always', 'now and then', 'at certain hours'],
    [0.3, 0],
    [0.85, 0.12, 0.03],
    {
      ...of(['looseJoint', 'supplyWorn', 'weakSignal', 'meshHole', 'tooWarm', 'relayWorn'], [0.2, 0.75, 0.05]),
      scheduleWrong: [0.1, 0.1, 0.8],
      rulesFight: [0.15, 0.5, 0.35],
      clockWrong: [0.15, 0.1, 0.75],
      powerOnState: [0.25, 0.7, 0.05],
      ...of(['namesClash', 'gesture', 'permissionOff'], [0.5, 0.45, 0.05]),
      ...of(['otherLoadTrips', 'sharedNeutral'], [0.3, 0.62, 0.08]),
      ...of(['dimRange', 'batteryEmpty'], [0.6, 0.35, 0.05]),
      keyWorn: [0.5, 0.48, 0.02],
      serviceDown: [0.7, 0.28, 0.02],
    },
  ),
  question('clock', 'When it switches by itself, or fails to: is it at the same time of the day?', yesNo, [0.4, 0.1], [0.1, 0.9], {
    scheduleWrong: [0.92, 0.08],
    clockWrong: [0.85, 0.15],
    rulesFight: [0.4, 0.6],
    permissionOff: [0.3, 0.7],
  }),
  question('level', 'Is it only at the darkest part of its range?', yesNo, [0.6, 0.1], [0.1, 0.9], {
    dimRange: [0.9, 0.1],
    lampUnsuited: [0.45, 0.55],
    looseJoint: [0.05, 0.95],
  }),
  question(
    'otherWay',
    'Turn the other switch of this light the other way. Does it work then?',
    ['yes', 'no', 'there is only one'],
    [0.8, 0.3],
    [0.05, 0.3, 0.65],
    {
      travelersMixed: [0.88, 0.09, 0.03],
      otherSwitchOff: [0.7, 0.2, 0.1],
      relayWorn: [0.08, 0.37, 0.55],
    },
  ),
  question('phones', 'Does another phone of the household reach it?', ['yes', 'no', 'there is none'], [0.8, 0.3], [0.4, 0.3, 0.3], {
    ...of(['accountWrong', 'permissionOff', 'isolated'], [0.72, 0.08, 0.2]),
    ...of(
      ['routerChanged', 'wrongBand', 'hubOff', 'routerStuck', 'wasReset', 'serviceDown', 'earlyFailure', 'otherSwitchOff', 'airGap'],
      [0.03, 0.72, 0.25],
    ),
    weakSignal: [0.15, 0.6, 0.25],
  }),
  question(
    'phrase',
    'Say it as you always do. What happens?',
    ['it does it', 'another one does', 'it does not know it', 'it says that the device does not answer'],
    [0.7, 0.2],
    [0.75, 0.03, 0.1, 0.12],
    {
      namesClash: [0.1, 0.78, 0.1, 0.02],
      voiceUnlinked: [0.02, 0.02, 0.8, 0.16],
      ...of(['internetOut', 'serviceDown'], [0.04, 0.01, 0.35, 0.6]),
      ...of(['routerChanged', 'routerStuck', 'hubOff', 'wrongBand', 'wasReset'], [0.04, 0.02, 0.12, 0.82]),
      weakSignal: [0.45, 0.02, 0.08, 0.45],
    },
  ),
  question('hub', 'Is the hub plugged in, with its light as usual?', ['yes', 'no', 'there is none'], [0.8, 0.3], [0.45, 0.02, 0.53], {
    hubOff: [0.08, 0.9, 0.02],
    meshHole: [0.95, 0.03, 0.02],
  }),
  question(
    'again',
    'Turn it off by its own restart, wait ten seconds, and on again. Is it well then?',
    ['yes, and it stays', 'yes, for a moment', 'no'],
    [1, 0.3],
    [0.03, 0.05, 0.92],
    {
      supplyWorn: [0.3, 0.45, 0.25],
      weakSignal: [0.2, 0.4, 0.4],
      routerStuck: [0.2, 0.1, 0.7],
      wrongBand: [0.12, 0.08, 0.8],
      tooWarm: [0.2, 0.55, 0.25],
      meshHole: [0.25, 0.25, 0.5],
    },
  ),
  question('update', 'Was the phone or the app renewed lately?', yesNo, [0.3, 0.1], [0.15, 0.85], {
    permissionOff: [0.7, 0.3],
    accountWrong: [0.55, 0.45],
    voiceUnlinked: [0.4, 0.6],
    isolated: [0.3, 0.7],
  }),
  question('held', 'Did somebody hold the button for long, or press it many times?', yesNo, [0.4, 0.2], [0.06, 0.94], {
    wasReset: [0.8, 0.2],
    gesture: [0.4, 0.6],
    keyWorn: [0.2, 0.8],
  }),
  question('plugged', 'Does the {breaker} go off when one certain thing is used?', yesNo, [0.5, 0.1], [0.05, 0.95], {
    otherLoadTrips: [0.85, 0.15],
    sharedNeutral: [0.5, 0.5],
    shortInBox: [0.12, 0.88],
  }),
  question('far', 'Does it answer better with the door open, or with the phone near the router?', yesNo, [0.8, 0.4], [0.12, 0.88], {
    weakSignal: [0.6, 0.4],
    meshHole: [0.35, 0.65],
  }),
  question('moved', 'Was a plug, a lamp or a box between it and the router moved or unplugged?', yesNo, [0.4, 0.2], [0.06, 0.94], {
    meshHole: [0.75, 0.25],
    weakSignal: [0.25, 0.75],
    hubOff: [0.4, 0.6],
  }),
  question(
    'whole',
    'Is it dark in the whole room, or do sockets there still work?',
    ['sockets work', 'the whole room is dead'],
    [0.4, 0.1],
    [0.95, 0.05],
    {
      breakerOff: [0.25, 0.75],
      ...of(['otherLoadTrips', 'sharedNeutral', 'shortInBox'], [0.4, 0.6]),
      surge: [0.8, 0.2],
      neutralLost: [0.7, 0.3],
    },
  ),
]

/** Answers as they are told again; what another version asked is left out. */
export const answersInWords = (answers: readonly { question: string; answer: number | null; again?: number | null }[]) =>
  answers.flatMap(({ question, answer, again }) => {
    const asked = questions.find(({ id }) => id === question)
    const value = again ?? answer
    return asked ? [{ id: question, ask: asked.ask, answer: value === null ? 'doesn’t know' : (asked.answers[value] ?? '?') }] : []
  })

/** What ends the questions at once. */
export const redFlags = {
  smell: 'it smells burnt',
  heat: 'the plate is hot',
  arcing: 'it crackles, or buzzes at the wall',
  shock: 'somebody felt a shock',
  tripsAgain: 'the {breaker} went off again after it was switched on',
  water: 'water got in',
  smoke: 'there was smoke, or a scorch mark',
} as const
export type RedFlag = keyof typeof redFlags
export const redFlagIds = Object.keys(redFlags) as RedFlag[]
/** What is read aloud then, in this order. */
export const redFlagWords: readonly string[] = [
  'Touch nothing there, and keep everybody away from it.',
  'If the {breaker} can be reached dry and safely: switch it off once, and leave it off. Do not switch it on again.',
  'Fire, smoke or somebody hurt: leave the home and call the emergency number now.',
  'A licensed person comes today.',
]
