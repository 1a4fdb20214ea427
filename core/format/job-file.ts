import { counted } from '../units/counted'
import { z } from 'zod'
import { plainProblem } from '../stream'
import { breakerStates, sourceKinds } from '../site'
import { loadSchema } from '../job/parts.schema'
import { schemeIds } from '../units'

/** The open job format, version 1: what the office knows of a home before the first visit. */
const key = z.string().regex(/^[a-z0-9][a-z0-9-]{0,39}$/, 'A key is lower-case letters, digits and dashes.')
const text = (max: number) => z.string().trim().max(max)
const name = z.string().trim().min(1).max(80)

export const jobFileSchema = z.strictObject({
  format: z.literal('circuitry.job').describe('Says what this file is.'),
  version: z.literal(1),
  job: z.strictObject({ title: name, note: text(500).default('') }),
  customer: z.strictObject({ name, phone: text(40).default(''), email: z.union([z.email(), z.literal('')]).default('') }),
  site: z.strictObject({
    name: name.describe('What the crew calls the home.'),
    address: text(200).min(3),
    scheme: z.enum(schemeIds).describe('na120: 120/240 V 60 Hz; iec230: 230 V 50 Hz'),
    yearBuilt: z.int().min(1700).max(2100).nullable().default(null),
    doorCode: text(40).default('').describe('Stored encrypted; every reading of it is logged.'),
    sources: z
      .array(z.strictObject({ key, kind: z.enum(sourceKinds), name }))
      .max(6)
      .default([{ key: 'service', kind: 'service', name: 'service' }]),
  }),
  panels: z
    .array(
      z.strictObject({
        key,
        name,
        place: text(80).default(''),
        main: z
          .strictObject({
            number: text(12).min(1).default('main'),
            amps: z.number().positive().max(400).nullable().default(null),
            source: key.default('service'),
          })
          .nullable()
          .default(null),
        fedFrom: z
          .strictObject({ panel: key, breaker: text(12).min(1) })
          .nullable()
          .default(null)
          .describe('For a sub-panel: the breaker that feeds it.'),
        breakers: z
          .array(
            z.strictObject({
              number: text(12).min(1),
              poles: z.int().min(1).max(3).default(1),
              amps: z.number().positive().max(400).nullable().default(null),
              label: text(120).default('').describe('As found; may be wrong or empty.'),
              state: z.enum(breakerStates).default('closed'),
              offLimits: text(200).min(3).nullable().default(null).describe('Why nobody may open it.'),
            }),
          )
          .max(84),
      }),
    )
    .max(12),
  rooms: z.array(z.strictObject({ key, name })).max(80).describe('In walking order from the front door.'),
  boxes: z
    .array(
      z.strictObject({
        key,
        room: key,
        name,
        gangs: z.int().min(1).max(6),
        volumeIn3: z.number().positive().max(500).nullable().default(null),
        depthMm: z.number().positive().max(200).nullable().default(null),
        material: z.enum(['plastic', 'metal', 'unknown']).default('unknown'),
        internalClamps: z.int().min(0).max(8).default(0),
        feeds: z
          .array(z.strictObject({ panel: key, breaker: text(12).min(1) }))
          .max(12)
          .default([]),
        unknownFeed: z.boolean().default(false),
      }),
    )
    .max(200),
  points: z
    .array(
      z.strictObject({
        name,
        room: key,
        load: loadSchema,
        mustRun: z.boolean().default(false),
        controls: z
          .array(z.strictObject({ box: key, gang: z.int().min(1).max(6) }))
          .min(1)
          .max(6),
      }),
    )
    .max(300),
})
export type JobFile = z.infer<typeof jobFileSchema>

/** What is wrong with a file, and where: a path in JSON, a line in CSV. */
export interface FileProblem {
  where: string
  problem: string
}

export type FileReading<T> = { ok: true; value: T } | { ok: false; problems: FileProblem[] }

const path = (parts: readonly PropertyKey[]) =>
  parts
    .map((part) => (typeof part === 'number' ? `[${part}]` : `.${String(part)}`))
    .join('')
    .replace(/^\./, '') || '(file)'

