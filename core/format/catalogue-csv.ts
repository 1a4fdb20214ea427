import { z } from 'zod'
import type { DeviceModel } from '../fit'
import { deviceModelSchema } from '../fit/device-schema'
import { newPartSchema, partKinds, type NewPart, type Part } from '../fit/part-schema'
import { signMeanings, type SignMeaning } from '../commission/pairing/words'
import { deviceKinds, gestureEffects, gestures, radioKinds, restartWays, terminalKeys, terminationKinds } from '../fit/words'
import { plainProblem } from '../stream/plain-errors'
import { schemeIds } from '../units'
import { list, name, number, optional, pick, pickOrNothing, readRows, says, text, whole, writeRows, yesNo } from './cells'
import type { FileProblem } from './job-file'

/** A sign and what it means, with a colon between. */
const signCell = z.string().transform((cell, context): { sign: string; means: SignMeaning } => {
  const [, sign, means] = /^(.+):\s*(\w+)$/.exec(cell) ?? []
  if (sign && (signMeanings as readonly string[]).includes(means!)) return { sign: sign.trim(), means: means as SignMeaning }
  context.addIssue({ code: 'custom', message: `expects a sign, a colon and one of ${signMeanings.join(', ')}` })
  return z.NEVER
})
/** What hands do, and what comes of it, with a colon between. */
const gestureCell = z.string().transform((cell, context): DeviceModel['gestures'][number] => {
  const [gesture, does] = cell.split(':').map((part) => part.trim())
  const read = deviceModelSchema.shape.gestures.unwrap().element.safeParse({ gesture, does })
  if (read.success) return read.data
  context.addIssue({ code: 'custom', message: `expects one of ${gestures.join(', ')}, a colon and one of ${gestureEffects.join(', ')}` })
  return z.NEVER
})
const modelColumns = {
  maker: name,
  name,
  kind: pick(deviceKinds),
  schemes: list(pick(schemeIds)),
  terminals: list(pick(terminalKeys)),
  gangs_wide: whole,
  body_in3: number,
  depth_mm: number,
  terminal_awg: whole,
  led_w: number,
  filament_w: number,
  fan_w: number,
  motor_w: number,
  socket_w: number,
  min_w: number,
  multi_way: pick(['single', 'commonTravelers', 'sensedTraveler', 'companion'] as const),
  setup_code: pick(['openHome', 'plain', 'none'] as const),
  first_indicator: text(120),
  pairing_steps: list(text(160), '|'),
  pairing_minutes: optional(number),
  needs_hub: yesNo,
  leads_interchangeable: yesNo,
  both_poles: yesNo,
  metering: yesNo,
  channel_amps: optional(number),
  termination: pickOrNothing(terminationKinds),
  thinnest_awg: optional(whole),
  thickest_awg: optional(whole),
  thinnest_mm2: optional(number),
  thickest_mm2: optional(number),
  stranded: yesNo,
  holds: optional(whole),
  strip_mm: optional(number),
  torque_nm: optional(number),
  own_plate: yesNo,
  one_gang_only: yesNo,
  beside_one: number,
  between_two: number,
  family: text(40),
  radio: pick(radioKinds),
  restart: text(160),
  reset: text(160),
  restarts_by: pickOrNothing(restartWays),
  own_network: text(200),
  signs: list(signCell, '|'),
  gestures: list(gestureCell, '|'),
  battery: text(60),
  battery_years: optional(number),
}
const partColumns = {
  kind: pick(partKinds),
  maker: name,
  name,
  schemes: list(pick(schemeIds)),
  gangs: optional(whole),
  volume_in3: optional(number),
  depth_mm: optional(number),
  material: text(20),
  clamps: optional(whole),
  plate: text(20),
  finish: text(40),
  connector: text(20),
  joins: optional(whole),
  body_in3: optional(number),
  stranded: yesNo,
  technology: text(20),
  watts: optional(number),
  dimmable: yesNo,
  power_factor: optional(number),
}

export type NewModel = Omit<DeviceModel, 'id'>
export const modelsCsv = (models: NewModel[]): string =>
  writeRows(
    Object.keys(modelColumns),
    models.map((one) => ({
      ...{ maker: one.maker, name: one.name, kind: one.kind, schemes: one.schemes.join('; '), terminals: one.terminals.join('; ') },
      ...{ gangs_wide: one.gangsWide, body_in3: one.bodyIn3, depth_mm: one.depthMm, terminal_awg: one.terminalAwg },
      ...{ led_w: one.maxWatts.led, filament_w: one.maxWatts.filament, fan_w: one.maxWatts.fan, motor_w: one.maxWatts.motor },
      ...{ socket_w: one.maxWatts.socket, min_w: one.minWatts, multi_way: one.multiWay, setup_code: one.setupCode },
      ...{ first_indicator: one.firstIndicator, pairing_steps: one.pairingSteps.join(' | '), pairing_minutes: one.pairingWindowMinutes },
      ...{ needs_hub: says(one.needsHub), leads_interchangeable: says(one.leadsInterchangeable), both_poles: says(one.bothPoles) },
      ...{ metering: says(one.metering), channel_amps: one.channelAmps, termination: one.termination?.kind ?? '' },
      ...{ thinnest_awg: one.termination?.thinnestAwg, thickest_awg: one.termination?.thickestAwg },
      ...{ thinnest_mm2: one.termination?.thinnestMm2, thickest_mm2: one.termination?.thickestMm2 },
      ...{ stranded: says(one.termination?.stranded ?? false), holds: one.termination?.holds },
      ...{ strip_mm: one.termination?.stripMm, torque_nm: one.termination?.torqueNm },
      ...{ own_plate: says(one.ownPlate), one_gang_only: says(one.oneGangOnly), beside_one: one.besideOne, between_two: one.betweenTwo },
      ...{ family: one.family, radio: one.radio, restart: one.restart, reset: one.reset },
      ...{
        restarts_by: one.restartsBy,
        own_network: one.ownNetwork,
        signs: one.signs.map(({ sign, means }) => `${sign}: ${means}`).join(' | '),
        gestures: one.gestures.map(({ gesture, does }) => `${gesture}: ${does}`).join(' | '),
        battery: one.battery,
        battery_years: one.batteryYears,
      },
    })),
  )

