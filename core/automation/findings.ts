import { plainTelling, type Telling } from './describe'
import type { AutomatedHome } from './home'
import type { Behaviour, Condition, Moment, Routine, Trigger } from './model.schema'
import { byHand, bySupply, type Change, type Played } from './play'
import { actionsOf, type Program } from './program'
import { declinableWords, type RunPlace } from './words'
import type { HomeDay } from './year'

/** What one can do about it, in one tap: a routine or a behaviour as it would be then, or a routine less. */
export type Fix = { sentence: string } & (
  | { change: 'routine'; routine: Routine }
  | { change: 'behaviour'; deviceId: string; behaviour: Behaviour }
  | { change: 'drop'; routineId: string }
)
export const findingKinds = [
  'mustRunOff',
  'loop',
  'tooMuch',
  'fight',
  'onWithoutOff',
  'putOut',
  'gone',
  'notThere',
  'declined',
  'flickers',
  'offMissed',
  'atTheWall',
  'twoFlips',
  'clockChange',
  'noSun',
  'neverRuns',
] as const
export type FindingKind = (typeof findingKinds)[number]
export interface AutomationFinding {
  kind: FindingKind
  /** What a person would say of it, without the day. */
  sentence: string
  routineIds: string[]
  deviceIds: string[]
  /** When it is first seen in the year, seconds since 1970; null: it is so whatever the year is. */
  at: number | null
  /** On so many days of the year. */
  days: number
  fix: Fix | null
}

const [minute, hour, daySeconds] = [60, 3600, 86_400]
/** What is on for longer than this with nobody’s hand is forgotten, seconds: longer than any winter night. */
const forgotten = 20 * hour
/** Two routines that undo each other within this do not know of each other, seconds. */
const atOnce = 2 * minute
/** What happens on fewer days than this is chance. */
const seldom = 3

/**
 * What goes wrong in a home that does things by itself: each with the first day on which it is seen, how often, and what would mend
 * it. What can be known without playing is found without it.
 * @param played the year of `program`, with the people and the weather that were thrown at it
 */
export function automationFindings(
  home: AutomatedHome,
  days: readonly HomeDay[],
  program: Program,
  played: Played,
  telling: Telling = plainTelling,
): AutomationFinding[] {
  const { clock } = telling
  const byDevice: Change[][] = home.devices.map(() => [])
  for (const change of played.changes) byDevice[change.device]!.push(change)
  const found = [
    ...mustRun(home, played, byDevice),
    ...loops(home, played),
    ...tooMuch(home, played),
    ...fights(home, played, telling),
    ...forgottenOn(home, played, byDevice),
    ...putOut(home, played, clock),
    ...namesGone(home),
    ...cannotRun(home),
    ...flickers(home),
    ...missedOffs(home, played, byDevice),
    ...wallOff(home, played),
    ...twoFlips(home, played),
    ...clockChanges(home, days, program, clock),
    ...withoutSun(home, program, clock),
    ...neverRan(home, program, played),
  ]
  // One routine that never comes to rest is one thing to mend, not four.
  const restless = new Set(found.flatMap(({ kind, routineIds }) => (kind === 'loop' ? routineIds : [])))
  // What cannot run, or not on every day, has its cause told; that it did not run, or has no off then, follows.
  const causes: FindingKind[] = ['gone', 'notThere', 'declined', 'noSun']
  const gone = new Set(found.flatMap(({ kind, routineIds }) => (causes.includes(kind) ? routineIds : [])))
  return found
    .filter(({ kind, routineIds }) => kind === 'loop' || !routineIds.some((id) => restless.has(id)))
    .filter(({ kind, routineIds }) => !(kind === 'neverRuns' || kind === 'onWithoutOff') || !routineIds.some((id) => gone.has(id)))
    .sort((a, b) => findingKinds.indexOf(a.kind) - findingKinds.indexOf(b.kind) || b.days - a.days)
}

const daysOf = (list: readonly { at: number }[]) => new Set(list.map(({ at }) => Math.floor(at / daySeconds))).size
/** When something was first seen, and on how many days. */
const seenOn = (list: readonly { at: number }[]) => ({
  at: list.length ? Math.min(...list.map(({ at }) => at)) : null,
  days: daysOf(list),
})
const quoted = (name: string) => `“${name}”`
/** By a key, in the order of their coming. */
function grouped<T>(list: readonly T[], keyOf: (one: T) => string): T[][] {
  const groups = new Map<string, T[]>()
  for (const one of list) {
    const key = keyOf(one)
    const group = groups.get(key)
    if (group) group.push(one)
    else groups.set(key, [one])
  }
  return [...groups.values()]
}
const pause = (routine: Routine): Fix => ({
  sentence: `Pause ${quoted(routine.name)}`,
  change: 'routine',
  routine: { ...routine, paused: true },
})
const behave = ({ id, behaviour }: AutomatedHome['devices'][number], sentence: string, part: Partial<Behaviour>): Fix => ({
  ...{ sentence, change: 'behaviour', deviceId: id },
  behaviour: { ...behaviour, ...part },
})

