import { Chance } from '../chance'
import type { AutomatedHome, HomeDevice } from './home'
import type { Mode } from './words'
import { isDark, type HomeDay } from './year'

/** What happens in a home by itself, whatever its routines do. Instants are whole seconds since 1970. */
export type WorldEvent = { at: number } & (
  | { is: 'moves'; roomId: string | null; was: string | null }
  | { is: 'wants'; deviceId: string; on: boolean }
  | { is: 'motion'; sensorId: string; seen: boolean }
  | { is: 'temperature'; sensorId: string; degrees: number }
  | { is: 'weather'; turns: 'rain' | 'dry' | 'frost' | 'wind' }
  | { is: 'household'; does: 'goesToBed' | 'getsUp' }
  | { is: 'presence'; someone: boolean }
  | { is: 'mode'; mode: Mode }
  | { is: 'button'; sensorId: string }
  | { is: 'internet'; up: boolean }
  | { is: 'mains'; up: boolean }
)

const [minute, hour, daySeconds] = [60, 3600, 86_400]
/** Somebody who sits still is not seen for so long, minutes, at most: a chair and a book. Common practice, no source. */
const stillMinutes = 14
/** What must run is switched off by hand so often a year, for its noise. Common practice, no source. */
const quietPlease = 8

interface Person {
  roomId: string | null
  awake: boolean
}

/**
 * A year in a home: people with habits and guests, weather, failing lines. Chance decides within the habits, and a seed plays the
 * same year again. Sorted by time; at one instant in the order in which it is listed.
 */