/** What a table gives, and what is wrong in it, by line: lines that are right are given all the same. */
export interface ReadList<T> {
  rows: { line: number; value: T }[]
  problems: FileProblem[]
}
/** Holds a row to the list's own schema; what it finds is said by line. */
function held<T>(
  schema: z.ZodType<T>,
  value: unknown,
  fileName: string,
  line: number,
  problems: FileProblem[],
): { line: number; value: T }[] {
  const read = schema.safeParse(value, { error: plainProblem })
  if (read.success) return [{ line, value: read.data }]
  for (const issue of read.error.issues)
    problems.push({ where: `${fileName}, line ${line}`, problem: `${issue.path.join('.')}: ${issue.message}` })
  return []
}
export function readModelsCsv(source: string): ReadList<NewModel> {
  const problems: FileProblem[] = []
  const rows = readRows(modelColumns, 'models.csv', source, problems, [
    'restarts_by',
    'own_network',
    'signs',
    'gestures',
    'battery',
    'battery_years',
  ]).flatMap(({ line, ...row }) =>
    held(
      deviceModelSchema.omit({ id: true }),
      {
        ...{
          maker: row.maker,
          name: row.name,
          kind: row.kind,
          schemes: row.schemes,
          terminals: row.terminals,
          gangsWide: row.gangs_wide,
        },
        ...{ bodyIn3: row.body_in3, depthMm: row.depth_mm, terminalAwg: row.terminal_awg },
        maxWatts: { led: row.led_w, filament: row.filament_w, fan: row.fan_w, motor: row.motor_w, socket: row.socket_w },
        ...{ minWatts: row.min_w, multiWay: row.multi_way, setupCode: row.setup_code, firstIndicator: row.first_indicator },
        ...{ pairingSteps: row.pairing_steps, pairingWindowMinutes: row.pairing_minutes, needsHub: row.needs_hub },
        ...{ leadsInterchangeable: row.leads_interchangeable, bothPoles: row.both_poles, metering: row.metering },
        channelAmps: row.channel_amps,
        termination: row.termination && {
          ...{ kind: row.termination, thinnestAwg: row.thinnest_awg, thickestAwg: row.thickest_awg },
          ...{ thinnestMm2: row.thinnest_mm2, thickestMm2: row.thickest_mm2, stranded: row.stranded },
          ...{ holds: row.holds ?? 1, stripMm: row.strip_mm, torqueNm: row.torque_nm },
        },
        ...{ ownPlate: row.own_plate, oneGangOnly: row.one_gang_only, besideOne: row.beside_one, betweenTwo: row.between_two },
        ...{ family: row.family, radio: row.radio, restart: row.restart, reset: row.reset },
        ...{ restartsBy: row.restarts_by ?? 'unknown', ownNetwork: row.own_network, signs: row.signs, gestures: row.gestures },
        ...{ battery: row.battery, batteryYears: row.battery_years },
      },
      'models.csv',
      line,
      problems,
    ),
  )
  return { rows, problems }
}

export const partsCsv = (parts: (NewPart | Part)[]): string =>
  writeRows(
    Object.keys(partColumns),
    parts.map((one) => ({
      ...{ kind: one.kind, maker: one.maker, name: one.name, schemes: one.schemes.join('; ') },
      ...('gangs' in one ? { gangs: one.gangs } : {}),
      ...(one.kind === 'box'
        ? { volume_in3: one.volumeIn3, depth_mm: one.depthMm, material: one.material, clamps: one.internalClamps }
        : {}),
      ...(one.kind === 'plate' ? { plate: one.plate, finish: one.finish } : {}),
      ...(one.kind === 'connector'
        ? { connector: one.connector, joins: one.most, body_in3: one.bodyIn3, stranded: says(one.stranded) }
        : {}),
      ...(one.kind === 'lamp'
        ? { technology: one.technology, watts: one.watts, dimmable: says(one.dimmable), power_factor: one.powerFactor }
        : {}),
    })),
  )
export function readPartsCsv(source: string): ReadList<NewPart> {
  const problems: FileProblem[] = []
  const rows = readRows(partColumns, 'parts.csv', source, problems).flatMap(({ line, ...row }) => {
    const of = { kind: row.kind, maker: row.maker, name: row.name, schemes: row.schemes }
    const facts = {
      box: { gangs: row.gangs, volumeIn3: row.volume_in3, depthMm: row.depth_mm, material: row.material, internalClamps: row.clamps ?? 0 },
      plate: { gangs: row.gangs, plate: row.plate, finish: row.finish },
      connector: { connector: row.connector, most: row.joins, bodyIn3: row.body_in3, stranded: row.stranded },
      lamp: { technology: row.technology, watts: row.watts, dimmable: row.dimmable, powerFactor: row.power_factor },
    }[row.kind]
    return held(newPartSchema, { ...of, ...facts }, 'parts.csv', line, problems)
  })
  return { rows, problems }
}