const turnsOff = (routine: Routine, id: string) =>
  actionsOf(routine).some((one) => one.deviceId === id && (one.do !== 'on' || one.forSeconds !== null))

function mustRun({ devices, routines }: AutomatedHome, { to }: Played, byDevice: readonly Change[][]): AutomationFinding[] {
  return devices.flatMap((device, index): AutomationFinding[] => {
    const { behaviour, id, name } = device
    if (!behaviour.mustRun) return []
    const found: AutomationFinding[] = []
    const own = byDevice[index]!
    const offs = own.flatMap((change, turn) => {
      const until = own[turn + 1]?.at ?? to
      return !change.on && until - change.at > behaviour.offAtMostMinutes * minute ? [{ ...change, lasts: until - change.at }] : []
    })
    const same = { kind: 'mustRunOff' as const, deviceIds: [id] }
    const longest = (list: { lasts: number }[]) => spanWords(Math.max(...list.map(({ lasts }) => lasts)))
    const limit = spanWords(behaviour.offAtMostMinutes * minute)
    if (behaviour.powerOn !== 'on') {
      const after = offs.filter(({ by }) => by === bySupply)
      found.push({
        ...{ ...same, routineIds: [], ...seenOn(after) },
        sentence: `${quoted(name)} must run, and does not come back on by itself after a power interruption.`,
        fix: behave(device, 'On after every power interruption', { powerOn: 'on' }),
      })
    }
    const byPeople = offs.filter(({ by }) => by === byHand)
    if (byPeople.length)
      found.push({
        ...{ ...same, routineIds: [], ...seenOn(byPeople) },
        sentence: `${quoted(name)} must run, and stays off for up to ${longest(byPeople)} when somebody switches it off: ${limit} are allowed.`,
        fix: behave(device, `On again by itself after ${limit}`, { autoOnMinutes: behaviour.offAtMostMinutes }),
      })
    for (const group of grouped(
      offs.filter(({ by }) => by >= 0),
      ({ by }) => String(by),
    )) {
      const routine = routines[group[0]!.by]!
      found.push({
        ...{ ...same, routineIds: [routine.id], ...seenOn(group) },
        sentence: `${quoted(routine.name)} switches ${quoted(name)} off for up to ${longest(group)}, and it must run: ${limit} are allowed.`,
        fix: withoutDevice(routine, id, name),
      })
    }
    return found
  })
}
function withoutDevice(routine: Routine, id: string, name: string): Fix {
  const sentence = `Take ${quoted(name)} out of ${quoted(routine.name)}`
  if (routine.kind === 'rule') {
    const then = routine.then.filter((one) => one.do === 'tell' || one.deviceId !== id)
    return then.length ? { sentence, change: 'routine', routine: { ...routine, then } } : drop(routine)
  }
  const deviceIds = routine.deviceIds.filter((one) => one !== id)
  return deviceIds.length ? { sentence, change: 'routine', routine: { ...routine, deviceIds } } : drop(routine)
}
const drop = (routine: Routine): Fix => ({ sentence: `Delete ${quoted(routine.name)}`, change: 'drop', routineId: routine.id })

