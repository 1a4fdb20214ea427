import { people } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { listAccessRecord } from '../services/access-record'

export default defineRoute(people.listAccessRecord, ({ viewer, query }) => listAccessRecord(viewer, query))
