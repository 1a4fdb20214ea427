import type { StreamKind } from './stream-kinds'
import { jobCommandSchema, jobPayloads } from './job/schemas'
import { siteCommandSchema, sitePayloads } from './site/schemas'

/** What is said to and stored of each kind of record, as schemas. */
export const streamSchemas = {
  site: { command: siteCommandSchema, payloads: sitePayloads },
  job: { command: jobCommandSchema, payloads: jobPayloads },
} satisfies Record<StreamKind, unknown>