export function worldOf(home: AutomatedHome, days: readonly HomeDay[], seed: number): WorldEvent[] {
  const chance = new Chance(seed)
  const events: WorldEvent[] = []
  const { habits } = home
  const rooms = home.rooms.map(({ id }) => id)
  const byRoom = new Map<string, HomeDevice[]>()
  for (const device of home.devices) if (device.roomId) byRoom.set(device.roomId, [...(byRoom.get(device.roomId) ?? []), device])
  const motionIn = new Map<string, string[]>()
  for (const { id, kind, roomId } of home.sensors)
    if (kind === 'motion' && roomId) motionIn.set(roomId, [...(motionIn.get(roomId) ?? []), id])
  const away = weeksAway(habits.weeksAway, days.length, chance)
  const guests = new Set(nights(habits.nightsWithGuests, days.length, chance))
  const people: Person[] = habits.people.map(() => ({ roomId: null, awake: false }))
  const bedroom = (index: number) => rooms[(rooms.length - 1 - index + rooms.length * 8) % Math.max(1, rooms.length)] ?? null

  /** Goes somewhere at an instant, lights what is dark and puts out what it leaves, more or less. */
  const goes = (person: Person, at: number, roomId: string | null, day: HomeDay) => {
    if (person.roomId === roomId) return
    // Lamps are wanted a little before it is dark, and a little after.
    const dark = isDark(day, at - 20 * minute) || isDark(day, at + 20 * minute)
    const left = person.roomId
    events.push({ at, is: 'moves', roomId, was: left })
    person.roomId = roomId
    const lights = (id: string | null) => (byRoom.get(id ?? '') ?? []).filter(({ light, behaviour }) => light && behaviour.wall !== 'none')
    if (left && chance.is(0.6) && !people.some((one) => one !== person && one.roomId === left))
      for (const { id } of lights(left)) events.push({ at: at + 4, is: 'wants', deviceId: id, on: false })
    if (roomId && dark && chance.is(0.75)) {
      const [first] = lights(roomId)
      if (first) events.push({ at: at + 6, is: 'wants', deviceId: first.id, on: true })
    }
  }
  /** In a room for a while, seen by its sensors whenever they move. */
  const stays = (roomId: string | null, from: number, to: number) => {
    for (const sensorId of motionIn.get(roomId ?? '') ?? []) {
      for (let at = from + 8; at < to; at += (2 + chance.int(stillMinutes - 2)) * minute) {
        events.push({ at, is: 'motion', sensorId, seen: true })
        events.push({ at: at + minute, is: 'motion', sensorId, seen: false })
      }
    }
  }
  const wanders = (person: Person, from: number, to: number, day: HomeDay) => {
    for (let at = from; at < to;) {
      const until = Math.min(to, at + (20 + chance.int(80)) * minute)
      goes(person, at, rooms.length ? chance.pick(rooms) : null, day)
      stays(person.roomId, at, until)
      at = until
    }
  }

  let mode: Mode | null = null
  const turns = (at: number, to: Mode) => {
    if (mode !== to) events.push({ at, is: 'mode', mode: to })
    mode = to
  }
  let atHome = false
  days.forEach((day, index) => {
    const noon = day.midnight + 12 * hour
    const later = (of: number) => day.midnight + of * minute + (chance.int(31) - 15) * minute
    if (away.has(index)) {
      if (!away.has(index - 1)) {
        const at = day.midnight + 9 * hour
        for (const person of people) goes(person, at, null, day)
        if (atHome) events.push({ at: at + minute, is: 'presence', someone: false })
        atHome = false
        turns(at + 2 * minute, 'away')
      }
      return
    }
    const working = day.weekday <= 5
    /** Who is there from when to when: from getting up to leaving, and from coming back to bed. */
    const spans = habits.people.map(({ wakes, leaves, returns, sleeps }) => {
      const up = later(wakes + (working ? 0 : 60))
      const bed = Math.max(later(sleeps < 720 ? sleeps + 1440 : sleeps), up + 2 * hour)
      if (!working || leaves === null) return { up, bed, out: null, back: null }
      const out = Math.max(up + 20 * minute, later(leaves))
      return { up, bed, out, back: Math.min(Math.max(out + hour, later(returns)), bed - 30 * minute) }
    })
    if (spans.length) {
      const firstUp = Math.min(...spans.map(({ up }) => up))
      if (!atHome) events.push({ at: firstUp - 5 * minute, is: 'presence', someone: true })
      atHome = true
      events.push({ at: firstUp, is: 'household', does: 'getsUp' })
      turns(firstUp, guests.has(index) ? 'guests' : 'home')
      // The last one who is out leaves an empty house, until the first is back.
      const outs = spans.map(({ out }) => out)
      const lastOut = Math.max(...outs.map((out) => out ?? 0))
      const firstBack = Math.min(...spans.map(({ back }) => back ?? Infinity))
      if (outs.every((out) => out !== null) && firstBack > lastOut + 10 * minute) {
        events.push({ at: lastOut + minute, is: 'presence', someone: false })
        events.push({ at: firstBack - minute, is: 'presence', someone: true })
      }
    }
    spans.forEach(({ up, bed, out, back }, who) => {
      const person = people[who]!
      person.awake = true
      wanders(person, up, out ?? bed, day)
      if (out !== null && back !== null) {
        goes(person, out, null, day)
        wanders(person, back, bed, day)
      }
      goes(person, bed, bedroom(who), day)
      stays(person.roomId, bed, bed + 10 * minute)
      for (const device of byRoom.get(person.roomId ?? '') ?? [])
        if (device.light && device.behaviour.wall !== 'none')
          events.push({ at: bed + 10 * minute, is: 'wants', deviceId: device.id, on: false })
      // Asleep nobody is missed by a light.
      events.push({ at: bed + 11 * minute, is: 'moves', roomId: null, was: person.roomId })
      person.roomId = null
      person.awake = false
    })
    if (spans.length) {
      const lastBed = Math.max(...spans.map(({ bed }) => bed)) + 12 * minute
      events.push({ at: lastBed, is: 'household', does: 'goesToBed' })
      turns(lastBed, 'night')
    }
    if (guests.has(index) && rooms.length) {
      const guest: Person = { roomId: null, awake: true }
      const comes = noon + 6 * hour + chance.int(60) * minute
      wanders(guest, comes, comes + 4 * hour, day)
      goes(guest, comes + 4 * hour, null, day)
    }
    for (const { id, kind } of home.sensors)
      if (kind === 'button' && atHome) events.push({ at: noon + (5 + chance.int(4)) * hour + chance.int(3600), is: 'button', sensorId: id })
  })

  weather(home, days, chance, events)
  const [first, last] = [days[0]!.midnight, days.at(-1)!.midnight + daySeconds]
  outages('internet', habits.internetOutages, 12 * hour, first, last, chance, events)
  outages('mains', habits.powerOutages, 4 * hour, first, last, chance, events)
  for (const { id, behaviour } of home.devices) {
    if (!behaviour.mustRun || behaviour.wall === 'none') continue
    const times = Math.round((quietPlease * days.length) / 365)
    for (let turn = 0; turn < times; turn++) events.push({ at: first + chance.int(last - first), is: 'wants', deviceId: id, on: false })
  }
  return events.sort((a, b) => a.at - b.at)
}

