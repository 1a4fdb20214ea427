import type { z } from 'zod'
import { commandSchemaOf, payloadsOf } from '../stream/schemas'
import * as automation from './automation/schemas'
import * as box from './box/schemas'
import * as callback from './callback/schemas'
import * as handover from './handover/schemas'
import * as link from './link/schemas'
import type { JobCommand } from './stream'
import * as pairing from './pairing/schemas'
import * as part from './part/schemas'
import * as point from './point/schemas'
import * as sale from './sale/schemas'
import * as shop from './shop/schemas'
import * as test from './test/schemas'
import * as unit from './unit/schemas'
import * as verification from './verification/schemas'
import * as visit from './visit/schemas'
import * as wiring from './wiring/schemas'

const rooms = [visit, point, box, wiring, unit, test, handover, callback, sale, part, shop, automation, pairing, link, verification]

/** Everything a person can do to the record of a job. */
export const jobCommandSchema: z.ZodType<JobCommand> = commandSchemaOf<JobCommand>(rooms)
/** What each kind of entry holds, as today's programs write it. */
export const jobPayloads = payloadsOf(rooms)
