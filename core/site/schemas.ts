import type { z } from 'zod'
import { commandSchemaOf, payloadsOf } from '../stream/schemas'
import * as alarm from './alarm/schemas'
import * as box from './box/schemas'
import * as crew from './crew/schemas'
import * as home from './home/schemas'
import * as power from './power/schemas'
import * as proof from './proof/schemas'
import type { SiteCommand } from './stream'
import * as tracing from './tracing/schemas'

const rooms = [home, power, box, proof, alarm, tracing, crew]

/** Everything a person can say about the energy of a site. */
export const siteCommandSchema: z.ZodType<SiteCommand> = commandSchemaOf<SiteCommand>(rooms)
/** What each kind of entry holds, as today's programs write it. */
export const sitePayloads = payloadsOf(rooms)
