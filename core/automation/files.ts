import Papa from 'papaparse'
import { z } from 'zod'
import { formula, tableIn } from '../format/cells'
import { momentSaid, nameIn, plainTelling } from './describe'
import type { AutomatedHome } from './home'
import { automationFileSchema, type AutomationFile, type Behaviour, type Moment, type Routine, type Sensor } from './model.schema'
import { runPlaces } from './words'

/** What a home does by itself, as an open file: for another program, or another home. */
export function automationFile({ devices, sensors, routines, habits }: AutomatedHome): AutomationFile {
  return {
    ...{ format: 'circuitry.automation', version: 1 },
    devices: devices.map(({ id, name, room }) => ({ id, name, room })),
    behaviours: Object.fromEntries(devices.map(({ id, behaviour }) => [id, behaviour])),
    ...{ sensors, routines, habits },
  }
}

/** The JSON Schema of that file, for whoever writes one. */
export const automationJsonSchema = (): Record<string, unknown> => z.toJSONSchema(automationFileSchema, { io: 'input' })

/** What of a file can be taken in, and what cannot, line by line. */
export interface TakenIn {
  routines: Routine[]
  sensors: Sensor[]
  behaviours: { deviceId: string; behaviour: Behaviour }[]
  problems: string[]
}
const none = (problem: string): TakenIn => ({ routines: [], sensors: [], behaviours: [], problems: [problem] })

/**
 * Reads a file (JSON, or the CSV of schedules) for a home. Devices that the home does not know by their id are known by their
 * name; what names one that is not there is left out, and said. Sensors and routines of another home get ids of their own.
 * @param freshId a new id
 */