/** A lamp that was found to flicker below a level is put there. */
function flickers({ devices, routines }: AutomatedHome): AutomationFinding[] {
  return routines.flatMap((routine) => {
    if (routine.paused) return []
    const tooLow = devices.flatMap((device) => {
      const { lowestLevel } = device.behaviour
      const levels = actionsOf(routine).flatMap((one) => (one.do === 'on' && one.deviceId === device.id ? (one.level ?? []) : []))
      const level = Math.min(...levels)
      return lowestLevel !== null && level < lowestLevel ? [{ device, lowestLevel, level }] : []
    })
    if (!tooLow.length) return []
    const atLeast = (deviceId: string, level: number | null) =>
      level === null ? null : Math.max(level, tooLow.find(({ device }) => device.id === deviceId)?.lowestLevel ?? 0)
    const raised = (): Routine =>
      routine.kind === 'rule'
        ? {
            ...routine,
            then: routine.then.map((one) => (one.do === 'on' ? { ...one, level: atLeast(one.deviceId, one.level) } : one)),
          }
        : routine.kind === 'pair'
          ? { ...routine, level: tooLow.reduce((level, { device }) => atLeast(device.id, level), routine.level) }
          : routine
    return [
      {
        ...{ kind: 'flickers' as const, routineIds: [routine.id], deviceIds: tooLow.map(({ device }) => device.id), at: null, days: 0 },
        sentence: `${quoted(routine.name)} puts ${tooLow
          .map(({ device, level, lowestLevel }) => `${quoted(device.name)} at ${level} %, and it flickers below ${lowestLevel} %`)
          .join('; ')}.`,
        fix: { sentence: `${quoted(routine.name)} no lower than that`, change: 'routine', routine: raised() },
      },
    ]
  })
}

/** It switches so much that the year was not played to its end: what is wrong later is not seen. */
function tooMuch({ devices }: AutomatedHome, { cutShort, changes, to }: Played): AutomationFinding[] {
  if (!cutShort) return []
  const often = devices.map(() => 0)
  for (const { device } of changes) often[device]!++
  const most = devices[often.indexOf(Math.max(1, ...often))]
  return [
    {
      ...{ kind: 'tooMuch', routineIds: [], deviceIds: most ? [most.id] : [], at: to, days: 1 },
      sentence: `There is more in it than can be played for a year${most ? `; most of it switches ${quoted(most.name)}` : ''}. What goes wrong after that day is not seen: mend what comes so often, and look again.`,
      fix: null,
    },
  ]
}

function loops({ devices, routines }: AutomatedHome, played: Played): AutomationFinding[] {
  return grouped(played.loops, ({ routines: ones, device }) => [...ones, `d${device}`].join(' ')).map((group) => {
    const itself = devices[group[0]!.device ?? -1]
    if (itself)
      return {
        ...{ kind: 'loop', routineIds: [], deviceIds: [itself.id] },
        ...seenOn(group),
        sentence: `${quoted(itself.name)} switches itself on and off again without end.`,
        fix: itself.behaviour.mustRun
          ? behave(itself, 'No more off by itself', { autoOffMinutes: null })
          : behave(itself, 'No more on by itself', { autoOnMinutes: null }),
      }
    const ones = group[0]!.routines.map((index) => routines[index]!)
    return {
      ...{ kind: 'loop', routineIds: ones.map(({ id }) => id), deviceIds: [] },
      ...seenOn(group),
      sentence:
        ones.length > 1
          ? `${ones.map(({ name }) => quoted(name)).join(' and ')} set each other off and never come to rest.`
          : `${quoted(ones[0]?.name ?? '')} sets itself off and never comes to rest.`,
      fix: ones.length ? pause(ones.at(-1)!) : null,
    }
  })
}

/** One routine undoes what another did a moment ago, again and again. */
function fights({ devices, routines }: AutomatedHome, { changes }: Played, telling: Telling): AutomationFinding[] {
  const clashes: { pair: string; a: number; b: number; device: number; at: number }[] = []
  const last: (Change | undefined)[] = []
  /** So many turns in a row, none longer than an hour. */
  const row: number[] = []
  for (const change of changes) {
    const before = last[change.device]
    last[change.device] = change
    const turned = before && before.on !== change.on && before.by >= 0 && change.by >= 0 && before.by !== change.by
    row[change.device] = turned && change.at - before.at <= hour ? (row[change.device] ?? 0) + 1 : 0
    if (!turned) continue
    // A thermometer is read a few times an hour: what goes to and fro with it is slower than what is switched.
    const flutters = row[change.device]! >= 3 && apart(routines[before.by]!, routines[change.by]!, telling) !== null
    if ((change.at - before.at > atOnce && !flutters) || sameEye(routines[before.by]!, routines[change.by]!)) continue
    const [a, b] = [Math.min(before.by, change.by), Math.max(before.by, change.by)]
    clashes.push({ pair: `${a} ${b} ${change.device}`, a, b, device: change.device, at: change.at })
  }
  return grouped(clashes, ({ pair }) => pair).flatMap((group): AutomationFinding[] => {
    if (daysOf(group) < seldom) return []
    const { a, b, device } = group[0]!
    const [one, other] = [routines[a]!, routines[b]!]
    return [
      {
        ...{ kind: 'fight', routineIds: [one.id, other.id], deviceIds: [devices[device]!.id] },
        ...seenOn(group),
        sentence: `${quoted(one.name)} and ${quoted(other.name)} fight over ${quoted(devices[device]!.name)}: one undoes what the other did moments before.`,
        fix: apart(one, other, telling) ?? pause(other),
      },
    ]
  })
}
/** On when somebody comes and off when nobody is there any more: who comes back at once makes no fight of it. */
function sameEye(one: Routine, other: Routine): boolean {
  if (one.kind !== 'rule' || other.kind !== 'rule') return false
  return one.when.some(
    (a) => a.is === 'motion' && other.when.some((b) => b.is === 'motion' && b.sensorId === a.sensorId && b.seen !== a.seen),
  )
}
/** On over so many degrees and off under as many never rests: two degrees lie between them. */
function apart(one: Routine, other: Routine, telling: Telling): Fix | null {
  if (one.kind !== 'rule' || other.kind !== 'rule') return null
  const [a, b] = [one.when.find(({ is }) => is === 'temperature'), other.when.find(({ is }) => is === 'temperature')]
  if (a?.is !== 'temperature' || b?.is !== 'temperature' || a.sensorId !== b.sensorId || a.over === b.over) return null
  const degrees = a.degrees + (b.over ? 2 : -2)
  const when = other.when.map((trigger): Trigger => (trigger === b ? { ...b, degrees } : trigger))
  return { sentence: `Let ${quoted(other.name)} wait for ${telling.degrees(degrees)}`, change: 'routine', routine: { ...other, when } }
}