/** References inside the file that lead nowhere, and keys used twice. */
function brokenReferences(file: JobFile): FileProblem[] {
  const problems: FileProblem[] = []
  const say = (where: string, problem: string) => problems.push({ where, problem })
  const unique = (list: { key: string }[], where: string) => {
    const seen = new Set<string>()
    list.forEach((entry, index) =>
      seen.has(entry.key) ? say(`${where}[${index}].key`, `“${entry.key}” is used twice.`) : seen.add(entry.key),
    )
    return seen
  }
  const rooms = unique(file.rooms, 'rooms')
  const boxes = unique(file.boxes, 'boxes')
  unique(file.panels, 'panels')
  const sources = unique(file.site.sources, 'site.sources')
  const breakers = new Set<string>()
  file.panels.forEach((panel, p) =>
    panel.breakers.forEach((breaker, b) => {
      const id = `${panel.key}/${breaker.number}`
      if (breakers.has(id)) say(`panels[${p}].breakers[${b}].number`, `{Breaker} ${breaker.number} is there twice.`)
      breakers.add(id)
    }),
  )
  file.panels.forEach((panel, p) => {
    if (panel.main && !sources.has(panel.main.source)) say(`panels[${p}].main.source`, `There is no source “${panel.main.source}”.`)
    if (panel.fedFrom && !breakers.has(`${panel.fedFrom.panel}/${panel.fedFrom.breaker}`))
      say(`panels[${p}].fedFrom`, `There is no {breaker} ${panel.fedFrom.breaker} in {panel} “${panel.fedFrom.panel}”.`)
    if (panel.fedFrom?.panel === panel.key) say(`panels[${p}].fedFrom`, '{A panel} does not feed itself.')
  })
  const gangs = new Map(file.boxes.map((box) => [box.key, box.gangs]))
  file.boxes.forEach((box, b) => {
    if (!rooms.has(box.room)) say(`boxes[${b}].room`, `There is no room “${box.room}”.`)
    box.feeds.forEach(
      (feed, f) =>
        breakers.has(`${feed.panel}/${feed.breaker}`) ||
        say(`boxes[${b}].feeds[${f}]`, `There is no {breaker} ${feed.breaker} in {panel} “${feed.panel}”.`),
    )
  })
  const taken = new Map<string, string>()
  file.points.forEach((point, p) => {
    if (!rooms.has(point.room)) say(`points[${p}].room`, `There is no room “${point.room}”.`)
    point.controls.forEach((control, c) => {
      const where = `points[${p}].controls[${c}]`
      if (!boxes.has(control.box)) return say(where, `There is no box “${control.box}”.`)
      if (control.gang > gangs.get(control.box)!)
        return say(where, `Box “${control.box}” has ${counted(gangs.get(control.box)!, 'gang')}, not ${control.gang}.`)
      const slot = `${control.box}/${control.gang}`
      if (taken.has(slot) && taken.get(slot) === point.name) say(where, 'The same gang is named twice.')
      taken.set(slot, point.name)
    })
  })
  return problems
}

/** Reads a job file. Everything that is wrong is listed with its path; nothing is half read. */
export function readJobFile(source: string): FileReading<JobFile> {
  let raw: unknown
  try {
    raw = JSON.parse(source)
  } catch (error) {
    return { ok: false, problems: [{ where: '(file)', problem: `This is not JSON: ${(error as Error).message}` }] }
  }
  return checkJobFile(raw)
}

export function checkJobFile(raw: unknown): FileReading<JobFile> {
  const parsed = jobFileSchema.safeParse(raw, { error: plainProblem })
  if (!parsed.success)
    return { ok: false, problems: parsed.error.issues.map((issue) => ({ where: path(issue.path), problem: issue.message })) }
  const problems = brokenReferences(parsed.data)
  return problems.length ? { ok: false, problems } : { ok: true, value: parsed.data }
}

/** JSON Schema of the open job format, from the same schema the import uses. */
export function jobFileJsonSchema(): Record<string, unknown> {
  return { ...z.toJSONSchema(jobFileSchema, { io: 'input' }), title: 'Circuitry job, version 1' }
}
