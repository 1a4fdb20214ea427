import { z } from 'zod'
import { idSchema } from '../stream/command-envelope'
import { declinables, householdMoves, modeIds, runPlaces, sensorKinds, wallInputs, weatherTurns } from './words'

/**
 * The open model of what a home does by itself: schedules in pairs, rules, loops and simulated presence, what each device does on
 * its own, and how the house is lived in. Times of day are minutes after midnight on the home’s clock.
 */
const minuteOfDay = z.int().min(0).max(1439)
/** What a device is known by: its id, or its id and that of the point of one channel. */
export const deviceIdSchema = z.string().min(1).max(80)
const name = z.string().trim().min(1).max(60)
const daysSchema = z
  .array(z.int().min(1).max(7))
  .max(7)
  .overwrite((days) => [...new Set(days)])
  .describe('Monday is 1. No day: once, on the date.')
const date = z.iso.date()

export const momentSchema = z.discriminatedUnion('at', [
  z.object({ at: z.literal('clock'), minute: minuteOfDay }),
  z.object({ at: z.enum(['sunrise', 'sunset']), offset: z.int().min(-180).max(180).describe('Minutes after it.') }),
])
export type Moment = z.infer<typeof momentSchema>

const minutes = z.int().min(0).max(1440)
export const triggerSchema = z.discriminatedUnion('is', [
  z.object({ is: z.literal('time'), moment: momentSchema, days: daysSchema, date: date.nullable().default(null) }),
  z.object({ is: z.literal('device'), deviceId: deviceIdSchema, on: z.boolean(), forMinutes: minutes }),
  z.object({ is: z.literal('motion'), sensorId: idSchema, seen: z.boolean(), forMinutes: minutes }),
  z.object({ is: z.literal('temperature'), sensorId: idSchema, over: z.boolean(), degrees: z.number().min(-40).max(80) }),
  z.object({ is: z.literal('weather'), turns: z.enum(weatherTurns) }),
  z.object({ is: z.literal('presence'), someone: z.boolean() }),
  z.object({
    is: z.literal('power'),
    deviceId: deviceIdSchema,
    over: z.boolean(),
    watts: z.number().min(0).max(20_000),
    forMinutes: minutes,
  }),
  z.object({ is: z.literal('button'), sensorId: idSchema }),
  z.object({ is: z.literal('household'), does: z.enum(householdMoves) }),
  z.object({ is: z.literal('mode'), mode: z.enum(modeIds) }),
])
export type Trigger = z.infer<typeof triggerSchema>

export const conditionSchema = z.discriminatedUnion('is', [
  z.object({ is: z.literal('between'), from: momentSchema, to: momentSchema }),
  z.object({ is: z.literal('days'), days: daysSchema.min(1) }),
  z.object({ is: z.literal('dark'), dark: z.boolean() }),
  z.object({ is: z.literal('device'), deviceId: deviceIdSchema, on: z.boolean() }),
  z.object({ is: z.literal('mode'), modes: z.array(z.enum(modeIds)).min(1) }),
  z.object({ is: z.literal('presence'), someone: z.boolean() }),
  z.object({
    ...{ is: z.literal('motion'), sensorId: idSchema, seen: z.boolean() },
    forMinutes: minutes.default(0).describe('For so long already: who sits still is seen now and then.'),
  }),
  z.object({ is: z.literal('temperature'), sensorId: idSchema, over: z.boolean(), degrees: z.number().min(-40).max(80) }),
])
export type Condition = z.infer<typeof conditionSchema>

export const actionSchema = z.discriminatedUnion('do', [
  z.object({
    do: z.literal('on'),
    deviceId: deviceIdSchema,
    level: z.int().min(1).max(100).nullable().default(null).describe('Percent; null: as it was.'),
    afterSeconds: z.int().min(0).max(86_400).default(0),
    forSeconds: z.int().min(1).max(86_400).nullable().default(null).describe('Off again by itself: a countdown, or a pulse.'),
  }),
  z.object({ do: z.enum(['off', 'toggle']), deviceId: deviceIdSchema, afterSeconds: z.int().min(0).max(86_400).default(0) }),
  z.object({ do: z.literal('tell'), text: z.string().trim().min(1).max(160) }),
])
export type Action = z.infer<typeof actionSchema>