function forgottenOn({ devices, routines }: AutomatedHome, { missed, to }: Played, byDevice: readonly Change[][]): AutomationFinding[] {
  const found: AutomationFinding[] = []
  const active = routines.filter(({ paused }) => !paused)
  devices.forEach((device, index) => {
    if (device.behaviour.mustRun) return
    const own = byDevice[index]!
    const stays = own.flatMap((change, turn) => {
      if (!change.on || change.by < 0 || (turn > 0 && own[turn - 1]!.on)) return []
      for (let next = turn + 1; next < own.length; next++) {
        const { at, on, by } = own[next]!
        // The supply that fails ends it, unless it is on again when that is back.
        if (!on && !(by === bySupply && own[next + 1]?.by === bySupply)) return [{ ...change, lasts: at - change.at, until: at }]
        // A hand in between is somebody who lives with it.
        if (by === byHand) return []
      }
      return [{ ...change, lasts: to - change.at, until: to }]
    })
    for (const group of grouped(stays, ({ by }) => String(by))) {
      const routine = routines[group[0]!.by]!
      if (routine.kind === 'rule' && routine.when.every(({ is }) => is === 'button')) continue
      const never = device.behaviour.autoOffMinutes === null && !active.some((one) => turnsOff(one, device.id))
      // A summer is warm for weeks: who waits for the weather waits as long as it takes.
      const patient = routine.kind === 'rule' && routine.when.every(({ is }) => is === 'temperature' || is === 'weather')
      const long = patient ? [] : group.filter(({ lasts }) => lasts > forgotten)
      // Where the off was there and its place was down, that is what is told.
      const wanting = long.filter(
        ({ at, until }) => !missed.some((one) => one.at > at && one.at < until && turnsOff(routines[one.routine]!, device.id)),
      )
      if (!never && daysOf(wanting) < seldom) continue
      const of = never ? group : wanting
      found.push({
        ...{ kind: 'onWithoutOff', routineIds: [routine.id], deviceIds: [device.id] },
        ...seenOn(of),
        sentence: never
          ? `${quoted(routine.name)} switches ${quoted(device.name)} on, and nothing ever switches it off.`
          : `${quoted(routine.name)} switches ${quoted(device.name)} on, and it stays on for up to ${spanWords(Math.max(...wanting.map(({ lasts }) => lasts)))}: no off follows on those days.`,
        fix: sameDays(routine, device.id, active) ?? behave(device, 'Off by itself after 4 hours', { autoOffMinutes: 240 }),
      })
    }
  })
  return found
}
/** A rule that switches on by the clock has a mate that switches off on other days: it gets the same ones. */
function sameDays(routine: Routine, id: string, all: Routine[]): Fix | null {
  if (routine.kind !== 'rule') return null
  const days = routine.when.find(({ is }) => is === 'time')
  if (days?.is !== 'time') return null
  for (const other of all) {
    if (other.id === routine.id || other.kind !== 'rule' || !turnsOff(other, id)) continue
    const index = other.when.findIndex((one) => one.is === 'time' && days.days.some((day) => !one.days.includes(day)))
    if (index < 0) continue
    const time = other.when[index] as Trigger & { is: 'time' }
    const when = other.when.map((one, at): Trigger =>
      at === index ? { ...time, days: [...new Set([...time.days, ...days.days])].sort(), date: null } : one,
    )
    return { sentence: `${quoted(other.name)} on the same days`, change: 'routine', routine: { ...other, when } }
  }
  return null
}