export function readAutomation(text: string, home: AutomatedHome, freshId: () => string): TakenIn {
  if (!text.trim()) return none('The file is empty.')
  if (!/^\s*[{[]/.test(text)) return readSchedules(text, home, freshId)
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch {
    return none('This is no JSON that can be read.')
  }
  const parsed = automationFileSchema.safeParse(json)
  if (!parsed.success) {
    const [issue] = parsed.error.issues
    return none(`This is no file of schedules and rules: ${issue!.path.join('.') || 'the whole'}: ${issue!.message}`)
  }
  const file = parsed.data
  const problems: string[] = []
  const ids = new Map<string, string>()
  for (const { id, name } of file.devices) {
    const own = home.devices.find((one) => one.id === id) ?? byName(home.devices, name)
    if (own) ids.set(id, own.id)
  }
  const sensors = file.sensors.map((sensor): Sensor => {
    const own = home.sensors.find((one) => one.id === sensor.id) ?? byName(home.sensors, sensor.name)
    const id = own?.id ?? freshId()
    ids.set(sensor.id, id)
    const there = home.rooms.some((room) => room.id === sensor.roomId)
    return { ...sensor, id, roomId: there ? sensor.roomId : (own?.roomId ?? null) }
  })
  const routines = file.routines.flatMap((routine): Routine[] => {
    const missing = new Set<string>()
    const own = home.routines.find((one) => one.id === routine.id) ?? byName(home.routines, routine.name)
    const named = JSON.parse(JSON.stringify(routine), (key, value: unknown) => {
      const of = (id: string) => {
        const known = ids.get(id)
        if (!known) missing.add(file.devices.find((one) => one.id === id)?.name ?? id)
        return known ?? id
      }
      if (key === 'deviceId' || key === 'sensorId') return of(value as string)
      return key === 'deviceIds' ? (value as string[]).map(of) : value
    }) as Routine
    if (!missing.size) return [{ ...named, id: own?.id ?? freshId() }]
    problems.push(`“${routine.name}” is left out: this home has no ${[...missing].map((name) => `“${name}”`).join(', ')}.`)
    return []
  })
  const behaviours = Object.entries(file.behaviours).flatMap(([id, behaviour]) => {
    const deviceId = ids.get(id)
    return deviceId ? [{ deviceId, behaviour }] : []
  })
  return { routines, sensors, behaviours, problems }
}
const byName = <T extends { name: string }>(list: readonly T[], name: string) =>
  list.find((one) => one.name.trim().toLowerCase() === name.trim().toLowerCase())

const columns = ['name', 'devices', 'on', 'off', 'days', 'level', 'runs'] as const
/** The schedules of a home as a table: its pairs. Devices are separated by semicolons. */
export function schedulesCsv(home: AutomatedHome): string {
  const rows = home.routines.flatMap((one) =>
    one.kind === 'pair'
      ? [
          {
            ...{ name: one.name, devices: one.deviceIds.map((id) => nameIn(home, id)).join('; '), runs: one.runs },
            ...{ on: momentSaid(one.on, plainTelling), off: momentSaid(one.off, plainTelling), level: one.level ?? '' },
            days: one.days.length ? one.days.join(' ') : (one.date ?? ''),
          },
        ]
      : [],
  )
  return Papa.unparse({ fields: [...columns], data: rows.map((row) => columns.map((column) => row[column])) }, { escapeFormulae: formula })
}
/** 06:30, sunset, "20 min before sunrise"; null: none of these. */
export function readMoment(text: string): Moment | null {
  const clock = /^(\d{1,2}):(\d{2})$/.exec(text.trim())
  if (clock) {
    const [hours, minutes] = [Number(clock[1]), Number(clock[2])]
    return hours < 24 && minutes < 60 ? { at: 'clock', minute: hours * 60 + minutes } : null
  }
  const sun = /^(?:(\d{1,3}) ?min (before|after) )?(sunrise|sunset)$/i.exec(text.trim())
  if (!sun || Number(sun[1] ?? 0) > 180) return null
  return {
    at: sun[3]!.toLowerCase() as 'sunrise' | 'sunset',
    offset: Number(sun[1] ?? 0) * (sun[2]?.toLowerCase() === 'before' ? -1 : 1) || 0,
  }
}
/** 1 2 3 or Mon, Tue, or one date. */
function readDays(text: string): { days: number[]; date: string | null } | null {
  const trimmed = text.trim()
  if (/^\d{4}-\d{2}-\d{2}$/.test(trimmed)) return { days: [], date: trimmed }
  if (!trimmed || /^(every day|daily)$/i.test(trimmed)) return { days: [1, 2, 3, 4, 5, 6, 7], date: null }
  const words = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun']
  const days = trimmed
    .split(/[\s,;]+/)
    .map((word) => (/^[1-7]$/.test(word) ? Number(word) : words.indexOf(word.toLowerCase().slice(0, 3)) + 1))
  return days.includes(0) ? null : { days: [...new Set(days)].sort((a, b) => a - b), date: null }
}
/** What must not be one file: more lines than any home has schedules. */
const mostLines = 500
function readSchedules(text: string, home: AutomatedHome, freshId: () => string): TakenIn {
  const { rows, fields } = tableIn(text)
  const lacks = (['name', 'devices', 'on', 'off'] as const).filter((column) => !fields.includes(column))
  if (lacks.length) return none(`This is no table of schedules: it has no column ${lacks.map((one) => `“${one}”`).join(', ')}.`)
  if (rows.length > mostLines) return none(`The table has ${rows.length} lines; ${mostLines} are taken at most.`)
  const problems: string[] = []
  const routines = rows.flatMap((row, index): Routine[] => {
    const left = (why: string): Routine[] => {
      problems.push(`Line ${index + 2} is left out: ${why}`)
      return []
    }
    const of = (column: (typeof columns)[number]) => (row[column] ?? '').trim()
    const name = of('name').slice(0, 60)
    if (!name) return left('it has no name.')
    const wanted = of('devices')
      .split(';')
      .map((one) => one.trim())
      .filter(Boolean)
    const missing = wanted.filter((one) => !byName(home.devices, one))
    if (!wanted.length || missing.length)
      return left(missing.length ? `this home has no ${missing.map((one) => `“${one}”`).join(', ')}.` : 'it names no device.')
    const [on, off, days] = [readMoment(of('on')), readMoment(of('off')), readDays(of('days'))]
    if (!on || !off) return left('on and off are times as 06:30, or “sunset”, or “20 min before sunrise”.')
    if (!days) return left('its days are numbers from 1 for Monday, or Mon, Tue; or one date.')
    const level = of('level') ? Number(of('level')) : null
    if (level !== null && !(Number.isInteger(level) && level >= 1 && level <= 100))
      return left('its level is a whole number from 1 to 100.')
    const runs = runPlaces.find((place) => place === of('runs').toLowerCase()) ?? 'hub'
    const own = byName(home.routines, name)
    const deviceIds = [...new Set(wanted.map((one) => byName(home.devices, one)!.id))]
    return [{ ...{ id: own?.id ?? freshId(), kind: 'pair', name, runs, paused: false, modes: [] }, deviceIds, on, off, ...days, level }]
  })
  return { routines, sensors: [], behaviours: [], problems }
}