const routine = {
  id: idSchema,
  name,
  runs: z.enum(runPlaces).describe('What it needs to be alive: the device itself, the hub in the home, or a server behind the internet.'),
  paused: z.boolean().default(false),
  modes: z.array(z.enum(modeIds)).max(4).default([]).describe('Only in these; none: always.'),
}
const deviceIds = z
  .array(deviceIdSchema)
  .min(1)
  .max(60)
  .overwrite((ids) => [...new Set(ids)])
export const routineSchema = z.discriminatedUnion('kind', [
  z.object({
    ...routine,
    kind: z.literal('pair'),
    deviceIds,
    on: momentSchema,
    off: momentSchema,
    days: daysSchema,
    date: date.nullable().default(null),
    level: z.int().min(1).max(100).nullable().default(null),
  }),
  z.object({ ...routine, kind: z.literal('presence'), deviceIds, from: momentSchema, to: momentSchema }),
  z.object({
    ...routine,
    kind: z.literal('loop'),
    deviceIds,
    from: momentSchema,
    to: momentSchema,
    days: daysSchema.min(1),
    onMinutes: z.int().min(1).max(720),
    offMinutes: z.int().min(1).max(720),
  }),
  z.object({
    ...routine,
    kind: z.literal('rule'),
    when: z.array(triggerSchema).min(1).max(8).describe('Any of these.'),
    only: z.array(conditionSchema).max(8).describe('All of these.'),
    then: z.array(actionSchema).min(1).max(20),
  }),
])
export type Routine = z.infer<typeof routineSchema>
export type Rule = Extract<Routine, { kind: 'rule' }>

/** What a device does by itself, whatever any rule says. */
export const behaviourSchema = z.object({
  powerOn: z.enum(['off', 'on', 'last']).describe('After a power interruption.'),
  autoOnMinutes: z.number().positive().max(1440).nullable(),
  autoOffMinutes: z.number().positive().max(1440).nullable(),
  wall: z.enum(wallInputs).describe('What the switch on the wall does to it.'),
  mustRun: z.boolean(),
  offAtMostMinutes: z.int().min(1).max(1440).describe('So long may what must run be off.'),
  indicator: z.enum(['on', 'off', 'night']),
  lowestLevel: z.int().min(1).max(50).nullable().describe('Percent below which it flickers, as calibrated.'),
  fanSteps: z.int().min(1).max(8).nullable(),
})
export type Behaviour = z.infer<typeof behaviourSchema>

export const sensorSchema = z.object({ id: idSchema, name, kind: z.enum(sensorKinds), roomId: idSchema.nullable() })
export type Sensor = z.infer<typeof sensorSchema>

/** How the house is lived in: what the year is played with. */
export const habitsSchema = z.object({
  people: z
    .array(
      z.object({
        name,
        wakes: minuteOfDay,
        leaves: minuteOfDay.nullable().describe('On working days; null: stays in.'),
        returns: minuteOfDay,
        sleeps: minuteOfDay.describe('Before noon: after midnight.'),
      }),
    )
    .max(8),
  weeksAway: z.int().min(0).max(20),
  nightsWithGuests: z.int().min(0).max(200),
  internetOutages: z.int().min(0).max(60).describe('A year.'),
  powerOutages: z.int().min(0).max(60).describe('A year.'),
  hub: z.boolean(),
  declined: z.array(z.enum(declinables)).max(4).describe('Permissions that the household does not give.'),
})
export type Habits = z.infer<typeof habitsSchema>

/** The file: what leaves a job, and what one takes in. Devices and sensors are there with their names. */
export const automationFileSchema = z.object({
  format: z.literal('circuitry.automation'),
  version: z.literal(1),
  devices: z.array(z.object({ id: deviceIdSchema, name: z.string().max(80), room: z.string().max(80) })).max(400),
  sensors: z.array(sensorSchema).max(60),
  routines: z.array(routineSchema).max(200),
  behaviours: z.record(deviceIdSchema, behaviourSchema),
  habits: habitsSchema,
})
export type AutomationFile = z.infer<typeof automationFileSchema>