function putOut({ devices, routines, sensors, habits }: AutomatedHome, played: Played, clock: Telling['clock']): AutomationFinding[] {
  return grouped(played.putOut, ({ routine, device }) => `${routine} ${device}`).flatMap((group): AutomationFinding[] => {
    if (daysOf(group) < seldom) return []
    const { routine: index, device: at } = group[0]!
    const [routine, device] = [routines[index]!, devices[at]!]
    return [
      {
        ...{ kind: 'putOut', routineIds: [routine.id], deviceIds: [device.id], ...seenOn(group) },
        sentence: `${quoted(routine.name)} puts ${quoted(device.name)} out while somebody is in the room, in the dark.`,
        fix: kinder(routine, device, sensors, habits, clock),
      },
    ]
  })
}
/** Longer than anybody sits still; and so long after the last of them goes to bed, minutes. */
const [longStill, abed] = [20, 30]
function kinder(
  routine: Routine,
  { roomId }: AutomatedHome['devices'][number],
  sensors: AutomatedHome['sensors'],
  { people }: AutomatedHome['habits'],
  clock: Telling['clock'],
): Fix | null {
  if (routine.kind === 'rule') {
    const waits = routine.when.findIndex((one) => one.is === 'motion' && !one.seen && one.forMinutes < longStill)
    if (waits >= 0) {
      const when = routine.when.map((one, at): Trigger => (at === waits && one.is === 'motion' ? { ...one, forMinutes: longStill } : one))
      return { sentence: `Wait ${longStill} minutes without movement`, change: 'routine', routine: { ...routine, when } }
    }
    const eye = sensors.find((one) => one.kind === 'motion' && one.roomId !== null && one.roomId === roomId)
    const watched = eye && routine.only.some((one) => one.is === 'motion' && one.sensorId === eye.id)
    if (eye && !watched && routine.only.length < 8) {
      const only: Condition[] = [...routine.only, { is: 'motion', sensorId: eye.id, seen: false, forMinutes: longStill }]
      return {
        sentence: `Only when ${quoted(eye.name)} has seen nobody for ${longStill} minutes`,
        change: 'routine',
        routine: { ...routine, only },
      }
    }
  }
  if (!people.length) return pause(routine)
  // After midnight is later than before it.
  const lastBed = Math.max(...people.map(({ sleeps }) => (sleeps < 720 ? sleeps + 1440 : sleeps)))
  const minute = (lastBed + abed) % 1440
  const later: Moment = { at: 'clock', minute }
  const sentence = `At ${clock(minute)}, when everybody is in bed`
  if (routine.kind === 'pair') return { sentence, change: 'routine', routine: { ...routine, off: later } }
  if (routine.kind === 'rule' && routine.when.some(({ is }) => is === 'time')) {
    const when = routine.when.map((one): Trigger => (one.is === 'time' ? { ...one, moment: later } : one))
    return { sentence, change: 'routine', routine: { ...routine, when } }
  }
  return pause(routine)
}

/** Devices and sensors that a routine names and the home has no more. */
function namesGone({ devices, sensors, routines }: AutomatedHome): AutomationFinding[] {
  const known = new Set([...devices, ...sensors].map(({ id }) => id))
  return routines.flatMap((routine): AutomationFinding[] => {
    if (routine.paused || namedBy(routine).every((id) => known.has(id))) return []
    const left = without(routine, known)
    return [
      {
        ...{ kind: 'gone', routineIds: [routine.id], deviceIds: [], at: null, days: 0 },
        sentence: `${quoted(routine.name)} names a device or sensor that is not in this home any more.`,
        fix: left ? { sentence: 'Keep what is left of it', change: 'routine', routine: left } : drop(routine),
      },
    ]
  })
}
function namedBy(routine: Routine): string[] {
  if (routine.kind !== 'rule') return routine.deviceIds
  return [...routine.when, ...routine.only, ...routine.then].flatMap((one) => [
    ...('deviceId' in one ? [one.deviceId] : []),
    ...('sensorId' in one ? [one.sensorId] : []),
  ])
}
function without(routine: Routine, known: ReadonlySet<string>): Routine | null {
  const there = (one: object) => Object.entries(one).every(([key, value]) => !/^(device|sensor)Id$/.test(key) || known.has(value as string))
  if (routine.kind !== 'rule') {
    const deviceIds = routine.deviceIds.filter((id) => known.has(id))
    return deviceIds.length ? { ...routine, deviceIds } : null
  }
  // A condition that is gone must not let through what it held back.
  if (!routine.only.every(there)) return null
  const [when, then] = [routine.when.filter(there), routine.then.filter(there)]
  return when.length && then.length ? { ...routine, when, then } : null
}

