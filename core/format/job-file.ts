import { counted } from '../units/counted'
import { z } from 'zod'
import { plainProblem } from '../stream'
import { breakerStates, sourceKinds } from '../site'
import { fedByItself } from '../site/circle'
import { loadSchema } from '../job/parts.schema'
import { networkSchema, notedSchema, roomPlaceSchema, signalReadingSchema } from '../site/survey.schema'
import { housingKinds, protections } from '../site/survey-words'
import { schemeIds } from '../units'

/** The open job format: what is known of a home, before the first visit or after a survey. `jobFileVersion` is written; older files are read. */
export const jobFileVersion = 2
const key = z.string().regex(/^[a-z0-9][a-z0-9-]{0,39}$/, 'A key is lower-case letters, digits and dashes.')
const text = (max: number) => z.string().trim().max(max)
const name = z.string().trim().min(1).max(80)

const mainSchema = z.strictObject({
  number: text(12).min(1).default('main'),
  amps: z.number().positive().max(400).nullable().default(null),
  source: key.default('service'),
  state: z.enum(breakerStates).default('closed'),
})
/** A breaker as parts of a file name it; `panel` null: a disconnect outside of one. */
const pointSchema = z.strictObject({ panel: key.nullable(), breaker: text(12).min(1) })
const breakerSchema = z.strictObject({
  number: text(12).min(1),
  poles: z.int().min(1).max(3).default(1),
  amps: z.number().positive().max(400).nullable().default(null),
  label: text(120).default('').describe('As found; may be wrong or empty.'),
  state: z.enum(breakerStates).default('closed'),
  offLimits: text(200).min(3).nullable().default(null).describe('Why nobody may open it.'),
  protection: z.enum(protections).default('unknown').describe('What watches its circuit.'),
})
/** Its size stands with the box itself. */
const surveySchema = notedSchema.omit({ volumeIn3: true, depthMm: true, material: true, internalClamps: true }).strict()

export const jobFileSchema = z.strictObject({
  format: z.literal('circuitry.job').describe('Says what this file is.'),
  version: z.literal(jobFileVersion),
  job: z.strictObject({ title: name, note: text(500).default('') }),
  customer: z.strictObject({ name, phone: text(40).default(''), email: z.union([z.email(), z.literal('')]).default('') }),
  site: z.strictObject({
    name: name.describe('What the crew calls the home.'),
    address: text(200).min(3),
    scheme: z.enum(schemeIds).describe('na120: 120/240 V 60 Hz; iec230: 230 V 50 Hz'),
    yearBuilt: z.int().min(1700).max(2100).nullable().default(null),
    housing: z.enum(housingKinds).nullable().default(null),
    builder: text(80).default(''),
    neutralEarthed: z.boolean().nullable().default(null).describe('false: neither conductor is tied to earth; null: not said.'),
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
        main: mainSchema.nullable().default(null),
        otherMains: z.array(mainSchema).max(5).default([]).describe('Points where other sources are switched onto it.'),
        fedFrom: pointSchema.nullable().default(null).describe('For a sub-panel: the breaker that feeds it.'),
        alsoFedFrom: z.array(pointSchema).max(5).default([]).describe('Further breakers that feed it.'),
        breakers: z.array(breakerSchema).max(84),
      }),
    )
    .max(12),
  disconnects: z.array(breakerSchema).max(12).default([]).describe('Switching points outside of a panel.'),
  sharedNeutrals: z.array(z.array(pointSchema).min(2).max(4)).max(40).default([]).describe('Breakers whose circuits share one neutral.'),
  rooms: z
    .array(z.strictObject({ key, name, place: roomPlaceSchema.nullable().default(null) }))
    .max(80)
    .describe('In walking order from the front door.'),
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
        feeds: z.array(pointSchema).max(12).default([]),
        unknownFeed: z.boolean().default(false),
        survey: surveySchema.default({}).describe('What was seen of it. What is left out nobody has looked at.'),
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
        fixture: key.nullable().default(null).describe('The box at its fixture.'),
        controls: z
          .array(z.strictObject({ box: key, gang: z.int().min(1).max(6) }))
          .min(1)
          .max(6),
      }),
    )
    .max(300),
  networks: z
    .array(networkSchema.omit({ networkId: true, roomId: true }).extend({ key, room: key.nullable() }))
    .max(20)
    .default([]),
  signals: z
    .array(
      signalReadingSchema
        .omit({ readingId: true, boxId: true, roomId: true, networkId: true })
        .extend({ box: key.nullable(), room: key.nullable(), network: key.nullable() }),
    )
    .max(300)
    .default([]),
})
export type JobFile = z.infer<typeof jobFileSchema>
/** As one writes it: what has a usual value may be left out. */
export type JobFileText = z.input<typeof jobFileSchema>

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

