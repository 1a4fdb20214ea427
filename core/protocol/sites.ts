import { z } from 'zod'
import type { Directory } from '../site'
import { done, idParam, instant, secret, whyCode } from './common'
import { contract } from './contract'

const siteLine = z.strictObject({ id: z.uuid(), name: z.string(), address: z.string(), branchId: z.uuid() })
export type SiteLine = z.infer<typeof siteLine>
export const listSites = contract({
  route: 'GET /api/sites',
  summary: 'Homes the company knows.',
  access: 'crew',
  answer: z.strictObject({ sites: z.array(siteLine) }),
})
export const siteDirectory = contract({
  route: 'GET /api/sites/:id/directory',
  summary: 'The panel directory of a site: every breaker with what it feeds, confirmed or as found. As JSON, CSV or PDF.',
  access: 'crew',
  params: idParam,
  query: z.object({ format: z.enum(['json', 'csv', 'pdf']).default('json') }),
  answer: z.custom<Directory & { name: string }>(),
  file: 'text/csv or application/pdf',
})
export const readDoorCode = contract({
  route: 'GET /api/sites/:id/door-code',
  summary: 'The door code of a home. Every reading is logged; a dispatcher without a visit there says why.',
  access: 'crew',
  params: idParam,
  query: whyCode,
  answer: secret,
})
export const otherRecord = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  address: z.string(),
  /** same: one home, recorded twice · null: nobody has said yet, and it counts as one home. */
  said: z.literal('same').nullable(),
})
/** Another record with the address of this home, and what somebody said of it. */
export type OtherRecord = z.infer<typeof otherRecord>
export const linkHomes = contract({
  route: 'POST /api/sites/:id/link',
  summary: 'Say whether another record is the same home. Leads and the office.',
  access: 'crew',
  params: idParam,
  body: z.object({ otherId: z.uuid(), said: z.enum(['same', 'other']) }),
  answer: done,
})

const present = z.strictObject({
  personId: z.uuid(),
  place: z.string(),
  /** Their device is connected now; otherwise: last heard of at seenAt. */
  connected: z.boolean(),
  seenAt: instant,
})
export type Present = z.infer<typeof present>
export const whoIsThere = contract({
  route: 'GET /api/sites/:id/presence',
  summary: 'Who is at a site, and where.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({ present: z.array(present) }),
})
export const sayWhere = contract({
  route: 'POST /api/sites/:id/presence',
  summary: 'Say where one is at a site: the walk, the panel or a box.',
  access: 'crew',
  params: idParam,
  body: z.object({ place: z.string().regex(/^(walk|panel|box:[0-9a-f-]{36})$/, 'A place is the walk, the panel or a box.') }),
  answer: done,
})
const watch = z.strictObject({
  siteId: z.uuid(),
  siteName: z.string(),
  personId: z.uuid(),
  name: z.string(),
  contact: z.string(),
  dueAt: instant,
})
/** Somebody who works alone, and when they are to be heard of. */
export type LoneWorkWatch = z.infer<typeof watch>
export const listLoneWorkers = contract({
  route: 'GET /api/solo',
  summary: 'Who works alone, and when each is to be heard of.',
  access: 'crew',
  answer: z.strictObject({ watches: z.array(watch) }),
})