/** What a routine needs of where it runs, and of the people. */
function cannotRun({ devices, routines, habits }: AutomatedHome): AutomationFinding[] {
  const found: AutomationFinding[] = []
  const add = (kind: 'notThere' | 'declined', routine: Routine, sentence: string, fix: Fix | null) =>
    found.push({ kind, routineIds: [routine.id], deviceIds: [], at: null, days: 0, sentence, fix })
  const elsewhere: RunPlace = habits.hub ? 'hub' : 'cloud'
  const moved = (routine: Routine): Fix => ({
    ...{ sentence: habits.hub ? 'Run it in the hub' : 'Run it behind the internet', change: 'routine' },
    routine: { ...routine, runs: elsewhere },
  })
  for (const routine of routines) {
    if (routine.paused) continue
    if (routine.runs === 'hub' && !habits.hub)
      add('notThere', routine, `${quoted(routine.name)} runs in the hub, and this home has none.`, moved(routine))
    const own = new Set(actionsOf(routine).map(({ deviceId }) => deviceId))
    const hears =
      routine.kind === 'rule' &&
      ([...routine.when, ...routine.only].some((one) => 'sensorId' in one || ('deviceId' in one && !own.has(one.deviceId))) ||
        routine.when.some(({ is }) => is === 'presence' || is === 'mode' || is === 'weather' || is === 'household') ||
        routine.only.some(({ is }) => is === 'presence' || is === 'mode') ||
        routine.then.some((one) => one.do === 'tell'))
    if (routine.runs === 'device' && (own.size > 1 || hears || routine.kind === 'presence' || routine.modes.length))
      add('notThere', routine, `${quoted(routine.name)} cannot run in a device: it needs more than that device knows.`, moved(routine))
    if (routine.kind !== 'rule') continue
    const needs = (what: 'location' | 'notifications') => habits.declined.includes(what)
    const declined = (what: 'location' | 'notifications') =>
      add(
        'declined',
        routine,
        `${quoted(routine.name)} will not run: the household does not allow ${declinableWords[what]}.`,
        pause(routine),
      )
    if (needs('location') && [...routine.when, ...routine.only].some(({ is }) => is === 'presence')) declined('location')
    else if (needs('notifications') && routine.then.every((one) => one.do === 'tell')) declined('notifications')
  }
  // A device that no longer is there is told of elsewhere.
  return found.filter(() => devices.length > 0)
}

/** An off that did not come, because what it runs in was down, and what stayed on for it. */
function missedOffs(
  { devices, routines, habits }: AutomatedHome,
  { missed, to }: Played,
  byDevice: readonly Change[][],
): AutomationFinding[] {
  const kept = missed.flatMap(({ at, routine: index, why }) => {
    // Without a hub it never comes: that is told elsewhere.
    if (why === 'hub') return []
    const routine = routines[index]!
    return devices.flatMap((device, position) => {
      if (device.behaviour.mustRun || !turnsOff(routine, device.id)) return []
      const own = byDevice[position]!
      const now = own.findLast((change) => change.at <= at)
      // After a power failure it is off then, and comes back on.
      const next = own.find((change) => change.at > at)
      const comesBack = why === 'mains' && now && !now.on && next?.on && next.by === bySupply
      const from = now?.on ? at : comesBack ? next.at : null
      if (from === null || (now?.on && now.by === byHand)) return []
      const until = own.find((change) => change.at > from && !change.on)?.at ?? to
      return until - from > 3 * hour ? [{ at, routine, device, why, lasts: until - from }] : []
    })
  })
  return grouped(kept, ({ routine, device, why }) => `${routine.id} ${device.id} ${why}`).map((group) => {
    const { routine, device, why } = group[0]!
    const line = why === 'mains' ? 'the power failed' : 'the internet was out'
    return {
      ...{ kind: 'offMissed', routineIds: [routine.id], deviceIds: [device.id] },
      ...seenOn(group),
      sentence: `${quoted(device.name)} stayed on for up to ${spanWords(Math.max(...group.map(({ lasts }) => lasts)))}: ${line} when ${quoted(routine.name)} should have switched it off.`,
      fix:
        why === 'internet' && habits.hub
          ? { sentence: 'Run it in the hub', change: 'routine', routine: { ...routine, runs: 'hub' } }
          : why === 'mains' && device.behaviour.powerOn !== 'off'
            ? behave(device, 'Off after a power interruption', { powerOn: 'off' })
            : behave(device, 'Off by itself after 6 hours', { autoOffMinutes: 360 }),
    }
  })
}