export type FilePoint = z.infer<typeof pointSchema>
/** A breaker of a file by its place in it. */
export const pointKey = ({ panel, breaker }: FilePoint) => `${panel ?? ''}/${breaker}`
/** What feeds a panel of a file. */
export const feedsOf = ({ fedFrom, alsoFedFrom }: Pick<JobFile['panels'][number], 'fedFrom' | 'alsoFedFrom'>): FilePoint[] => [
  ...(fedFrom ? [fedFrom] : []),
  ...alsoFedFrom,
]

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
  const breakers = new Set<string>(file.disconnects.map(({ number }) => pointKey({ panel: null, breaker: number })))
  if (breakers.size < file.disconnects.length) say('disconnects', 'One number stands there twice.')
  /** Says so where a part names a breaker that is not in the file. */
  const named = (point: FilePoint, where: string) =>
    breakers.has(pointKey(point)) ||
    say(
      where,
      point.panel === null
        ? `There is no disconnect ${point.breaker}.`
        : `There is no {breaker} ${point.breaker} in {panel} “${point.panel}”.`,
    )
  file.panels.forEach((panel, p) =>
    panel.breakers.forEach((breaker, b) => {
      const id = pointKey({ panel: panel.key, breaker: breaker.number })
      if (breakers.has(id)) say(`panels[${p}].breakers[${b}].number`, `{Breaker} ${breaker.number} is there twice.`)
      breakers.add(id)
    }),
  )
  file.panels.forEach((panel, p) => {
    if (panel.main && !sources.has(panel.main.source)) say(`panels[${p}].main.source`, `There is no source “${panel.main.source}”.`)
    panel.otherMains.forEach(
      ({ source }, m) => sources.has(source) || say(`panels[${p}].otherMains[${m}].source`, `There is no source “${source}”.`),
    )
    const mains = [panel.main, ...panel.otherMains].flatMap((main) => main?.number ?? [])
    if (new Set(mains).size < mains.length) say(`panels[${p}].otherMains`, 'Two mains bear one number.')
    if (panel.fedFrom) named(panel.fedFrom, `panels[${p}].fedFrom`)
    panel.alsoFedFrom.forEach((point, f) => named(point, `panels[${p}].alsoFedFrom[${f}]`))
    if (feedsOf(panel).some((point) => point.panel === panel.key)) say(`panels[${p}].fedFrom`, '{A panel} does not feed itself.')
  })
  const circle = fedByItself(
    file.panels.flatMap((panel) =>
      feedsOf(panel).flatMap(({ panel: from }) => (from === null || from === panel.key ? [] : [[from, panel.key] as const])),
    ),
  )
  if (circle !== null) say(`panels[${file.panels.findIndex(({ key }) => key === circle)}].fedFrom`, '{A panel} feeds itself, over others.')
  const fixtures = new Set(file.boxes.flatMap((box) => (box.survey.kind === 'fixture' ? [box.key] : [])))
  file.sharedNeutrals.forEach((tie, t) => tie.forEach((point, b) => named(point, `sharedNeutrals[${t}][${b}]`)))
  const gangs = new Map(file.boxes.map((box) => [box.key, box.gangs]))
  file.boxes.forEach((box, b) => {
    if (!rooms.has(box.room)) say(`boxes[${b}].room`, `There is no room “${box.room}”.`)
    box.feeds.forEach((feed, f) => named(feed, `boxes[${b}].feeds[${f}]`))
  })
  file.boxes.forEach((box, b) =>
    (box.survey.old ?? []).forEach(
      ({ gang }, o) =>
        gang <= box.gangs || say(`boxes[${b}].survey.old[${o}].gang`, `Box “${box.key}” has ${counted(box.gangs, 'gang')}, not ${gang}.`),
    ),
  )
  const networks = unique(file.networks, 'networks')
  file.networks.forEach(({ room }, n) => room === null || rooms.has(room) || say(`networks[${n}].room`, `There is no room “${room}”.`))
  file.signals.forEach((signal, s) => {
    const where = `signals[${s}]`
    if (signal.box !== null && !boxes.has(signal.box)) say(`${where}.box`, `There is no box “${signal.box}”.`)
    if (signal.room !== null && !rooms.has(signal.room)) say(`${where}.room`, `There is no room “${signal.room}”.`)
    if (signal.network !== null && !networks.has(signal.network)) say(`${where}.network`, `There is no network “${signal.network}”.`)
    if (signal.box === null && signal.room === null) say(where, 'A reading was made at a box or in a room: name it.')
    if (signal.dbm === null && signal.bars === null && signal.roundTripMs === null) say(where, 'It says no level.')
  })
  const taken = new Map<string, string>()
  file.points.forEach((point, p) => {
    if (!rooms.has(point.room)) say(`points[${p}].room`, `There is no room “${point.room}”.`)
    if (point.fixture !== null && !fixtures.has(point.fixture))
      say(
        `points[${p}].fixture`,
        boxes.has(point.fixture) ? `Box “${point.fixture}” is not one at a fixture.` : `There is no box “${point.fixture}”.`,
      )
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

/** What turns a file of an older version into one of the next. */
const lifts: Record<number, (file: Record<string, unknown>) => Record<string, unknown>> = {
  // The second adds what a survey sees; nothing of it was known before.
  1: (file) => ({ ...file, version: 2 }),
}
function lifted(raw: unknown): unknown {
  let file = raw as Record<string, unknown>
  while (typeof file === 'object' && file !== null && typeof file.version === 'number' && lifts[file.version])
    file = lifts[file.version]!(file)
  return file
}

export function checkJobFile(source: unknown): FileReading<JobFile> {
  const raw = lifted(source)
  const version = (raw as { version?: unknown } | null)?.version
  if (typeof version === 'number' && version > jobFileVersion)
    return {
      ok: false,
      problems: [{ where: 'version', problem: `This file is of version ${version}; this program reads up to ${jobFileVersion}.` }],
    }
  const parsed = jobFileSchema.safeParse(raw, { error: plainProblem })
  if (!parsed.success)
    return { ok: false, problems: parsed.error.issues.map((issue) => ({ where: path(issue.path), problem: issue.message })) }
  const problems = brokenReferences(parsed.data)
  return problems.length ? { ok: false, problems } : { ok: true, value: parsed.data }
}

/** JSON Schema of the open job format, from the same schema the import uses. */
export function jobFileJsonSchema(): Record<string, unknown> {
  return { ...z.toJSONSchema(jobFileSchema, { io: 'input' }), title: `Circuitry job, version ${jobFileVersion}` }
}
