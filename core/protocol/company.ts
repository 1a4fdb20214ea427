import { z } from 'zod'
import { deviceModelSchema, type ListedPart } from '../fit'
import { newPartSchema } from '../fit/part-schema'
import { instrumentKinds } from '../site'
import { branchSettingsSchema, schemeIds } from '../units'
import { idParam, instant, made } from './common'
import { contract } from './contract'
import { viewerSchema } from './people'
import { initials, login, name, password, timezone } from './words'

export const isSetUp = contract({
  route: 'GET /api/setup',
  summary: 'Is there a company yet?',
  access: 'public',
  answer: z.strictObject({
    needed: z.boolean(),
    /** Whoever sets up has to know what the start of the server said. */
    asksCode: z.boolean(),
  }),
})
export const setUp = contract({
  route: 'POST /api/setup',
  summary: 'First company, branch and lead; only while there is none.',
  access: 'public',
  body: z.object({
    company: name,
    branch: name,
    schemeId: z.enum(schemeIds),
    timezone,
    person: z.object({ name, initials, login, password, licensed: z.boolean() }),
    /** What the start of the server said, where it said one. */
    code: z.string().trim().max(60).default(''),
  }),
  answer: z.strictObject({ viewer: viewerSchema }),
})

const branch = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  schemeId: z.enum(schemeIds),
  timezone: z.string(),
  settings: branchSettingsSchema,
})
export type Branch = z.infer<typeof branch>
export const listBranches = contract({
  route: 'GET /api/branches',
  summary: 'Branches with their supply scheme and method.',
  access: 'crew',
  answer: z.strictObject({ branches: z.array(branch) }),
})
export const addBranch = contract({
  route: 'POST /api/branches',
  summary: 'Open a branch.',
  access: ['lead'],
  body: z.object({ name, schemeId: z.enum(schemeIds), timezone }),
  answer: made,
})
export const changeBranch = contract({
  route: 'PATCH /api/branches/:id',
  summary: 'Change a branch or its method.',
  access: ['lead'],
  params: idParam,
  body: z.object({ name: name.optional(), timezone: timezone.optional(), settings: branchSettingsSchema.optional() }),
  answer: made,
})

const catalogueModel = deviceModelSchema.extend({ active: z.boolean() })
export type CatalogueModel = z.infer<typeof catalogueModel>
const newModel = deviceModelSchema.omit({ id: true })
export const listCatalogue = contract({
  route: 'GET /api/catalogue',
  summary: 'Device models of the company.',
  access: 'crew',
  answer: z.strictObject({ catalogue: z.array(catalogueModel) }),
})
export const addModel = contract({
  route: 'POST /api/catalogue',
  summary: 'Add a model.',
  access: ['dispatcher', 'lead'],
  body: newModel,
  answer: made,
})
export const changeModel = contract({
  route: 'PATCH /api/catalogue/:id',
  summary: 'Change a model, or take it out of use.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  body: z.object({ active: z.boolean().optional(), model: newModel.optional() }),
  answer: made,
})

export const listParts = contract({
  route: 'GET /api/parts',
  summary: 'Boxes, plates, connectors and lamps of the company.',
  access: 'crew',
  answer: z.strictObject({ parts: z.array(z.custom<ListedPart>()) }),
})
export const addPart = contract({
  route: 'POST /api/parts',
  summary: 'Add a box, a plate, a connector or a lamp.',
  access: ['dispatcher', 'lead'],
  body: newPartSchema,
  answer: made,
})
export const changePart = contract({
  route: 'PATCH /api/parts/:id',
  summary: 'Change a part, or take it out of use.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  body: z.object({ active: z.boolean().optional(), part: newPartSchema.optional() }),
  answer: made,
})

const instrument = z.strictObject({
  id: z.uuid(),
  branchId: z.uuid(),
  name: z.string(),
  serial: z.string(),
  kind: z.enum(instrumentKinds),
  calibrationDue: z.iso.date(),
  active: z.boolean(),
  lowestStepVolts: z.int().nullable(),
  outOfService: z.boolean(),
  failedWhy: z.string(),
  provedGoodAt: instant.nullable(),
  serviceNote: z.string(),
})
export type Instrument = z.infer<typeof instrument>
const newInstrument = z.object({
  branchId: z.uuid(),
  name,
  serial: z.string().trim().min(1).max(60),
  kind: z.enum(instrumentKinds),
  calibrationDue: z.iso.date(),
  /** Of a two-pole detector: the lowest voltage it shows, V. */
  lowestStepVolts: z.int().min(1).max(400).nullable().default(null),
})
const check = z.object({ source: z.string().trim().min(1).max(80), volts: z.number().min(50).max(1000) })
export const listInstruments = contract({
  route: 'GET /api/instruments',
  summary: 'Testers with their calibration dates.',
  access: 'crew',
  answer: z.strictObject({ instruments: z.array(instrument) }),
})
export const addInstrument = contract({
  route: 'POST /api/instruments',
  summary: 'Add a tester.',
  access: ['dispatcher', 'lead'],
  body: newInstrument,
  answer: made,
})
export const changeInstrument = contract({
  route: 'PATCH /api/instruments/:id',
  summary: 'Change a tester, or take it out of use.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  body: newInstrument.partial().extend({
    active: z.boolean().optional(),
    /** Out of service, with the reason: nobody proves anything with it from now on. */
    failed: z.object({ why: z.string().trim().min(3).max(500) }).optional(),
    /** Back in service: what was done, and that it proved good on two sources. A lead says that. */
    backInService: z
      .object({ done: z.string().trim().min(3).max(500), checks: z.array(check).length(2, 'It proves good on two sources.') })
      .refine(({ checks: [one, two] }) => one!.source.toLowerCase() !== two!.source.toLowerCase(), 'These are two names of one source.')
      .optional(),
  }),
  answer: made,
  leaves: { deed: 'tester' },
})