function wallOff({ devices, routines }: AutomatedHome, { lost }: Played): AutomationFinding[] {
  return grouped(lost, ({ device }) => String(device)).flatMap((group): AutomationFinding[] => {
    if (daysOf(group) < seldom) return []
    const device = devices[group[0]!.device]!
    return [
      {
        ...{ kind: 'atTheWall', deviceIds: [device.id], ...seenOn(group) },
        routineIds: [...new Set(group.map(({ routine }) => routines[routine]!.id))],
        sentence: `${quoted(device.name)} does not answer: its wall switch had taken its supply away.`,
        fix: behave(device, 'Feed it all the time, and let the wall switch only tell it', { wall: 'toggle' }),
      },
    ]
  })
}
function twoFlips({ devices }: AutomatedHome, { twice }: Played): AutomationFinding[] {
  return grouped(twice, ({ device }) => String(device)).flatMap((group): AutomationFinding[] => {
    const days = daysOf(group)
    const device = devices[group[0]!.device]!
    if (days < seldom || device.behaviour.wall !== 'edge') return []
    return [
      {
        ...{ kind: 'twoFlips', routineIds: [], deviceIds: [device.id], ...seenOn(group) },
        sentence: `The wall switch of ${quoted(device.name)} has to be flipped twice after a routine has changed it.`,
        fix: behave(device, 'Let every flip change it', { wall: 'toggle' }),
      },
    ]
  })
}

/** What stands in an hour that the clock leaves out, or shows twice. */
function clockChanges(
  { routines }: AutomatedHome,
  days: readonly HomeDay[],
  { timed, skipped }: Program,
  clock: Telling['clock'],
): AutomationFinding[] {
  const missing = skipped.filter(({ why }) => why === 'noSuchMinute').map((one) => ({ ...one, twice: false }))
  const again = timed.filter((one) => one.again).map(({ routine, at }) => ({ routine, date: dateAt(days, at), twice: true }))
  return grouped([...missing, ...again], ({ routine }) => String(routine)).map((group) => {
    const routine = routines[group[0]!.routine]!
    const [lacks, doubles] = [group.some(({ twice }) => !twice), group.some(({ twice }) => twice)]
    return {
      ...{ kind: 'clockChange', routineIds: [routine.id], deviceIds: [], days: group.length },
      at: days.find(({ date }) => date === group[0]!.date)?.midnight ?? null,
      sentence: `${quoted(routine.name)} ${[lacks ? 'does not run on the night when the clock goes forward' : '', doubles ? 'runs twice on the night when the clock goes back' : ''].filter(Boolean).join(', and ')}.`,
      fix: afterChange(routine, days, clock),
    }
  })
}
const dateAt = (days: readonly HomeDay[], at: number) => days.findLast(({ midnight }) => midnight <= at)?.date ?? ''
/** The same, five minutes after every hour that is left out or shown twice. */
function afterChange(routine: Routine, days: readonly HomeDay[], clock: Telling['clock']): Fix | null {
  const hours = days.flatMap(({ change, midnight, begins }) => {
    if (!change) return []
    const before = begins + (change.at - midnight) / minute
    const after = before + change.by / minute
    return [[Math.min(before, after), Math.max(before, after)] as const]
  })
  const end = Math.max(...hours.map(([, to]) => to))
  const moved = (moment: Moment): Moment =>
    moment.at === 'clock' && hours.some(([from, to]) => moment.minute >= from && moment.minute < to)
      ? { at: 'clock', minute: (end + 5) % 1440 }
      : moment
  if (!hours.length) return null
  const as = (changed: Routine): Fix => ({
    sentence: `At ${clock((end + 5) % 1440)}, which every day has once`,
    change: 'routine',
    routine: changed,
  })
  if (routine.kind === 'rule')
    return as({ ...routine, when: routine.when.map((one): Trigger => (one.is === 'time' ? { ...one, moment: moved(one.moment) } : one)) })
  if (routine.kind === 'pair') return as({ ...routine, on: moved(routine.on), off: moved(routine.off) })
  return as({ ...routine, from: moved(routine.from), to: moved(routine.to) })
}