function weeksAway(weeks: number, dayCount: number, chance: Chance): Set<number> {
  const found = new Set<number>()
  const wanted = Math.round((weeks * dayCount) / 365)
  for (let turn = 0; turn < wanted; turn++) {
    const begins = chance.int(Math.max(1, dayCount - 8)) + 1
    for (let day = 0; day < 7; day++) found.add(begins + day)
  }
  return found
}
const nights = (count: number, dayCount: number, chance: Chance) =>
  Array.from({ length: Math.round((count * dayCount) / 365) }, () => chance.int(dayCount))

/** Temperatures of a day and a season, with the small noise that every sensor has; rain, wind and frost by spells. */
function weather({ sensors, position }: AutomatedHome, days: readonly HomeDay[], chance: Chance, events: WorldEvent[]) {
  const south = (position?.[1] ?? 1) < 0
  const mean = 24 - Math.abs(position?.[1] ?? 40) * 0.3
  const swing = Math.min(14, Math.abs(position?.[1] ?? 40) * 0.25)
  const thermometers = sensors.filter(({ kind }) => kind === 'temperature')
  let [wet, drift] = [false, 0]
  days.forEach((day) => {
    const season = Math.cos((2 * Math.PI * (dayOfYear(day.date) - (south ? 15 : 197))) / 365)
    drift = drift * 0.7 + (chance.next() - 0.5) * 6
    const outside = mean + swing * season + drift
    if (chance.is(wet ? 0.5 : 0.25)) {
      wet = !wet
      events.push({ at: day.midnight + chance.int(24) * hour, is: 'weather', turns: wet ? 'rain' : 'dry' })
    }
    if (outside < 3) events.push({ at: day.midnight + 4 * hour, is: 'weather', turns: 'frost' })
    if (chance.is(0.08)) events.push({ at: day.midnight + chance.int(24) * hour, is: 'weather', turns: 'wind' })
    for (const { id } of thermometers)
      for (let step = 0; step < 96; step++) {
        const warmth = Math.cos((2 * Math.PI * (step / 4 - 15)) / 24)
        // Indoors follows a third of what is outside.
        const degrees = 20 + (outside - 12) * 0.35 + warmth * 2.5 + (chance.next() - 0.5) * 0.6
        events.push({ at: day.midnight + step * 15 * minute, is: 'temperature', sensorId: id, degrees: Math.round(degrees * 10) / 10 })
      }
  })
}
const dayOfYear = (date: string) => Math.round((Date.parse(date) - Date.parse(`${date.slice(0, 4)}-01-01`)) / (daySeconds * 1000))

function outages(is: 'internet' | 'mains', aYear: number, longest: number, from: number, to: number, chance: Chance, events: WorldEvent[]) {
  const count = Math.round((aYear * (to - from)) / (365 * daySeconds))
  // One in each stretch of the year: two do not meet.
  const stretch = count ? (to - from) / count : 0
  for (let turn = 0; turn < count; turn++) {
    const lasts = 2 * minute + Math.round(chance.next() ** 2 * longest)
    const begins = Math.round(from + turn * stretch + chance.next() * Math.max(0, stretch - lasts - minute))
    events.push({ at: begins, is, up: false }, { at: begins + lasts, is, up: true })
  }
}