function withoutSun({ routines }: AutomatedHome, { skipped }: Program, clock: Telling['clock']): AutomationFinding[] {
  return grouped(
    skipped.filter(({ why }) => why === 'noSun'),
    ({ routine }) => String(routine),
  ).map((group) => {
    const routine = routines[group[0]!.routine]!
    const dates = [...new Set(group.map(({ date }) => date))]
    return {
      ...{ kind: 'noSun', routineIds: [routine.id], deviceIds: [], days: dates.length },
      at: Date.parse(`${dates[0]}T12:00:00Z`) / 1000,
      sentence: `${quoted(routine.name)} waits for a sun that does not rise or set on ${dates.length === 1 ? 'one day' : `${dates.length} days`} of the year.`,
      fix: byClock(routine, clock),
    }
  })
}
/** At the usual hour instead of the sun’s. */
function byClock(routine: Routine, says: Telling['clock']): Fix {
  const clock = (moment: Moment): Moment =>
    moment.at === 'clock' ? moment : { at: 'clock', minute: moment.at === 'sunrise' ? 7 * 60 : 18 * 60 }
  const as = (changed: Routine): Fix => ({
    sentence: `By the clock: ${says(7 * 60)} for sunrise, ${says(18 * 60)} for sunset`,
    change: 'routine',
    routine: changed,
  })
  if (routine.kind === 'rule')
    return as({ ...routine, when: routine.when.map((one): Trigger => (one.is === 'time' ? { ...one, moment: clock(one.moment) } : one)) })
  if (routine.kind === 'pair') return as({ ...routine, on: clock(routine.on), off: clock(routine.off) })
  return as({ ...routine, from: clock(routine.from), to: clock(routine.to) })
}

function neverRan({ routines, habits }: AutomatedHome, { timed, heard }: Program, played: Played): AutomationFinding[] {
  return routines.flatMap((routine, index): AutomationFinding[] => {
    // Played to a day in spring, it may run in summer.
    if (routine.paused || played.ran[index] || played.cutShort) return []
    if (!timed.some((one) => one.routine === index) && !heard.some((one) => one.routine === index)) {
      const once =
        routine.kind === 'pair'
          ? !routine.days.length
          : routine.kind === 'rule' && routine.when.every((one) => one.is === 'time' && !one.days.length)
      // Once, and not within this year: over, or to come.
      if (once) return []
    }
    // Nobody is ever away, or has guests: it is ready for when they are.
    const modes = routine.kind === 'presence' ? (['away'] as const) : routine.modes
    if (modes.length && modes.every((mode) => (mode === 'away' && !habits.weeksAway) || (mode === 'guests' && !habits.nightsWithGuests)))
      return []
    const against = played.stoppedBy[index]!.map((count, at) => ({ count, at })).sort((a, b) => b.count - a.count)[0]
    const triggered =
      played.stoppedBy[index]!.some(Boolean) || played.stoppedByMode[index]! > 0 || played.missed.some((one) => one.routine === index)
    const held = routine.kind === 'rule' && against?.count ? routine.only[against.at] : null
    return [
      {
        ...{ kind: 'neverRuns', routineIds: [routine.id], deviceIds: [], at: null, days: 0 },
        sentence: !triggered
          ? `${quoted(routine.name)} did not run once in the year: what it waits for never happened.`
          : `${quoted(routine.name)} did not run once in the year: ${held ? 'one of its conditions never holds when it is called' : 'it was never called in its mode'}.`,
        fix:
          held && routine.kind === 'rule'
            ? {
                sentence: 'Without that condition',
                change: 'routine',
                routine: { ...routine, only: routine.only.filter((one) => one !== held) },
              }
            : drop(routine),
      },
    ]
  })
}

/** "14 hours", "35 minutes", "3 days". */
export function spanWords(seconds: number): string {
  const of = (count: number, one: string) => (count === 1 ? `1 ${one}` : `${count} ${one}s`)
  if (seconds < minute) return of(Math.round(seconds), 'second')
  if (seconds < 2 * hour) return of(Math.round(seconds / minute), 'minute')
  return seconds < 2 * daySeconds ? of(Math.round(seconds / hour), 'hour') : of(Math.round(seconds / daySeconds), 'day')
}
